import { describe, expect, test } from '@jest/globals';
import { createHash } from 'node:crypto';
import {
  c4Of,
  directoriesOf,
  generationName,
  ListReader,
  writeChain,
  writeGeneration,
  type ListedFile,
} from './index.ts';

/** Stands for xxh64, which core is given: as long, and any change changes it. */
const hash = (bytes: Uint8Array) => createHash('sha1').update(bytes).digest('hex').slice(0, 16);
const file = (path: string, content = path): ListedFile => ({
  path,
  sizeInBytes: content.length,
  modifiedAt: new Date(Date.UTC(2026, 10, 26)),
  xxh64: hash(new TextEncoder().encode(content)),
  action: 'original',
});
const list = (files: readonly ListedFile[]) =>
  writeGeneration(
    {
      number: 1,
      folderName: 'to colour',
      at: new Date(Date.UTC(2026, 10, 26, 15, 32, 51)),
      host: 'kiln & co',
      tool: { name: 'Legame', version: '0.1.0' },
      process: 'transfer',
      files,
    },
    hash,
  );
const read = (xml: string, piece = 7) => {
  const reader = new ListReader();
  for (let at = 0; at < xml.length; at += piece) if (!reader.add(xml.slice(at, at + piece))) break;
  return reader.end();
};

describe('a hash list', () => {
  test('is read back as it was written, whatever stands in the names, in whatever pieces it comes', () => {
    const files = [file('media/a & b <1>.mov'), file('media/"böwl".mov'), file('cut.otio'), file('leer', '')];
    const result = read(list(files));
    expect(result).toEqual({
      ok: true,
      files: files.map(({ path, sizeInBytes, xxh64 }) => ({ path, sizeInBytes, hashes: { xxh64 } })),
    });
    expect(read(list(files), 1)).toEqual(result);
  });

  test('is named by its number, its folder and when it was made', () => {
    expect(generationName({ number: 2, folderName: 'to colour', at: new Date(Date.UTC(2026, 10, 26, 15, 2, 1)) })).toBe(
      '0002_to colour_2026-11-26_150201Z.mhl',
    );
  });

  test('says of each folder a hash of what is in it and one of how it is called', () => {
    const of = (files: readonly ListedFile[]) => directoriesOf(files, hash);
    const before = of([file('a/x.mov'), file('a/y.mov'), file('b.txt')]);
    expect(before.folders.map(([path]) => path)).toEqual(['a']);
    const renamed = of([file('a/z.mov', 'a/x.mov'), file('a/y.mov'), file('b.txt')]);
    expect(renamed.root.content).toBe(before.root.content);
    expect(renamed.root.structure).not.toBe(before.root.structure);
    const changed = of([file('a/x.mov', 'other'), file('a/y.mov'), file('b.txt')]);
    expect(changed.root.content).not.toBe(before.root.content);
    expect(of([file('b.txt'), file('a/y.mov'), file('a/x.mov')])).toEqual(before);
  });

  test('of the version before is read as well', () => {
    const old = `<?xml version="1.0"?><hashlist version="1.1"><hash><file>A/x.mov</file><size>6</size>
      <xxhash64be>E4C191D091BD8853</xxhash64be></hash></hashlist>`;
    expect(read(old)).toEqual({
      ok: true,
      files: [{ path: 'A/x.mov', sizeInBytes: 6, hashes: { xxh64: 'e4c191d091bd8853' } }],
    });
  });

  test.each<[string, string, object]>([
    ['cut off', '<hashlist version="2.0"><hashes><hash><path>a</path>', { code: 'broken' }],
    ['another document', '<?xml version="1.0"?><html></html>', { code: 'not-a-list' }],
    ['no XML', 'hello', { code: 'broken' }],
    ['empty', '<hashlist version="2.0"><hashes/></hashlist>', { code: 'no-files' }],
    ['a way out', '<hashlist><hash><path>../../etc/passwd</path></hash></hashlist>', { code: 'leads-out' }],
    ['a whole path', '<hashlist><hash><path>/etc/passwd</path></hash></hashlist>', { code: 'leads-out' }],
    ['a drive', '<hashlist><hash><path>C:\\x.mov</path></hash></hashlist>', { code: 'leads-out' }],
    [
      'an entity from elsewhere',
      '<!DOCTYPE x [<!ENTITY e SYSTEM "file:///etc/passwd">]><hashlist><hash><path>&e;</path></hash></hashlist>',
      { code: 'broken' },
    ],
  ])('is refused: %s', (_, xml, fault) => {
    expect(read(xml)).toMatchObject({ ok: false, fault });
  });
});

test('a chain names each generation with the identifier of its content', () => {
  const c4 = c4Of(createHash('sha512').update('').digest());
  expect(c4).toBe('c459dsjfscH38cYeXXYogktxf4Cd9ibshE3BHUo6a58hBXmRQdZrAkZzsWcbWtDg5oQstpDuni4Hirj75GEmTc1sFT');
  expect(c4Of(new Uint8Array(64))).toBe(`c4${'1'.repeat(88)}`);
  expect(writeChain([{ name: '0001_a.mhl', c4 }])).toContain(`<path>0001_a.mhl</path>\n    <c4>${c4}</c4>`);
});

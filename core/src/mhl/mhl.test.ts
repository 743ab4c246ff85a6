import { describe, expect, test } from '@jest/globals';
import { createHash } from 'node:crypto';
import {
  c4Of,
  directoriesOf,
  generationName,
  judge,
  lengthenChain,
  ListReader,
  readChain,
  writeChain,
  writeGeneration,
  type CheckState,
  type HashedFile,
  type ListedFile,
} from './index.ts';
import type { ToJudge } from './judge.ts';

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
  const files: HashedFile[] = [];
  const reader = new ListReader((f) => files.push(f));
  for (let at = 0; at < xml.length; at += piece) if (!reader.add(xml.slice(at, at + piece))) break;
  const result = reader.end();
  return result.ok ? { ...result, files } : result;
};

describe('a hash list', () => {
  test('is read back as it was written, whatever stands in the names, in whatever pieces it comes', () => {
    const files = [file('media/a & b <1>.mov'), file('media/"böwl".mov'), file('cut.otio'), file('leer', '')];
    const result = read(list(files));
    expect(result).toEqual({
      ok: true,
      files: files.map(({ path, sizeInBytes, xxh64 }) => ({
        path,
        previousPath: null,
        sizeInBytes,
        hashes: { xxh64 },
      })),
      about: { madeAt: '2026-11-26T15:32:51+00:00', tool: 'Legame', host: 'kiln & co' },
      ignored: ['.DS_Store', 'ascmhl', 'ascmhl/'],
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

  test('says by what else a file was proven, what it was called, and keeps silent of what had failed', () => {
    const others = { md5: 'd41d8cd98f00b204e9800998ecf8427e', c4: c4Of(new Uint8Array(64)) };
    const moved: ListedFile = { ...file('b/x.mov'), action: 'verified', others, previousPath: 'a/x.mov' };
    const result = read(list([moved, { ...file('c.mov'), action: 'failed' }]));
    expect(result).toMatchObject({
      files: [
        { path: 'b/x.mov', previousPath: 'a/x.mov', hashes: { ...others, xxh64: moved.xxh64 } },
        { path: 'c.mov', hashes: {} },
      ],
    });
  });

  test('of the version before is read as well', () => {
    const old = `<?xml version="1.0"?><hashlist version="1.1"><hash><file>A/x.mov</file><size>6</size>
      <xxhash64be>E4C191D091BD8853</xxhash64be></hash></hashlist>`;
    expect(read(old)).toMatchObject({
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
    [
      'a way out of what it was called',
      '<hashlist><hash><path>a</path><previousPath>../a</previousPath></hash></hashlist>',
      { code: 'leads-out', path: '../a' },
    ],
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
  const chain = writeChain([{ name: '0001_a & b.mhl', c4 }]);
  expect(readChain(chain)).toEqual([{ name: '0001_a & b.mhl', c4 }]);
  const theirs = chain.replace('<path>', '<!-- theirs --><path>');
  const longer = lengthenChain(theirs, { name: '0002_b.mhl', c4 })!;
  expect(readChain(longer)).toEqual([
    { name: '0001_a & b.mhl', c4 },
    { name: '0002_b.mhl', c4 },
  ]);
  expect(longer.startsWith(theirs.slice(0, theirs.indexOf('</ascmhldirectory>')))).toBe(true);
  expect(readChain('<ascmhldirectory><hashlist>')).toBeNull();
  expect(lengthenChain('<html></html>', { name: 'x', c4 })).toBeNull();
});

describe('a file of a set', () => {
  const listed = { sizeInBytes: 4, hashes: { md5: 'm', xxh64: 'x' } };
  const found = { sizeInBytes: 4 };
  test.each<[string, ToJudge, CheckState]>([
    ['is new where no list tells of it', { listed: null, found, hashes: {} }, 'new'],
    ['is missing where nothing lies', { listed, found: null, hashes: {} }, 'missing'],
    ['of another size is changed before it is read', { listed, found: { sizeInBytes: 5 }, hashes: {} }, 'changed'],
    ['waits until its bytes are read', { listed, found, hashes: { md5: 'm' } }, 'waiting'],
    [
      'is verified by the quickest hash that is listed',
      { listed, found, hashes: { xxh64: 'x', md5: 'other' } },
      'verified',
    ],
    ['is changed where that is another', { listed, found, hashes: { xxh64: 'y', md5: 'm' } }, 'changed'],
    [
      'that is listed without a hash is not proven',
      { listed: { sizeInBytes: 4, hashes: {} }, found, hashes: {} },
      'unproven',
    ],
  ])('%s', (_, file, state) => {
    expect(judge(file)).toBe(state);
  });
});

import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { randomBytes } from 'node:crypto';
import { closeSync, mkdirSync, mkdtempSync, openSync, readdirSync, rmSync, writeFileSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { useFence } from '../disk/held.ts';
import { FencedFolder } from '../disk/writing.ts';
import { copyAside, type CopyOptions } from '../media/copying.ts';
import { xxh64Of } from '../media/hashing.ts';
import { chunkInBytes } from '../media/pages.ts';
import { writeZipVerified } from './zip.ts';

const root = mkdtempSync(join(tmpdir(), 'legame-proof-'));
const content = randomBytes(3 * chunkInBytes + 17);
const aside = '.legame-made.part';
const source = { path: root, file: 'take_1.wav' };
const expected = { sizeInBytes: content.length, modifiedMs: null, isFrame: false, fingerprint: null };
let target: FencedFolder;

beforeAll(async () => {
  useFence([root]);
  writeFileSync(join(root, 'take_1.wav'), content);
  mkdirSync(join(root, 'target'));
  target = await FencedFolder.of({ path: join(root, 'target') });
});
afterAll(() => rmSync(root, { recursive: true, force: true }));

const copy = (options: CopyOptions) =>
  copyAside({ source, expected, into: [{ folder: target.ground, aside }] }, options);
const zip = (options: CopyOptions) =>
  writeZipVerified(target, aside, [{ name: 'media/take_1.wav', copy: { source, expected } }], options);

/** Once most was read, of what was written at first one byte becomes another: as on a drive that loses what it is given. */
function losing(): CopyOptions {
  let read = 0;
  let isLost = false;
  return {
    signal: new AbortController().signal,
    onBytes: (bytes) => {
      read += bytes;
      if (isLost || read < content.length) return;
      isLost = true;
      const file = openSync(join(target.path, aside), 'r+');
      writeSync(file, Buffer.from([content[1000]! ^ 1]), 0, 1, 1000);
      closeSync(file);
    },
  };
}
const keeping = (): CopyOptions => ({ signal: new AbortController().signal, onBytes: () => undefined });

test('a copy and a zip that do not read back as they were written are refused, and as they were are proven', async () => {
  await expect(copy(losing())).rejects.toMatchObject({ code: 'reads-back-differently' });
  await target.discard(aside);
  await expect(zip(losing())).rejects.toMatchObject({ code: 'reads-back-differently' });
  expect(readdirSync(target.path)).toEqual([]);
  expect(await copy(keeping())).toMatchObject({ xxh64: xxh64Of(content), sizeInBytes: content.length });
  await target.discard(aside);
  const zipped = await zip({ ...keeping(), also: ['md5'] });
  expect(zipped.parts.get('media/take_1.wav')).toBe(xxh64Of(content));
  expect(zipped.others.md5).toMatch(/^[0-9a-f]{32}$/);
});

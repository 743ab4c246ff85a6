import { afterAll, expect, test } from '@jest/globals';
import { randomBytes } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openPastCache } from '../disk/held.ts';
import { hashesOf, hashOf, xxh64Of } from './hashing.ts';
import { chunkInBytes } from './pages.ts';

const root = mkdtempSync(join(tmpdir(), 'legame-hashing-'));
afterAll(() => rmSync(root, { recursive: true, force: true }));
const signal = new AbortController().signal;

const sizes = [0, 1, 511, 4096, 4097, 200_001, chunkInBytes - 1, chunkInBytes, chunkInBytes + 1, 3 * chunkInBytes + 7];
const made = sizes.map((size, i) => {
  const path = join(root, `take_${i}.wav`);
  const content = randomBytes(size);
  writeFileSync(path, content, { flush: true });
  return { path, size, xxh64: xxh64Of(content) };
});

/** What the disk itself gave this process, as the system counts it. */
const givenByDisk = () => Number(/^read_bytes: (\d+)$/m.exec(readFileSync('/proc/self/io', 'utf8'))![1]);

async function isOnDisk(): Promise<boolean> {
  const memory = [0x01021994, 0x858458f6];
  if (memory.includes(statfsSync(root).type)) return false;
  const file = await open(made[3]!.path);
  const past = await openPastCache(file).catch(() => null);
  await past?.close();
  await file.close();
  return past !== null;
}

test('what was just written is read back from the disk and not from memory, also where its end is odd', async () => {
  for (const { path, size, xxh64 } of made) {
    const file = await open(path);
    const before = givenByDisk();
    const found = await hashesOf(file, ['xxh64', 'md5'], { signal, isProof: true });
    const given = givenByDisk() - before;
    await file.close();
    expect({ size, xxh64: found.xxh64 }).toEqual({ size, xxh64 });
    expect(found.md5).toMatch(/^[0-9a-f]{32}$/);
    if (await isOnDisk()) expect(given).toBeGreaterThanOrEqual(size);
  }
});

test('files hashed at once, some given up in the middle, never get into each other', async () => {
  const hashing = Array.from({ length: 60 }, async (_, i) => {
    const { path, xxh64 } = made[i % made.length]!;
    const stop = new AbortController();
    const file = await open(path);
    let pieces = 0;
    try {
      const onPiece = () => {
        pieces += 1;
        if (i % 3 === 0 && pieces === 2) stop.abort();
      };
      return { xxh64, found: await hashOf(file, { signal: stop.signal, isProof: i % 2 === 0, onPiece }) };
    } catch (error) {
      expect((error as Error).name).toBe('AbortError');
      return null;
    } finally {
      await file.close();
    }
  });
  const done = (await Promise.all(hashing)).filter((one) => one !== null);
  expect(done.length).toBeGreaterThanOrEqual(40);
  for (const { found, xxh64 } of done) expect(found).toBe(xxh64);
});

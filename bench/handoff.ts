import { execFileSync, spawnSync } from 'node:child_process';
import { randomFillSync } from 'node:crypto';
import {
  closeSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  readdirSync,
  rmSync,
  statfsSync,
  statSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { useFence } from '../server/src/disk/held.ts';
import { FencedFolder } from '../server/src/disk/writing.ts';
import { ReaderProcess } from '../server/src/media/readerProcess.ts';
import { ms, say } from './measure.ts';

const files = 8;
const sizeInBytes = 256 * 1024 * 1024;
const lanes = 2;

/**
 * Two gigabytes copied so that they are proven, beside what a careful script does: copy, flush, then hash source and copy
 * as they lie on the disk. Both begin with nothing in the system's cache.
 */
export async function benchHandoff(): Promise<void> {
  const root = mkdtempSync(join(tmpdir(), 'legame-handoff-'));
  try {
    for (const name of ['media', 'script', 'ours']) mkdirSync(join(root, name));
    const second = secondDrive();
    for (let i = 0; i < files; i += 1) makeFile(join(root, 'media', `take_${i}.mov`));
    useFence([root, ...(second ? [second] : [])]);
    const times = { script: [] as number[], ours: [] as number[], both: [] as number[] };
    for (let run = 0; run < 3; run += 1) {
      for (const name of second ? (['script', 'ours', 'both'] as const) : (['script', 'ours'] as const)) {
        for (const folder of [join(root, 'script'), join(root, 'ours'), ...(second ? [second] : [])])
          for (const f of readdirSync(folder)) rmSync(join(folder, f));
        forgetCache();
        const begun = performance.now();
        if (name === 'script') byScript(root);
        else await byUs(root, name === 'both' ? [join(root, 'ours'), second!] : [join(root, 'ours')]);
        times[name].push(performance.now() - begun);
      }
    }
    const middle = (list: number[]) => list.toSorted((a, b) => a - b)[1]!;
    say(`\n## Copying and proving ${files} files, ${(files * sizeInBytes) / 1e9} GB\n`);
    say('| what | median ms | ratio |');
    say('| --- | --- | --- |');
    say(`| cp, sync, then ${hasher.join(' ')} over source and copy past the cache | ${ms(middle(times.script))} | 1 |`);
    say(
      `| hashed on the way, flushed, read back past the cache | ${ms(middle(times.ours))} | ${(middle(times.ours) / middle(times.script)).toFixed(2)} |`,
    );
    if (second)
      say(
        `| the same into two drives at once, the second in memory: against one | ${ms(middle(times.both))} | ${(middle(times.both) / middle(times.ours)).toFixed(2)} |`,
      );
    if (second) rmSync(second, { recursive: true });
  } finally {
    rmSync(root, { recursive: true, force: true });
  }
}

/** A machine of one disk has no other that is as free: memory stands in, where it holds all. */
function secondDrive(): string | null {
  try {
    const { bavail, bsize } = statfsSync('/dev/shm');
    return bavail * bsize > files * sizeInBytes * 1.1 ? mkdtempSync('/dev/shm/legame-handoff-') : null;
  } catch {
    return null;
  }
}

/** The quickest tool at hand that says a hash of what it is given. */
const hasher =
  ['xxhsum', 'md5sum'].find((tool) => spawnSync(tool, ['--version']).status === 0) === 'xxhsum'
    ? ['xxhsum', '-H64']
    : ['md5sum'];

function makeFile(path: string): void {
  const piece = Buffer.alloc(4 * 1024 * 1024);
  const file = openSync(path, 'w');
  for (let at = 0; at < sizeInBytes; at += piece.length) writeSync(file, randomFillSync(piece));
  closeSync(file);
}

/** Only root may; without it both find some of the sources in memory. */
function forgetCache(): void {
  execFileSync('sync');
  try {
    writeFileSync('/proc/sys/vm/drop_caches', '3');
  } catch {
    // Then it is as it is, for both alike.
  }
}

function byScript(root: string): void {
  for (const name of readdirSync(join(root, 'media')))
    execFileSync('cp', [join(root, 'media', name), join(root, 'script', name)]);
  execFileSync('sync');
  for (const name of readdirSync(join(root, 'media'))) {
    const [source, copy] = ['media', 'script'].map((folder) =>
      execFileSync('sh', [
        '-c',
        `dd if="$0" bs=4M iflag=direct status=none | ${hasher.join(' ')}`,
        join(root, folder, name),
      ]).toString(),
    );
    if (source !== copy) throw new Error(`${name} differs`);
  }
}

async function byUs(root: string, into: readonly string[]): Promise<void> {
  const media = await FencedFolder.of({ path: join(root, 'media') });
  const targets = await Promise.all(into.map((path) => FencedFolder.of({ path })));
  const queue = readdirSync(join(root, 'media'));
  const expected = { sizeInBytes, modifiedMs: null, isFrame: false, fingerprint: null };
  await Promise.all(
    Array.from({ length: lanes }, async (_, lane) => {
      const reader = new ReaderProcess();
      for (let name = queue.shift(), n = 0; name !== undefined; name = queue.shift(), n += 1) {
        const aside = `.legame-${lane}-${n}.part`;
        const source = { path: media.path, is: media.identity, file: name };
        const asked = { source, expected, into: targets.map(({ ground }) => ({ folder: ground, aside })) };
        const end = await reader.ask({ do: 'copy', ...asked }, { patienceMs: 60_000 });
        if (end.part !== 'copied' || end.sizeInBytes !== statSync(join(root, 'media', name)).size)
          throw new Error(`${name} was not copied: ${JSON.stringify(end)}`);
        for (const target of targets) await target.publish(aside, name);
      }
      reader.stop();
    }),
  );
}

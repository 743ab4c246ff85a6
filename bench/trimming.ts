import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readHeader } from '../core/src/headers/index.ts';
import type { Facts } from '../core/src/model/index.ts';
import { readStreams } from '../server/src/media/packets.ts';
import type { Streams, Trim } from '../server/src/media/trim.ts';
import { useFence } from '../server/src/disk/held.ts';
import { FencedFolder } from '../server/src/disk/writing.ts';
import { readerOf } from '../server/src/media/openFile.ts';
import { inLanes, inTurns } from '../server/src/handoffs/lanes.ts';
import { ms, say } from './measure.ts';

const films = 20;
const parts = 10;
const frames = 50;

/**
 * Two hundred parts of films cut without coding anew: with every part proven picture by picture and read back, two at a
 * time; beside a script that starts the decoder's program once a part and proves nothing.
 */
export async function benchTrimming(): Promise<void> {
  const root = mkdtempSync(join(tmpdir(), 'legame-trimming-'));
  try {
    for (const name of ['films', 'script', 'ours']) mkdirSync(join(root, name));
    for (let i = 0; i < films; i += 1) makeFilm(join(root, 'films', `take_${i}.mov`), i);
    const jobs = Array.from({ length: films * parts }, (_, i) => ({
      film: `take_${Math.floor(i / parts)}.mov`,
      from: 20 + (i % parts) * 45,
    }));
    useFence([root]);
    const times = { script: [] as number[], ours: [] as number[] };
    for (let run = 0; run < 3; run += 1) {
      for (const name of ['script', 'ours']) {
        rmSync(join(root, name), { recursive: true });
        mkdirSync(join(root, name));
      }
      times.script.push(timed(() => byScript(root, jobs)));
      const begun = performance.now();
      await byUs(root, jobs);
      times.ours.push(performance.now() - begun);
    }
    const middle = (list: number[]) => list.toSorted((a, b) => a - b)[1]!;
    const size = readdirSync(join(root, 'ours')).reduce((sum, f) => sum + statSync(join(root, 'ours', f)).size, 0);
    say(`\n## Parts of films, cut without coding anew (${jobs.length} parts, ${Math.round(size / 1e6)} MB)\n`);
    say('| what | median ms | ratio |');
    say('| --- | --- | --- |');
    say(`| a script: one process a part, nothing proven | ${ms(middle(times.script))} | 1 |`);
    say(
      `| proven picture by picture, flushed, read back | ${ms(middle(times.ours))} | ${(middle(times.ours) / middle(times.script)).toFixed(2)} |`,
    );
  } finally {
    rmSync(root, { recursive: true, force: true });
  }
}

function timed(run: () => void): number {
  const begun = performance.now();
  run();
  return performance.now() - begun;
}

function makeFilm(path: string, i: number): void {
  execFileSync('ffmpeg', [
    ...['-v', 'error', '-nostdin', '-f', 'lavfi', '-i', `testsrc2=s=640x360:r=25:d=20`, '-c:v', 'mjpeg', '-q:v', '4'],
    ...['-pix_fmt', 'yuvj422p', '-timecode', `0${i % 10}:00:00:00`, path],
  ]);
}

type Part = { readonly film: string; readonly from: number };

function byScript(root: string, jobs: readonly Part[]): void {
  for (const [i, { film, from }] of jobs.entries()) {
    const cut = [
      '-ss',
      (from / 25).toFixed(6),
      '-i',
      join(root, 'films', film),
      '-t',
      ((frames - 0.5) / 25).toFixed(6),
    ];
    spawnSync('ffmpeg', ['-v', 'error', '-nostdin', ...cut, '-c', 'copy', join(root, 'script', `${i}.mov`)]);
  }
  spawnSync('sync');
}

async function byUs(root: string, jobs: readonly Part[]): Promise<void> {
  const folder = await FencedFolder.of({ path: join(root, 'ours') });
  const films = new Map<string, { facts: Facts; streams: Streams | null }>();
  for (const name of readdirSync(join(root, 'films'))) films.set(name, await knownOf(join(root, 'films', name)));
  const files = jobs.map(({ film, from }, i) => {
    const of = films.get(film)!;
    const trim: Trim = { range: { start: from, end: from + frames }, startsAt: of.facts.start + from, ...of };
    return { source: film, aside: `.legame-${i}.part`, trim, sizeInBytes: 2_000_000 };
  });
  await inLanes(inTurns(files), new AbortController().signal, async (reader, { file, next }) => {
    const { source, aside, trim } = file;
    const answer = await reader.ask(
      {
        do: 'trim',
        source: { path: join(root, 'films'), file: source },
        expected: { sizeInBytes: null, modifiedMs: null, isFrame: false, fingerprint: null },
        into: [{ folder: folder.ground, aside }],
        trim,
        next: [...next],
      },
      { patienceMs: 60_000 },
    );
    if (answer.part !== 'copied') throw new Error(JSON.stringify(answer));
  });
}

/** What a plan knows of a film. */
async function knownOf(path: string): Promise<{ facts: Facts; streams: Streams | null }> {
  const file = await open(path);
  try {
    const read = readHeader(readerOf(file.fd, statSync(path).size));
    if (read.kind !== 'facts') throw new Error(path);
    return { facts: read.facts, streams: await readStreams(file) };
  } finally {
    await file.close();
  }
}

import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Handoff } from '@legame/core/contract';
import { ms, say } from './measure.ts';
import { makeEdit, makeFiles } from './production.ts';
import { startLegame, talkTo } from './running.ts';

const drives = ['KILN', 'ANNEX'] as const;
const filesPerDrive = 2000;
/** Each copy is flushed and read back past the cache, which takes its time. */
const copiesPerDrive = 150;
const rounds = 3;

/**
 * What a second worker brings: two drives are indexed at once, facts included, and two projects handed off at once, by one
 * worker process and by two, in turns. One drive is worked on by one job of a kind at a time, so it takes two.
 */
export async function benchWorkers(): Promise<void> {
  const root = mkdtempSync(join(tmpdir(), 'legame-workers-'));
  try {
    drives.forEach((drive, i) => makeFiles(root, filesPerDrive, { drive, from: i * filesPerDrive }));
    const times = [1, 2].map(() => ({ facts: [] as number[], copies: [] as number[] }));
    for (let round = 0; round < rounds; round += 1)
      for (const [i, of] of times.entries()) {
        const { facts, copies } = await carriedBy(i + 1, root);
        of.facts.push(facts);
        of.copies.push(copies);
      }
    say(`\n## A second worker: two drives of ${filesPerDrive} files, two handoffs of ${copiesPerDrive} of them\n`);
    say('| what | one worker, ms | two, ms | ratio |');
    say('| --- | --- | --- | --- |');
    const tell = (what: string, kind: 'facts' | 'copies') => {
      const [one, two] = times.map((of) => of[kind].toSorted((a, b) => a - b)[Math.floor(rounds / 2)]!) as [
        number,
        number,
      ];
      say(`| ${what} | ${ms(one)} | ${ms(two)} | ${(two / one).toFixed(2)} |`);
    };
    tell('both indexed at once, facts included', 'facts');
    tell('both handed off at once, every copy proven', 'copies');
  } finally {
    rmSync(root, { recursive: true, force: true });
  }
}

async function carriedBy(workers: number, root: string): Promise<{ facts: number; copies: number }> {
  const legame = await startLegame(root, { LEGAME_WORKERS: String(workers) });
  const { ask, get, post, quiet } = talkTo(legame);
  const timed = async (run: () => Promise<unknown>) => {
    const begun = performance.now();
    await run();
    await quiet();
    return performance.now() - begun;
  };
  try {
    await quiet();
    const facts = await timed(() => Promise.all(drives.map((drive) => post('/places', { path: join(root, drive) }))));
    const planned: string[] = [];
    for (const [i, drive] of drives.entries()) {
      const { id } = await post<{ id: string }>('/projects', { name: `Rolls of ${drive}` });
      await ask(`/projects/${id}/documents?name=rolls.otio`, {
        method: 'POST',
        headers: { 'content-type': 'application/octet-stream' },
        body: makeEdit(copiesPerDrive, `/Volumes/${drive}`, i * filesPerDrive),
      });
      await quiet();
      const targetFolder = join(root, `to ${drive}`);
      mkdirSync(targetFolder);
      planned.push((await post<Handoff>(`/projects/${id}/handoffs`, { targetFolder, name: 'Rolls' })).id);
    }
    const copies = await timed(() => Promise.all(planned.map((id) => post(`/handoffs/${id}/run`, {}))));
    for (const id of planned) {
      const { state, copied } = await get<Handoff>(`/handoffs/${id}`);
      if (state !== 'done' || copied.length !== copiesPerDrive)
        throw new Error(`A handoff ended as ${state}, with ${copied.length} files.`);
    }
    return { facts, copies };
  } finally {
    await legame.stop();
    for (const drive of drives) rmSync(join(root, `to ${drive}`), { recursive: true, force: true });
  }
}

import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { readdirSync, readFileSync } from 'node:fs';
import { setTimeout as after } from 'node:timers/promises';
import type { ProjectId } from '@legame/core/model';
import { projectStore } from '../stores/projects.ts';
import { clipOf, timelineOf } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { bringInApart, endDocumentProcesses, standReady } from './apart.ts';

let house: House;
let projectId: ProjectId;
beforeAll(async () => {
  house = await openHouse({ worker: false });
  projectId = (await projectStore.createProject(house.db, 'Saltglass')).id;
});
afterAll(() => house.close());

/** The processes that read documents for this one. */
const readers = (): number[] =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .flatMap((pid) => {
      try {
        const [, parent] = /^PPid:\s*(\d+)$/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8')) ?? [];
        const isReader = readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('documentProcess');
        return isReader && Number(parent) === process.pid ? [Number(pid)] : [];
      } catch {
        // It ended while it was looked at.
        return [];
      }
    });
async function untilReaders(is: (pids: readonly number[]) => boolean): Promise<readonly number[]> {
  for (;;) {
    const pids = readers();
    if (is(pids)) return pids;
    await after(20);
  }
}
const bring = (name: string, limits: Partial<House['config']> = {}) =>
  bringInApart({ ...house, config: { ...house.config, ...limits } }, projectId, {
    name,
    bytes: Buffer.from(timelineOf(clipOf(`/Volumes/KILN/${name}.mov`))),
    reading: {},
  });

test('one process stands ready for the next document, also after one was ended that took too long', async () => {
  expect(readers()).toEqual([]);
  standReady(house);
  const ready = await untilReaders((pids) => pids.length === 1);
  await bring('ready');
  expect(readers()).toEqual(ready);
  await expect(bring('slow', { documentSeconds: 0 })).rejects.toMatchObject({
    problem: { code: 'document-overwhelms', by: 'time' },
  });
  const next = await untilReaders((pids) => pids.length === 1 && pids[0] !== ready[0]);
  await bring('next');
  expect(readers()).toEqual(next);
  // Two at once are read by two; both are kept for a while, and end with whoever started them.
  await Promise.all([bring('one'), bring('two')]);
  expect(readers()).toHaveLength(2);
  endDocumentProcesses();
  await untilReaders((pids) => pids.length === 0);
});

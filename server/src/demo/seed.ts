import { existsSync } from 'node:fs';
import { mkdir, readFile, rename } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import { pino } from 'pino';
import { demoDocuments, demoFilm, makeDemo } from '../../../demo/make.ts';
import { driveAway, drives } from '../../../demo/spec.ts';
import { rate } from '@legame/core/time';
import { bringIn } from '../documents/bringIn.ts';
import { addPlace } from '../places/change.ts';
import { sweepPlaces } from '../places/states.ts';
import { ReadLog } from '../reading/readLog.ts';
import type { Config } from '../config/config.ts';
import type { Database } from '../db/database.ts';
import { bayStateFile } from '../disk/conditions.ts';
import { replaceOwnFile } from '../disk/own.ts';
import { jobStore } from '../stores/jobs.ts';
import { projectStore } from '../stores/projects.ts';

/** Names under which other machines know the simulated drives, where the edit cannot guess them. */
const knownAs: Partial<Record<(typeof drives)[number], string[]>> = {
  KILN_A: ['/Volumes/KILN_A'],
  BAY_SHARE: ['//KILNHOUSE/BAY_SHARE'],
};
export const deliveryDrive = 'DELIVERY';

/**
 * Makes the demo production where it is absent and, in a database without any project, seeds it: four simulated
 * drives, one of which is unplugged again once it has been seen, and two projects: the cut of Saltglass that is worked on,
 * with its two documents, and the whole film.
 */
export async function seedDemo({
  db,
  config,
  say,
}: {
  db: Database;
  config: Config;
  say: (text: string) => void;
}): Promise<void> {
  if (!config.demo) return;
  const isNew = (await projectStore.listProjects(db)).length === 0;
  const unplugged = join(config.bay, '.unplugged');
  await mkdir(join(config.bay, deliveryDrive), { recursive: true });
  await mkdir(unplugged, { recursive: true });
  const away = { plugged: join(config.bay, driveAway), unplugged: join(unplugged, driveAway) };
  if (isNew && existsSync(away.unplugged) && !existsSync(away.plugged)) await rename(away.unplugged, away.plugged);
  if (!isNew) return;
  // A drive that was left slow or stalling would hold up the seeding.
  await replaceOwnFile(join(config.bay, bayStateFile), '{}');
  let told = 0;
  await makeDemo(config.bay, config.demoDocuments, (made, of) => {
    if (made === 1) say(`Making the demo media (${of} files, about a minute, once)…`);
    if (made - told >= 15) {
      told = made;
      say(`  ${made} of ${of}`);
    }
  });
  say('Seeding the demo production Saltglass…');
  const context = {
    db,
    config: { ...config, roots: [config.bay] },
    log: pino({ level: 'warn' }),
    readLog: new ReadLog(db, 'demo'),
  };
  for (const drive of drives)
    await addPlace(context, { path: join(config.bay, drive), name: drive, knownAs: knownAs[drive] ?? [] });
  await untilIdle(db);
  await rename(away.plugged, away.unplugged);
  await sweepPlaces(context);
  for (const [name, documents] of [
    ['Saltglass', demoDocuments],
    ['Saltglass, the film', [demoFilm]],
  ] as const) {
    const project = await projectStore.createProject(db, name);
    for (const document of documents)
      await bringIn(context, project.id, {
        name: document,
        bytes: await readFile(join(config.demoDocuments, document)),
        reading: document.endsWith('.edl') ? { rate: rate(25) } : {},
      });
  }
  await untilIdle(db);
}

async function untilIdle(db: Database): Promise<void> {
  for (;;) {
    const busy = (await jobStore.listRecent(db)).some((job) => job.state === 'queued' || job.state === 'running');
    if (!busy) return;
    await after(200);
  }
}

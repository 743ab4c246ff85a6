import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { spawn } from 'node:child_process';
import { cpus } from 'node:os';
import { join } from 'node:path';
import type { PlaceView } from '@legame/core/contract';
import { clientOf } from '../testing/client.ts';
import { event, makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';
import { sweepPlaces } from './states.ts';

/** A busy house never looks like an unplugged drive. */
const seconds = Number(process.env.LEGAME_LOAD_SECONDS ?? 60);
let house: House;
let projectId: string;
const { newProject, bring, post, get, rows } = clientOf(() => house);

beforeAll(async () => {
  house = await openHouse();
  for (const drive of ['KILN', 'KILN_B']) makeFilm(join(house.folder, drive, 'day1', `${drive} bowl.mov`));
  projectId = await newProject('Saltglass');
  for (const drive of ['KILN', 'KILN_B']) await post('/places', { path: join(house.folder, drive) }).expect(201);
  await house.idle();
  const list = makeList([event('KILN bowl.mov'), event('KILN_B bowl.mov'), event('lost.mov')]);
  await bring(projectId, list, 'reel.edl', { reading: pal }).expect(201);
  await house.idle();
  await post(`/projects/${projectId}/links/certain`, {}).expect(200);
  await house.idle();
}, 120_000);
afterAll(() => house.close());

test(
  'with all cores busy and this process held up, no place changes its state and no clip its status',
  async () => {
    const states = async () => ({
      places: (await get<PlaceView[]>('/places')).map(({ name, there, awayBecause }) => ({ name, there, awayBecause })),
      clips: (await rows(projectId)).map(({ fileName, status }) => ({ fileName, status })),
    });
    const before = await states();
    expect(before.places.map((p) => p.there)).toEqual([true, true]);
    // Three busy processes a core, and this one's own loop held up for longer than any patience.
    const busy = Array.from({ length: cpus().length * 3 }, () =>
      spawn(process.execPath, ['-e', 'for (;;) Math.sqrt(Math.random())'], { stdio: 'ignore' }),
    );
    try {
      const until = Date.now() + seconds * 1000;
      while (Date.now() < until) {
        const swept = sweepPlaces(house);
        holdUp(3000);
        await swept;
        expect(await states()).toEqual(before);
      }
    } finally {
      for (const child of busy) child.kill('SIGKILL');
    }
    await sweepPlaces(house);
    expect(await states()).toEqual(before);
    expect((await get<PlaceView[]>('/places')).map((p) => p.silent)).toEqual([false, false]);
  },
  seconds * 1000 + 120_000,
);

function holdUp(ms: number): void {
  const until = performance.now() + ms;
  while (performance.now() < until);
}

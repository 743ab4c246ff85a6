import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { PlaceView } from '@legame/core/contract';
import { clientOf } from './client.ts';
import { makeList, pal } from './edits.ts';
import type { House } from './house.ts';
import { makeFilm } from './media.ts';

/** One drive of films, KILN, and an edit that uses some of them by other paths; beside it an empty folder, OUT. */
export async function kilnIn(house: House): Promise<{ projectId: string; kiln: string }> {
  const { post, newProject, bring } = clientOf(() => house);
  const at = (...parts: string[]) => join(house.folder, ...parts);
  const films = [
    ['day1/bowl.mov', '01'],
    ['day1/door.mov', '02'],
    ['day2/pipe.mov', '03'],
    ['day2/spare.mov', '04'],
    ['day2/spare copy.mov', '04'],
  ] as const;
  for (const [path, hour] of films) makeFilm(at('KILN', path), { timecode: `${hour}:00:00:00` });
  writeFileSync(at('KILN/day1/notes.tmp'), 'kiln notes');
  mkdirSync(at('OUT'));
  const projectId = await newProject('Saltglass');
  const event = (name: string, hour: string, file: string) => ({
    reel: 'A001',
    from: `${hour}:00:00:05`,
    to: `${hour}:00:01:05`,
    name,
    file,
  });
  const list = makeList([
    event('bowl.mov', '01', '/Volumes/KILN/day1/bowl.mov'),
    event('door.mov', '02', 'E:\\day1\\door.mov'),
    event('pipe.mov', '03', '/Volumes/KILN/day2/pipe.mov'),
    event('lost.mov', '09', 'E:\\day9\\lost.mov'),
  ]);
  await bring(projectId, list, 'cut.edl', { reading: pal }).expect(201);
  const kiln = ((await post('/places', { path: at('KILN') }).expect(201)).body as PlaceView).id;
  await house.idle();
  return { projectId, kiln };
}

/** Three films that were moved on the drive KILN, and a project without documents. */
export async function threeFilmsIn(house: House): Promise<{ projectId: string; bay: string }> {
  const { post, newProject } = clientOf(() => house);
  const bay = join(house.folder, 'KILN');
  const films = { bowl: 'red', door: 'blue', ember: 'green' };
  for (const [name, colour] of Object.entries(films)) makeFilm(join(bay, 'moved', `${name}.mov`), { colour });
  const projectId = await newProject('Saltglass');
  await post('/places', { path: bay }).expect(201);
  await house.idle();
  return { projectId, bay };
}

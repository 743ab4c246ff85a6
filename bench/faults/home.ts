import { mkdirSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import type { ClipRow, History, PlaceView } from '@legame/core/contract';
import type { MistreatedLegame } from './house.ts';
import { inventory, litterIn } from './inventory.ts';
import { films, type World } from './world.ts';

const homeOf = (legame: MistreatedLegame) => join(legame.roots, 'HOME');
const bring = (world: World) =>
  world.legame.ask('POST', `/projects/${world.projectId}/health/home`, { check: 'outside-home' });

/** Makes an empty place home, and begins to bring there what the edit uses. */
export async function beginHome(world: World): Promise<{ readonly request: Promise<unknown> }> {
  const { legame, projectId } = world;
  const path = homeOf(legame);
  mkdirSync(path, { recursive: true });
  const places = await legame.get<PlaceView[]>('/places');
  const known = places.find((p) => p.path === path);
  const placeId = known?.id ?? ((await legame.ask('POST', '/places', { path })).body as PlaceView).id;
  await legame.idle();
  await legame.ask('PUT', `/projects/${projectId}/home`, { home: { placeId, folder: 'film' } });
  return { request: bring(world) };
}

/**
 * Goes on until all is home, and holds it against the originals by hash; then takes the links back, which have to be as
 * they were, and empties home for the next time.
 */
export async function finishHome(world: World, before: ReadonlyMap<string, string>): Promise<string[]> {
  const { legame, root, projectId } = world;
  const tied = async () =>
    (await legame.get<ClipRow[]>(`/projects/${projectId}/clips`)).map(
      (r) => `${r.name} ${r.tied?.placeName ?? 'dark'}`,
    );
  let left = 1;
  for (let tries = 0; tries < 4 && left > 0; tries += 1) {
    await legame.idle();
    const { files } = await legame.get<{ files: unknown[] }>(`/projects/${projectId}/health/home?check=outside-home`);
    left = files.length;
    if (left > 0) await bring(world);
  }
  await legame.idle();
  const wanted = [...inventory(join(root, 'drives/KILN'))].filter(([path]) =>
    path.split('/').at(-1)!.startsWith('take'),
  );
  const copies = [...inventory(homeOf(legame))];
  const problems = [
    ...(left > 0 ? [`${left} files are not home after four times`] : []),
    ...litterIn(homeOf(legame)).map((path) => `litter: ${path}`),
    ...wanted.flatMap(([path, hash]) =>
      copies.some(([, copy]) => copy === hash) ? [] : [`${path} has no copy at home`],
    ),
    ...(copies.length === films ? [] : [`${copies.length} copies of ${films} at home`]),
    ...(await tied())
      .filter((row) => row.startsWith('take') && !row.endsWith(' HOME'))
      .map((row) => `not home: ${row}`),
  ];
  for (;;) {
    const { entries } = await legame.get<History>(`/projects/${projectId}/history`);
    const last = entries.find((e) => e.state === 'done');
    if (last?.verb !== 'bring-home') break;
    await legame.ask('POST', `/projects/${projectId}/undo`, { act: last.id });
  }
  await legame.idle();
  for (const row of await tied())
    if (before.get(row.split(' ')[0]!) !== row.split(' ').at(-1)) problems.push(`after undo: ${row}`);
  for (const name of readdirSync(homeOf(legame))) rmSync(join(homeOf(legame), name), { recursive: true });
  return problems;
}

/** In which place the file of each clip lies. */
export const placesOfClips = async ({ legame, projectId }: World): Promise<Map<string, string>> =>
  new Map(
    (await legame.get<ClipRow[]>(`/projects/${projectId}/clips`)).map((r) => [
      r.name.split(' ')[0]!,
      r.tied?.placeName ?? 'dark',
    ]),
  );

import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type { ClipId, MediaFileId, PlaceId, ProjectId } from '@legame/core/model';
import { undo } from '../history/act.ts';
import { linkClips } from '../links/link.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { clientOf } from '../testing/client.ts';
import { event, makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';
import { clearFiles, restoreCleared } from './clear.ts';

/** Clearing, while somebody links: whoever comes first has it, and no clip is left with a file that was taken away. */
let house: House;
let projectId: ProjectId;
let placeId: PlaceId;
const files = new Map<string, MediaFileId>();
const clips = new Map<string, ClipId>();
const names = ['a', 'b', 'c', 'd', 'e', 'f'] as const;
const client = clientOf(() => house);
const path = (name: string) => join(house.folder, 'KILN', `spare ${name}.mov`);

beforeAll(async () => {
  house = await openHouse();
  names.forEach((name, i) => makeFilm(path(name), { timecode: `1${i}:00:00:00`, reel: `B00${i}` }));
  projectId = (await client.newProject('Saltglass')) as ProjectId;
  placeId = ((await client.post('/places', { path: join(house.folder, 'KILN') }).expect(201)).body as { id: PlaceId })
    .id;
  const list = makeList(names.map((name) => event(`wanted ${name}.mov`)));
  await client.bring(projectId, list, 'reel.edl', { reading: pal }).expect(201);
  await house.idle();
  for (const { id, name } of (await house.db('media_files').select('id', 'name')) as {
    id: MediaFileId;
    name: string;
  }[])
    files.set(name.slice(6, 7), id);
  for (const row of await client.rows(projectId)) clips.set(row.name.slice(7, 8), row.id);
}, 120_000);
afterAll(() => house.close());

const link = (name: string) =>
  linkClips(house, projectId, { by: 'hand' }, [{ clipId: clips.get(name)!, mediaFileId: files.get(name)! }]);
const clear = (...which: string[]) =>
  clearFiles(
    house,
    placeId,
    which.map((name) => files.get(name)!),
  );
const linkOf = async (name: string) =>
  (await house
    .db('links')
    .where({ clip_id: clips.get(name) })
    .first()) as { media_file_id: string } | undefined;

test('a clip is linked to a file while others are cleared: that file stays where it is', async () => {
  // A link that is being made, not yet committed: clearing waits for it, and sees it.
  const trx = await house.db.transaction();
  await mediaFileStore.hold(trx, [files.get('b')!]);
  const clearing = clear('a', 'b');
  while (existsSync(path('a'))) await new Promise((resolve) => setTimeout(resolve, 10));
  await trx('links').insert({
    clip_id: clips.get('b'),
    media_file_id: files.get('b'),
    made_by: 'hand',
    seen: JSON.stringify({ sizeInBytes: 1 }),
  });
  await trx.commit();
  const done = await clearing;
  expect(done.skipped).toEqual([{ name: 'spare b.mov', why: { code: 'used', by: ['Saltglass'] } }]);
  expect(done.cleared.map((c) => c.original)).toEqual(['spare a.mov']);
  expect(existsSync(path('b'))).toBe(true);
});

test('once it is taken away, it is linked to no more; put back, it is again', async () => {
  const done = await clear('c');
  expect(await link('c')).toMatchObject({ count: 0, skipped: [{ why: 'file-gone' }] });
  await restoreCleared(house, done.cleared[0]!.id);
  await house.idle();
  expect(existsSync(path('c'))).toBe(true);
  expect(await link('c')).toMatchObject({ count: 1, skipped: [] });
  await undo(house, projectId);
});

test('whoever comes first: of linking and clearing at once, never both are done', async () => {
  for (const name of ['d', 'e', 'f']) {
    const [linked, cleared] = await Promise.all([link(name), clear(name)]);
    const isTied = (await linkOf(name)) !== undefined;
    expect(isTied).toBe(linked.count === 1);
    expect(existsSync(path(name))).toBe(cleared.cleared.length === 0);
    expect(linked.count + cleared.cleared.length).toBe(1);
  }
});

import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import { setTimeout as after } from 'node:timers/promises';
import { type ClipId, type DocumentId, type MediaFileId, nothingKnown, type ProjectId } from '@legame/core/model';
import { bringIn } from '../documents/bringIn.ts';
import { clipStore } from '../stores/clips.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { projectStore } from '../stores/projects.ts';
import { cutOf } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { isReferenceGone, type Transaction } from './database.ts';

let house: House;
beforeAll(async () => {
  house = await openHouse({ worker: false });
});
afterAll(() => house.close());

const nobody = '00000000-0000-4000-8000-000000000000';
const names = ['a.mov', 'b.mov', 'c.mov'];
let projectId: ProjectId;
let documentId: DocumentId;
let placeId: string;
let clips: ClipId[];
let files: MediaFileId[];
beforeEach(async () => {
  const { db } = house;
  ({ id: projectId } = await projectStore.createProject(db, 'Held'));
  const bytes = Buffer.from(cutOf(...names.map((name) => `/Volumes/KILN/${name}`)));
  documentId = await bringIn({ db }, projectId, { name: 'held.otio', bytes, reading: {} });
  clips = (await clipStore.listOfDocument(db, documentId)).map((c) => c.id);
  await db('places').delete();
  const [place] = (await db('places').insert({ name: 'KILN', path: '/made/up/kiln' }, 'id')) as { id: string }[];
  placeId = place!.id;
  const rows = names.map((name) => ({ place_id: placeId, folder: '', name, size_in_bytes: 1, modified_ms: 1 }));
  files = ((await db('media_files').insert(rows, 'id')) as { id: MediaFileId }[]).map(({ id }) => id);
});

const seen = { ...nothingKnown, sizeInBytes: 1, start: null, length: null };
const put = (trx: Transaction | House['db'], pairs: readonly (readonly [ClipId, MediaFileId])[]) =>
  clipStore.putLinks(
    trx,
    pairs.map(([clipId, mediaFileId]) => ({ clipId, mediaFileId, by: 'hand' as const, seen })),
  );
const linked = async () =>
  (await house.db('links').whereIn('clip_id', clips).orderBy('media_file_id').pluck('media_file_id')) as string[];
const propose = (whereRemembered: string) =>
  house.db('proposals').insert({
    clip_id: clips[0],
    where_remembered: whereRemembered,
    decision: { kind: 'nothing' },
    why: { code: 'still-reading' },
    candidates: '[]',
  });
const isGone = (error: unknown) => isReferenceGone(error);

test('no link leads to a file or from a clip that is not there, be it one of many, put in or changed', async () => {
  const links = clips.map((id, i) => [id, files[i]!] as const);
  const toNobody = [...links.slice(1), [clips[0]!, nobody as MediaFileId] as const];
  expect(await put(house.db, toNobody).catch(isGone)).toBe(true);
  expect(await put(house.db, [...links, [nobody as ClipId, files[0]!]]).catch(isGone)).toBe(true);
  expect(await linked()).toEqual([]);
  await put(house.db, links);
  expect(await put(house.db, toNobody).catch(isGone)).toBe(true);
  expect(await linked()).toEqual([...files].sort());
  expect(await propose(nobody).catch(isGone)).toBe(true);
});

test('links, proposals and rows go with what they are of', async () => {
  const { db } = house;
  await put(
    db,
    clips.map((id, i) => [id, files[i]!]),
  );
  await propose(files[0]!);
  await db('media_files').where({ id: files[1] }).delete();
  expect(await linked()).toEqual([files[0], files[2]].sort());
  await db('places').where({ id: placeId }).delete();
  expect(await linked()).toEqual([]);
  expect(await db('proposals').whereIn('clip_id', clips).pluck('where_remembered')).toEqual([null]);
  await db('clip_rows').insert({
    ...{ clip_id: clips[0], project_id: projectId, version: 1, is_unusable: false, uses: 0, used_seconds: 0 },
    ...{ there: '{}', status_there: 'missing', certain_there: false },
  });
  await db('projects').where({ id: projectId }).delete();
  for (const table of ['clips', 'links', 'proposals', 'clip_rows'])
    expect(await db(table).where(table === 'clips' ? 'id' : 'clip_id', clips[0]!)).toEqual([]);
});

test('a file that goes while it is linked to goes with its link, whoever came first', async () => {
  const { db } = house;
  const linking = await db.transaction();
  await put(linking, [[clips[0]!, files[0]!]]);
  let isDeleted = false;
  const deleting = db('media_files')
    .where({ id: files[0] })
    .delete()
    .then(() => (isDeleted = true));
  await after(200);
  expect(isDeleted).toBe(false);
  await linking.commit();
  await deleting;
  expect(await linked()).toEqual([]);

  const going = await db.transaction();
  await going('media_files').where({ id: files[1] }).delete();
  const late = put(db, [
    [clips[2]!, files[2]!],
    [clips[1]!, files[1]!],
  ]).catch(isGone);
  await after(200);
  await going.commit();
  expect(await late).toBe(true);
  expect(await linked()).toEqual([]);
});

test('of files at hand only those that are others by now are read again', async () => {
  const { db } = house;
  const known = new Map((await mediaFileStore.listByIds(db, files)).map((f) => [f.id, f]));
  await db('media_files').where({ id: files[1] }).update({ size_in_bytes: 2 });
  await db('media_files').where({ id: files[2] }).delete();
  const now = await db.transaction((trx) => mediaFileStore.listToLink(trx, files, (id) => known.get(id)));
  expect(now.map((f) => f.id).sort()).toEqual([files[0], files[1]].sort());
  expect(now.find((f) => f.id === files[0])).toBe(known.get(files[0]!));
  expect(now.find((f) => f.id === files[1])).toMatchObject({ sizeInBytes: 2 });
});

import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { type DocumentId, type MediaFileId, nothingKnown, type ProjectId } from '@legame/core/model';
import { bringIn } from '../documents/bringIn.ts';
import { clipQuery } from '../stores/clipRecord.ts';
import { clipStore } from '../stores/clips.ts';
import { projectStore } from '../stores/projects.ts';
import { cutOf } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { listBindings } from './lists.ts';

let house: House;
beforeAll(async () => {
  house = await openHouse({ worker: false });
});
afterAll(() => house.close());

test('whatever points to something that can go is found by an index', async () => {
  const { rows } = (await house.db.raw(`
    select conrelid::regclass::text as "table", attname as "column" from pg_constraint
      join pg_attribute on attrelid = conrelid and attnum = conkey[1]
    where contype = 'f' and connamespace = 'public'::regnamespace and not exists (
      select from pg_index where indrelid = conrelid and indkey[0] = conkey[1]
        and (indpred is null or pg_get_expr(indpred, indrelid) = format('(%I IS NOT NULL)', attname)))
  `)) as { rows: { table: string; column: string }[] };
  expect(rows).toEqual([]);
});

test('clips are read in one go, also where the database had seen an empty table before', async () => {
  const { db } = house;
  const { id: projectId } = await projectStore.createProject(db, 'Emptied');
  const many = 2000;
  await db.raw(
    `with place as (insert into places (name, path) values ('KILN', '/made/up/kiln') returning id)
     insert into media_files (place_id, folder, name, size_in_bytes, modified_ms)
     select place.id, '', n || '.mov', 1, 1 from place, generate_series(1, ?) n`,
    [many],
  );
  const files = (await db('media_files').pluck('id')) as MediaFileId[];
  const seen = { ...nothingKnown, sizeInBytes: 1, start: null, length: null };
  const bytes = Buffer.from(cutOf(...files.map((id) => `/Volumes/KILN/${id}.mov`)));
  const fill = async (name: string): Promise<DocumentId> => {
    const id = await bringIn({ db }, projectId, { name, bytes, reading: {} });
    const clips = await clipStore.listOfDocument(db, id);
    expect(clips).toHaveLength(many);
    const links = clips.map((clip, i) => ({ clipId: clip.id, mediaFileId: files[i]!, by: 'hand' as const, seen }));
    await db.transaction((trx) => clipStore.putLinks(trx, links));
    return id;
  };
  const first = await fill('first.otio');
  await db('documents').where({ id: first }).delete();
  await db.raw('analyze');
  await fill('second.otio');
  expect(await rowsTouched(projectId)).toBeLessThan(many * 20);
});

type Plan = { 'Actual Rows': number; 'Actual Loops': number; Plans?: Plan[] };
const touched = (plan: Plan): number =>
  plan['Actual Rows'] * plan['Actual Loops'] + (plan.Plans ?? []).reduce((sum, p) => sum + touched(p), 0);

/** How many rows pass from one step of the plan to the next when all clips are read. */
async function rowsTouched(projectId: ProjectId): Promise<number> {
  const ids = (await house.db('clips').where({ project_id: projectId }).pluck('id')) as string[];
  const { sql, bindings } = clipQuery(house.db).whereRaw('clips.id = any(?::uuid[])', listBindings(ids)).toSQL();
  const { rows } = (await house.db.raw(`explain (analyze, format json) ${sql}`, bindings as string[])) as {
    rows: [{ 'QUERY PLAN': [{ Plan: Plan }] }];
  };
  return touched(rows[0]['QUERY PLAN'][0].Plan);
}

import { afterAll, expect, test } from '@jest/globals';
import { openDatabase, surely, type Database, type Transaction } from './database.ts';

const url = process.env.LEGAME_TEST_CLUSTER!;
const forPeople = openDatabase(url);
const forWork = openDatabase(url, { mayLoseAMoment: true });
afterAll(() => Promise.all([forPeople.destroy(), forWork.destroy()]));

const commit = async (db: Database | Transaction): Promise<string> =>
  ((await db.raw('show synchronous_commit')) as { rows: { synchronous_commit: string }[] }).rows[0]!.synchronous_commit;

test('what people are told is done is on the disk by then; work that can be done again says where it must not be lost', async () => {
  expect(await commit(forPeople)).toBe('on');
  expect(await commit(forWork)).toBe('off');
  expect(await surely(forWork, commit)).toBe('on');
  // Only for as long as that lasts.
  expect(await commit(forWork)).toBe('off');
});

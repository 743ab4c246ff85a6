import { expect, test } from '@jest/globals';
import { openHouse } from './house.ts';

test('two questions at once on one connection are found when the house closes', async () => {
  const house = await openHouse({ worker: false });
  await house.db.transaction((trx) => Promise.all([trx.raw('select 1'), trx.raw('select 2')]));
  await expect(house.close()).rejects.toThrow(/select 2/);
  const other = await openHouse({ worker: false });
  await Promise.all([other.db.raw('select 1'), other.db.raw('select 2')]);
  await other.close();
});

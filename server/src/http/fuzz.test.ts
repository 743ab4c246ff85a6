import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { fuzzDocuments } from '../testing/fuzz/documents.ts';
import { fuzzHeaders } from '../testing/fuzz/headers.ts';
import { fuzzRequests } from '../testing/fuzz/requests.ts';
import { openHouse, type House } from '../testing/house.ts';
import { kilnIn } from '../testing/kiln.ts';

/** A while of each, with another seed every time; what is found says which. `npm run fuzz` goes on for longer. */
const seconds = Number(process.env.LEGAME_FUZZ_SECONDS ?? 15);
const seed = Number(process.env.LEGAME_FUZZ_SEED ?? Date.now() % 1_000_000_000);
let house: House;
beforeAll(async () => {
  house = await openHouse();
  await kilnIn(house);
}, 120_000);
afterAll(() => house.close());

const limit = (seconds * 3 + 60) * 1000;

test('documents', () => expect(fuzzDocuments(seconds, seed).findings).toEqual([]), limit);
test('headers of media', () => expect(fuzzHeaders(seconds, seed).findings).toEqual([]), limit);
test('requests', async () => expect((await fuzzRequests(house, seconds, seed)).findings).toEqual([]), limit);

import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { addressOf, fromAddress, selectionSlice, type Selection } from './selection.ts';

const initial = selectionSlice.getInitialState();
const id = fc.uuid();

test('an address brings back filter and selection; what is as usual does not stand in it', () => {
  expect(addressOf(initial).toString()).toBe('');
  const selection: fc.Arbitrary<Selection> = fc
    .record({
      ids: fc.uniqueArray(id, { maxLength: 50 }),
      status: fc.constantFrom('to-do', 'all', 'missing', 'linked', 'waived'),
      text: fc.string(),
    })
    .map((s) => ({ ...s, focus: s.ids[0] ?? null, anchor: s.ids[0] ?? null }) as Selection);
  fc.assert(
    fc.property(selection, (s) => {
      expect(fromAddress(new URLSearchParams(addressOf(s).toString()))).toEqual(s);
    }),
  );
});

test('of very many clips the one in hand stands in the address; nonsense in it is as usual', () => {
  const ids = Array.from({ length: 51 }, (_, i) => `clip-${i}`);
  expect(fromAddress(addressOf({ ...initial, ids, focus: 'clip-7' })).ids).toEqual(['clip-7']);
  expect(fromAddress(new URLSearchParams('show=everything&sort=luck&order=up'))).toEqual(initial);
});

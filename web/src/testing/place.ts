import type { PlaceView } from '@legame/core/contract';
import { uuid } from './page.tsx';

/** A place that is there, as the server tells of it; the number makes its id. */
export const placeOf = (n: number, name: string, more: Partial<PlaceView> = {}): PlaceView => ({
  id: uuid(n) as PlaceView['id'],
  name,
  path: `/bay/${name}`,
  knownAs: [],
  learnedNames: [],
  there: true,
  awayBecause: null,
  readOnly: false,
  slow: false,
  silent: false,
  movedFrom: null,
  excluded: [],
  skipped: { hidden: 4, links: 1, excluded: 0, special: 0, unlisted: ['private'], unnameable: [] },
  indexedAt: '2026-11-20T10:00:00.000Z',
  files: 23,
  unread: 0,
  unreadable: 0,
  sizeInBytes: 25_000_000,
  room: { freeInBytes: 100, totalInBytes: 1000 },
  ...more,
});

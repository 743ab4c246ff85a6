import type { DocumentView } from '@legame/core/contract';
import { uuid } from './page.tsx';

/** A list as it was brought in, as the server tells of it; the number makes its id. */
export const documentOf = (n: number, name: string, more: Partial<DocumentView> = {}): DocumentView => ({
  id: uuid(n) as DocumentView['id'],
  name,
  format: 'edl',
  title: name.replace(/\..*/, ''),
  reading: { rate: { num: 25, den: 1 } },
  choices: { rates: [], clipsBy: [], referenceKeys: [], columns: null, outPoints: [] },
  sizeInBytes: 1200,
  broughtInAt: '2026-11-20T10:00:00.000Z',
  replacedAt: null,
  folder: null,
  mediaInside: null,
  clips: 3,
  bins: 0,
  timelines: [],
  remarks: [],
  ...more,
});

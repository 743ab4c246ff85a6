import type { StatusName } from '@legame/core/state';
import type { BinClip, ClipRow, Member } from '@legame/core/contract';
import { uuid } from './page.tsx';

/** A row of a list of clips, as the server gives it; the number makes its id, its uses and its screen time. */
export function clipRow(n: number, fileName: string, status: StatusName, more: Partial<ClipRow> = {}): ClipRow {
  return {
    id: uuid(n) as ClipRow['id'],
    documentId: uuid(999) as ClipRow['documentId'],
    name: fileName,
    fileName,
    folder: 'KILN_A/day1',
    remembered: `/Volumes/KILN_A/day1/${fileName}`,
    bin: [],
    label: null,
    reel: 'A001',
    kind: 'picture',
    status: (status === 'missing' ? { status, because: 'nothing-there' } : { status }) as ClipRow['status'],
    why: null,
    decision: 'nothing',
    certainty: null,
    certainNow: false,
    tied: null,
    candidate: null,
    candidates: 0,
    pinned: false,
    interpreted: false,
    verdicts: null,
    uses: n,
    usedSeconds: n,
    ...more,
  };
}

/** What a bin shows of the same clip beside its row; it begins at that hour. */
export function binClip(n: number, values: BinClip['values'] = {}, more: Partial<BinClip> = {}): BinClip {
  const start = n * 90_000;
  return {
    id: uuid(n) as BinClip['id'],
    isLogged: false,
    rate: { num: 25, den: 1 },
    counting: 'non-drop',
    available: { start, end: start + 250 },
    used: { start: start + 10, end: start + 60 },
    facts: null,
    sizeInBytes: null,
    values,
    written: [],
    ...more,
  };
}

/** What an act would do with the same clip: link it to a file of its name, unless said otherwise. */
export const memberOf = (n: number, clipName: string, more: Partial<Member> = {}): Member => ({
  clipId: uuid(n) as Member['clipId'],
  clipName,
  screenSeconds: n,
  file: {
    mediaFileId: uuid(100 + n) as NonNullable<Member['file']>['mediaFileId'],
    version: '1',
    name: clipName,
    placeName: 'KILN_B',
    folder: 'rushes',
  },
  verdicts: null,
  fits: true,
  certain: true,
  differs: [],
  interpretation: null,
  after: { status: 'linked' },
  leftOut: null,
  offset: null,
  ...more,
});

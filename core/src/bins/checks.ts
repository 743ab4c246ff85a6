import type { MediaKind } from '../model/edit.ts';
import type { MediaFileId } from '../model/ids.ts';
import type { Facts } from '../model/media.ts';
import { formatRate, type Rate } from '../time/rate.ts';
import { intersectRanges, overlapsUnited, uniteRanges, type FrameRange } from '../time/range.ts';
import { recordingOf } from './gather.ts';

/** Where a clip stands on the roll it was recorded on, as the edit and its file tell. */
export type OnReel = {
  readonly reel: string | null;
  /** Source frames at `rate`, as text so that only equal ones are held against each other. */
  readonly rate: string;
  /** All of the recording; null where nothing says so, or it carries no timecode. */
  readonly holds: FrameRange | null;
  /** What is known to lie on the reel: all of it, else what events use. */
  readonly shows: FrameRange | null;
  /** What it is, whatever it is called: rows of one recording are not held against each other. */
  readonly recording: string;
  /** Only pictures are told apart by reel and timecode: sound runs along with them, under the same numbers. */
  readonly isPicture: boolean;
};
/** What is held against others of its reel. */
export type ReelRow = OnReel & { readonly id: string };
/** A row of a bin as its checks look at it, with its texts by column. */
export type RowToCheck = ReelRow & {
  readonly values: Readonly<Record<string, string>>;
  readonly isLogged: boolean;
  readonly isUsed: boolean;
};

/** What says where a clip stands on its reel: ranges in frames at the clip's rate, as it is read now. */
export type ClipOnReel = {
  readonly name: string;
  readonly remembered: string | null;
  readonly reel: string | null;
  readonly kind: MediaKind | null;
  readonly rate: Rate;
  readonly available: FrameRange | null;
  readonly used: FrameRange | null;
  readonly tied: { readonly id: MediaFileId; readonly facts: Facts | null } | null;
};

const pictures: ReadonlySet<MediaKind | null> = new Set<MediaKind>(['picture', 'sequence']);

/**
 * Where a clip stands on its reel. The edit's reel goes before the file's, which often has none; of timecode the file tells
 * what it carries, however the edit counts it. While a clip is dark, what does not count from zero stands as the edit says.
 */
export function onReel({ name, remembered, reel, kind, rate, available, used, tied }: ClipOnReel): OnReel {
  const facts = tied?.facts ?? null;
  const measured = facts && measuredRange(facts);
  const stated = facts === null && available !== null && available.start > 0 ? available : null;
  const ofEdit = { name, remembered, reel, rate: formatRate(rate), start: available?.start ?? null };
  return {
    reel: reel ?? facts?.reel ?? null,
    rate: measured ? formatRate(measured.rate) : ofEdit.rate,
    holds: measured?.range ?? stated,
    shows: measured?.range ?? available ?? used,
    recording: recordingOf({ tiedTo: tied?.id ?? null, ...ofEdit }),
    isPicture: pictures.has(facts?.kind ?? kind),
  };
}

/** The frames that a file carries timecode for; null where it carries none. */
function measuredRange({ timecodeSource, rate, start, length }: Facts): { rate: Rate; range: FrameRange } | null {
  if (timecodeSource === 'none' || rate === null || length === null) return null;
  return { rate, range: { start, end: start + length } };
}

/** Pictures of no reel. */
type ReelBlank = { readonly code: 'reel-blank'; readonly ids: readonly string[] };
/** Recordings of one reel whose timecode overlaps: one of the two reels is called wrongly, or a clock was set back. */
type ReelOverlaps = { readonly code: 'reel-overlaps'; readonly reel: string; readonly ids: readonly string[] };

/** What is odd in a bin: a finding names the rows it is about, and the column where it is to be seen. */
export type BinFinding =
  | ReelBlank
  | ReelOverlaps
  /** All but a few agree. */
  | {
      readonly code: 'odd-one-out';
      readonly column: string;
      readonly usual: string;
      readonly agreeing: number;
      readonly ids: readonly string[];
    }
  /** A row of a log that no clip of an edit is, and the other way round. */
  | { readonly code: 'log-without-clip'; readonly ids: readonly string[] }
  | { readonly code: 'clip-without-log'; readonly ids: readonly string[] };

/** So many must agree before one that does not is odd, and so few in a hundred may be. */
const leastAgreeing = 5;
const mostOddIn100 = 10;

/** What is odd about some rows, most telling first. `columns` are those in which most rows of a bin should agree. */
export function checkBin(rows: readonly RowToCheck[], columns: readonly string[]): BinFinding[] {
  const logged = rows.filter((r) => r.isLogged);
  const used = rows.filter((r) => r.isUsed);
  const isOfLog = sameAsOneOf(logged);
  const isInEdit = sameAsOneOf(used);
  const loggedReels = new Set(logged.flatMap((r) => r.reel ?? []));
  const withoutClip = used.length === 0 ? [] : logged.filter((r) => !isInEdit(r));
  // Only of reels that were logged at all: of others nobody promised a row.
  const withoutLog = used.filter((r) => r.reel !== null && loggedReels.has(r.reel) && !isOfLog(r));
  const findings: BinFinding[] = [
    ...overlapsIn(rows),
    ...columns.flatMap((column) => oddIn(rows, column)),
    blankIn(rows),
    { code: 'log-without-clip', ids: idsOf(withoutClip) },
    { code: 'clip-without-log', ids: idsOf(withoutLog) },
  ];
  return findings.filter((finding) => finding.ids.length > 0);
}
const idsOf = (rows: readonly ReelRow[]) => rows.map((r) => r.id);

/** What is odd about the reels of these alone. */
export const checkReels = (rows: readonly ReelRow[]): (ReelBlank | ReelOverlaps)[] => [
  ...overlapsIn(rows),
  blankIn(rows),
];

const blankIn = (rows: readonly ReelRow[]): ReelBlank => ({
  code: 'reel-blank',
  ids: idsOf(rows.filter((r) => r.isPicture && (r.reel ?? '').trim() === '' && r.holds !== null)),
});

/** Whether a row speaks of what one of these does: the same recording, or the same stretch of the same reel. */
function sameAsOneOf(rows: readonly RowToCheck[]): (row: RowToCheck) => boolean {
  const recordings = new Set(rows.map((r) => r.recording));
  const reels = new Map<string, FrameRange[]>();
  for (const row of rows) {
    if (!row.shows || !row.reel) continue;
    const ranges = reels.get(reelKey(row));
    if (ranges) ranges.push(row.shows);
    else reels.set(reelKey(row), [row.shows]);
  }
  // Thousands may lie on one reel.
  const united = new Map([...reels].map(([reel, ranges]) => [reel, uniteRanges(ranges)]));
  return (row) =>
    recordings.has(row.recording) || (row.shows !== null && overlapsUnited(united.get(reelKey(row)) ?? [], row.shows));
}
const reelKey = (row: OnReel) => `${row.reel}\u0000${row.rate}`;

/** Rows of one reel, sorted by where they begin, that overlap one another. */
function overlapsIn(rows: readonly ReelRow[]): ReelOverlaps[] {
  const reels = new Map<string, HeldRow[]>();
  for (const row of rows) {
    if (!isHeld(row)) continue;
    const list = reels.get(reelKey(row));
    if (list) list.push(row);
    else reels.set(reelKey(row), [row]);
  }
  return [...reels.values()].flatMap((list): ReelOverlaps[] => {
    const sorted = list.toSorted((a, b) => a.holds.start - b.holds.start);
    const ids = new Set<string>();
    let furthest = sorted[0]!;
    for (const row of sorted.slice(1)) {
      if (row.recording !== furthest.recording && intersectRanges(row.holds, furthest.holds))
        ids.add(furthest.id).add(row.id);
      if (row.holds.end > furthest.holds.end) furthest = row;
    }
    return ids.size === 0 ? [] : [{ code: 'reel-overlaps', reel: sorted[0]!.reel, ids: [...ids] }];
  });
}

type HeldRow = ReelRow & { readonly reel: string; readonly holds: FrameRange };
const isHeld = (row: ReelRow): row is HeldRow => row.isPicture && !!row.reel?.trim() && row.holds !== null;

function oddIn(rows: readonly RowToCheck[], column: string): BinFinding[] {
  const known = rows.filter((r) => (r.values[column] ?? '') !== '');
  const counts = new Map<string, number>();
  for (const row of known) counts.set(row.values[column]!, (counts.get(row.values[column]!) ?? 0) + 1);
  const [usual, agreeing] = [...counts].reduce((most, one) => (one[1] > most[1] ? one : most), ['', 0]);
  const odd = known.filter((r) => r.values[column] !== usual);
  // Of few rows one alone is odd: "these twelve agree in all but one".
  const isOdd = odd.length === 1 || odd.length * 100 <= known.length * mostOddIn100;
  if (agreeing < leastAgreeing || odd.length === 0 || !isOdd) return [];
  return [{ code: 'odd-one-out', column, usual, agreeing, ids: odd.map((r) => r.id) }];
}

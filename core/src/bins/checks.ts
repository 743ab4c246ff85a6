import { intersectRanges, type FrameRange } from '../time/range.ts';

/** A row of a bin as its checks look at it: texts by column, and where its reel is known, what it holds of it. */
export type RowToCheck = {
  readonly id: string;
  readonly values: Readonly<Record<string, string>>;
  readonly reel: string | null;
  /** Source frames at `rate`, as text so that only equal ones are held against each other. */
  readonly rate: string;
  readonly holds: FrameRange | null;
  /** What it is, whatever it is called: rows of one recording are not held against each other. */
  readonly recording: string;
  readonly isLogged: boolean;
  readonly isUsed: boolean;
};

/** What is odd in a bin: a finding names the rows it is about, and the column where it is to be seen. */
export type BinFinding =
  | { readonly code: 'reel-blank'; readonly ids: readonly string[] }
  /** Recordings of one reel whose timecode overlaps: one of the two reels is called wrongly, or a clock was set back. */
  | { readonly code: 'reel-overlaps'; readonly reel: string; readonly ids: readonly string[] }
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
  const blank = rows.filter((r) => (r.reel ?? '').trim() === '' && r.holds !== null);
  const withoutClip = used.length === 0 ? [] : logged.filter((r) => !isInEdit(r));
  // Only of reels that were logged at all: of others nobody promised a row.
  const withoutLog = used.filter((r) => r.reel !== null && loggedReels.has(r.reel) && !isOfLog(r));
  const findings: BinFinding[] = [
    ...overlapsIn(rows),
    ...columns.flatMap((column) => oddIn(rows, column)),
    { code: 'reel-blank', ids: idsOf(blank) },
    { code: 'log-without-clip', ids: idsOf(withoutClip) },
    { code: 'clip-without-log', ids: idsOf(withoutLog) },
  ];
  return findings.filter((finding) => finding.ids.length > 0);
}
const idsOf = (rows: readonly RowToCheck[]) => rows.map((r) => r.id);

/** Whether a row speaks of what one of these does: the same recording, or the same stretch of the same reel. */
function sameAsOneOf(rows: readonly RowToCheck[]): (row: RowToCheck) => boolean {
  const recordings = new Set(rows.map((r) => r.recording));
  const reels = new Map<string, FrameRange[]>();
  for (const row of rows)
    if (row.holds && row.reel) reels.set(reelKey(row), [...(reels.get(reelKey(row)) ?? []), row.holds]);
  return (row) =>
    recordings.has(row.recording) ||
    (row.holds !== null && (reels.get(reelKey(row)) ?? []).some((r) => intersectRanges(r, row.holds!) !== null));
}
const reelKey = (row: RowToCheck) => `${row.reel}\u0000${row.rate}`;

/** Rows of one reel, sorted by where they begin, that overlap one another. */
function overlapsIn(rows: readonly RowToCheck[]): BinFinding[] {
  const reels = new Map<string, (RowToCheck & { holds: FrameRange })[]>();
  for (const row of rows) {
    // What counts from zero was not timed at all, as half of all files are.
    if (!row.reel?.trim() || row.holds === null || row.holds.start === 0) continue;
    const list = reels.get(reelKey(row)) ?? [];
    list.push({ ...row, holds: row.holds });
    reels.set(reelKey(row), list);
  }
  return [...reels.values()].flatMap((list): BinFinding[] => {
    const sorted = list.toSorted((a, b) => a.holds.start - b.holds.start);
    const ids = new Set<string>();
    let furthest = sorted[0]!;
    for (const row of sorted.slice(1)) {
      if (row.recording !== furthest.recording && intersectRanges(row.holds, furthest.holds))
        ids.add(furthest.id).add(row.id);
      if (row.holds.end > furthest.holds.end) furthest = row;
    }
    return ids.size === 0 ? [] : [{ code: 'reel-overlaps', reel: sorted[0]!.reel!, ids: [...ids] }];
  });
}

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

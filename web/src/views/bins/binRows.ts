import { gatherClips, isWithin, onReel, type BinPath, type RowToCheck } from '@legame/core/bins';
import type { BinClip, ClipRow } from '@legame/core/contract';
import { formatRate } from '@legame/core/time';
import type { ClipColumn } from '../../parts/table/columns.ts';

/** A row of a bin: a clip, with the clips of other documents that are the same recording. */
export type BinRow = {
  readonly id: string;
  /** All clips that it stands for; what is done to the row is done to each. */
  readonly ids: readonly string[];
  readonly row: ClipRow;
  readonly clip: BinClip;
  readonly uses: number;
  readonly seconds: number;
  readonly isLogged: boolean;
};

/** The rows of the list with all that is said of each clip; a clip that came in between the two is not there yet. */
export function binRows(rows: readonly ClipRow[], clips: readonly BinClip[], areGathered: boolean): BinRow[] {
  const saidOf = new Map(clips.map((c) => [c.id, c]));
  const both = rows.flatMap((row) => {
    const clip = saidOf.get(row.id);
    if (!clip) return [];
    const { id, bin, tied, name, remembered, reel } = row;
    const [rate, start] = [formatRate(clip.rate), clip.available?.start ?? null];
    return [{ id, bin, tiedTo: tied?.mediaFileId ?? null, name, remembered, reel, rate, start, row, clip }];
  });
  const gathered = areGathered ? gatherClips(both) : both.map((one) => [one]);
  return gathered.map((same) => {
    // Of a row of a log and an event of the cut, the event is what people know; the log says the rest.
    const first = same.find((one) => !one.clip.isLogged) ?? same[0]!;
    const values = Object.assign({}, ...same.map((one) => filled(one.clip.values)).toReversed()) as BinClip['values'];
    return {
      id: first.id,
      ids: same.map((one) => one.id),
      row: first.row,
      clip: { ...first.clip, values, written: [...new Set(same.flatMap((one) => one.clip.written))] },
      uses: same.reduce((sum, one) => sum + one.row.uses, 0),
      seconds: same.reduce((sum, one) => sum + one.row.usedSeconds, 0),
      isLogged: same.some((one) => one.clip.isLogged),
    };
  });
}
const filled = (values: BinClip['values']) =>
  Object.fromEntries(Object.entries(values).filter(([, value]) => value !== ''));

/** The rows that lie in a bin, or in any bin inside it. */
export const inBin = (rows: readonly BinRow[], bin: BinPath): BinRow[] => rows.filter((r) => isWithin(r.row.bin, bin));

/** What of a row is searched, in small letters. */
const searched = new WeakMap<BinRow, string>();
const textOf = (row: BinRow): string => {
  const known = searched.get(row);
  if (known !== undefined) return known;
  const { name, fileName, reel, folder, bin } = row.row;
  const text = [name, fileName, reel, folder, ...bin, ...Object.values(row.clip.values)].join(' ').toLowerCase();
  searched.set(row, text);
  return text;
};

export const matches = (row: BinRow, wanted: string): boolean => textOf(row).includes(wanted);

/** Puts what is asked of every row together before somebody types, a little at a time. Returns what ends that. */
export function readAhead(rows: readonly BinRow[], toCheck: (row: BinRow) => RowToCheck, atOnce = 500): () => void {
  let at = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const some = () => {
    for (const row of rows.slice(at, at + atOnce)) {
      textOf(row);
      toCheck(row);
    }
    at += atOnce;
    if (at < rows.length) timer = setTimeout(some, 10);
  };
  timer = setTimeout(some, 200);
  return () => clearTimeout(timer);
}

/** Columns in which the clips of a bin should mostly agree. */
export const agreeing = ['rate', 'raster', 'codec', 'sample-rate', 'channels'] as const;

/** Rows as their checks look at them, each made once; by the columns that tell. */
export function rowsToCheck(columns: readonly ClipColumn<BinRow>[]): (row: BinRow) => RowToCheck {
  const known = new WeakMap<BinRow, RowToCheck>();
  const telling = agreeing.map((id) => [id, columns.find((c) => c.id === id)?.text] as const);
  return (row) => {
    const before = known.get(row);
    if (before) return before;
    const { rate, available, used, facts } = row.clip;
    const { name, remembered, reel, kind, tied } = row.row;
    const made = {
      id: row.id,
      values: Object.fromEntries(telling.map(([column, text]) => [column, text?.(row) ?? ''])),
      isLogged: row.isLogged,
      isUsed: row.uses > 0,
      ...onReel({
        ...{ name, remembered, reel, kind, rate, available, used },
        tied: tied && { id: tied.mediaFileId, facts },
      }),
    };
    known.set(row, made);
    return made;
  };
}

import { normalSpeed, type Clip, type Edit, type Timeline } from '../model/edit.ts';
import { nameKey, reelKey } from '../paths/names.ts';
import { parseRememberedPath } from '../paths/remembered.ts';
import {
  convertFrames,
  convertRangeOutward,
  rangeContains,
  rangeLength,
  uniteRanges,
  type FrameRange,
} from '../time/range.ts';
import { formatRate, nominalRate, type Rate } from '../time/rate.ts';
import { formatPosition, type Counting } from '../time/timecode.ts';

/** What is fetched as one: a file of a reel, by one count of timecode. */
export type Source = {
  readonly reel: string | null;
  /** The folders that tell the file from its namesakes, top first; '' where its reel does, absent in older requests. */
  readonly folder?: string | undefined;
  readonly file: string;
  readonly rate: Rate;
  readonly counting: Counting;
};
/** One stretch of one source to fetch from its reel: used ranges with handles, united where they meet. */
export type PullRow = Source & {
  readonly remembered: string | null;
  /** Every clip name under which this stretch is used. */
  readonly names: readonly string[];
  readonly range: FrameRange;
};
/** A source with all that is to be fetched of it, and the clips that want it. `key` is alike however it is spelled. */
export type PullSource<C> = Source & {
  readonly key: string;
  readonly ranges: readonly FrameRange[];
  readonly rows: readonly PullRow[];
  readonly clips: readonly C[];
};

export type Pulled = Pick<Clip, 'name' | 'reel' | 'remembered' | 'rate' | 'counting' | 'used' | 'available'>;

/** So many frames before and after what is used, at a rate; of what counts in samples, as long as these frames last. */
export type Handles = { readonly frames: number; readonly rate: Rate };

/**
 * What has to be fetched so that every use of these clips, with handles at each end, is there: by reel, then by file.
 * Handles end where the edit says that the media ends, and never go below zero.
 */
export function pullSources<C extends Pulled>(clips: readonly C[], handles: Handles): PullSource<C>[] {
  const groups = new Map<string, C[]>();
  for (const clip of clips) {
    const key = sourceKey(clip);
    const known = groups.get(key);
    if (known) known.push(clip);
    else groups.set(key, [clip]);
  }
  const sources = [...groups].map(([key, list]): PullSource<C> => {
    const { reel, rate, counting } = list[0]!;
    const source = { reel, folder: foldersOf(list[0]!).join('/'), file: fileNameOf(list[0]!), rate, counting };
    const wanted = list.flatMap((clip) => clip.used.map((used) => ({ range: withHandles(clip, used, handles), clip })));
    const ranges = uniteRanges(wanted.map((w) => w.range));
    const rows = ranges.map((range): PullRow => {
      const inside = wanted.filter((w) => rangeContains(range, w.range));
      // Reels are used again: each stretch lies where its own clips say.
      const { remembered } = inside[0]!.clip;
      return { ...source, remembered, names: [...new Set(inside.map((w) => w.clip.name))], range };
    });
    return { ...source, key, ranges, rows, clips: list };
  });
  return sources.toSorted(byReel);
}

type Sorted = { readonly reel: string | null; readonly file: string; readonly key: string };
/** In the order people count in; what has no reel comes last. */
export const byReel = (a: Sorted, b: Sorted): number =>
  order(a.reel ?? '\uffff', b.reel ?? '\uffff') || order(a.file, b.file) || (a.key < b.key ? -1 : 1);
const order = (a: string, b: string) => a.localeCompare(b, 'en', { numeric: true });

/** The same, stretch by stretch. */
export const pullList = (clips: readonly Pulled[], handles: Handles): PullRow[] =>
  pullSources(clips, handles).flatMap((source) => source.rows);

const fileNameOf = ({ remembered, name }: Pulled) => (remembered ? parseRememberedPath(remembered).name : name);

/**
 * Documents spell one path in many ways; on one reel, a file's name says which it is. Without a reel its folders do: every
 * card begins with the same names.
 */
function sourceKey(clip: Pulled): string {
  const { reel, rate, counting } = clip;
  const folders = foldersOf(clip).map(nameKey);
  return JSON.stringify([reelKey(reel ?? ''), nameKey(fileNameOf(clip)), formatRate(rate), counting, ...folders]);
}

const foldersOf = ({ reel, remembered }: Pulled): readonly string[] =>
  reel === null && remembered !== null ? parseRememberedPath(remembered).folders : [];

/** What a source is called where nothing else tells it from others. */
export const sourceName = ({ folder, file }: Pick<Source, 'folder' | 'file'>): string =>
  folder ? `${folder}/${file}` : file;

function withHandles({ available, rate }: Pulled, used: FrameRange, handles: Handles): FrameRange {
  const frames = isInSamples(rate) ? convertFrames(handles.frames, handles.rate, rate, 'up') : handles.frames;
  const least = Math.min(used.start, Math.max(0, available?.start ?? 0));
  const most = Math.max(used.end, available?.end ?? Infinity);
  return { start: Math.max(least, used.start - frames), end: Math.min(most, used.end + frames) };
}
const isInSamples = (rate: Rate) => nominalRate(rate) > 1000;

export const pullHeaders = ['Reel', 'File', 'Clip', 'Start', 'End', 'Length', 'Frames', 'Rate'] as const;

export const pullTable = (rows: readonly PullRow[]): string[][] =>
  rows.map(({ reel, folder, file, names, range, rate, counting }) => [
    reel ?? '',
    sourceName({ folder, file }),
    names.join('; '),
    formatPosition(range.start, rate, counting),
    formatPosition(range.end, rate, counting),
    formatPosition(rangeLength(range), rate, 'non-drop'),
    String(rangeLength(range)),
    formatRate(rate),
  ]);

/**
 * The rows as an edit of one timeline, laid end to end from one hour on, for a list that a transfer can follow. Only
 * rows at one nominal rate fit in a list: those at the rate most rows have, with sound counted at it; `leftOut` counts
 * the others.
 */
export function pullAsEdit(rows: readonly PullRow[], title: string): { edit: Edit; leftOut: number } {
  const counts = new Map<number, number>();
  const isSound = (row: PullRow) => isInSamples(row.rate);
  for (const row of rows)
    if (!isSound(row)) counts.set(nominalRate(row.rate), (counts.get(nominalRate(row.rate)) ?? 0) + 1);
  const [nominal = 25] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? [];
  const pictures = rows.filter((row) => nominalRate(row.rate) === nominal);
  const { rate, counting } = pictures[0] ?? { rate: { num: nominal, den: 1 }, counting: 'non-drop' as const };
  const fitting = rows.flatMap((row): PullRow[] => {
    if (isSound(row)) return [{ ...row, range: convertRangeOutward(row.range, row.rate, rate), rate, counting }];
    return nominalRate(row.rate) === nominal ? [row] : [];
  });
  const start = nominal * 3600;
  let at = start;
  const clips = fitting.map((row, i): Clip => ({
    key: `clip-${i + 1}`,
    name: row.names[0] ?? row.file,
    reel: row.reel,
    remembered: row.remembered,
    kind: null,
    rate: row.rate,
    counting: row.counting,
    available: null,
    raster: null,
    used: [row.range],
    binKey: null,
    addresses: [],
    metadata: {},
  }));
  const events = fitting.map((row, i) => {
    const record = { start: at, end: at + rangeLength(row.range) };
    at = record.end;
    return {
      number: i + 1,
      name: clips[i]!.name,
      track: 'V1',
      trackKind: 'picture' as const,
      clipKey: clips[i]!.key,
      nestedKey: null,
      source: row.range,
      record,
      head: 0,
      tail: 0,
      speed: normalSpeed,
      transition: null,
      rounded: false,
      address: '',
    };
  });
  const timeline: Timeline = {
    key: 'timeline-1',
    name: title,
    rate,
    counting,
    start,
    length: at - start,
    top: true,
    events,
  };
  return { edit: { title, bins: [], clips, timelines: [timeline] }, leftOut: rows.length - fitting.length };
}

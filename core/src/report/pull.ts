import { normalSpeed, type Clip, type Edit, type Timeline } from '../model/edit.ts';
import { nameKey, reelKey } from '../paths/names.ts';
import { parseRememberedPath } from '../paths/remembered.ts';
import { convertRangeOutward, rangeLength, uniteRanges, type FrameRange } from '../time/range.ts';
import { formatRate, nominalRate, type Rate } from '../time/rate.ts';
import { formatPosition, type Counting } from '../time/timecode.ts';

/** One stretch of one source to fetch from its reel: used ranges with handles, united where they meet. */
export type PullRow = {
  readonly reel: string | null;
  readonly file: string;
  readonly remembered: string | null;
  /** Every clip name under which this stretch is used. */
  readonly names: readonly string[];
  readonly range: FrameRange;
  readonly rate: Rate;
  readonly counting: Counting;
};

type Pulled = Pick<Clip, 'name' | 'reel' | 'remembered' | 'rate' | 'counting' | 'used' | 'available'>;

/**
 * What has to be fetched so that every use of these clips, with `handles` frames at each end, is there: by reel, then by
 * file, then by timecode. Handles end where the edit says that the media ends, and never go below zero.
 */
export function pullList(clips: readonly Pulled[], handles: number): PullRow[] {
  const groups = new Map<string, { clip: Pulled; ranges: { range: FrameRange; name: string }[] }>();
  for (const clip of clips) {
    // Documents spell one path in many ways; on one reel, a file's name says which it is.
    const file = nameKey(clip.remembered ? parseRememberedPath(clip.remembered).name : clip.name);
    const key = [reelKey(clip.reel ?? ''), file, clip.rate.num, clip.rate.den, clip.counting].join('\u0000');
    const group = groups.get(key) ?? { clip, ranges: [] };
    groups.set(key, group);
    for (const used of clip.used) {
      const least = Math.min(used.start, Math.max(0, clip.available?.start ?? 0));
      const most = Math.max(used.end, clip.available?.end ?? Infinity);
      const range = { start: Math.max(least, used.start - handles), end: Math.min(most, used.end + handles) };
      group.ranges.push({ range, name: clip.name });
    }
  }
  const rows = [...groups.values()].flatMap(({ clip, ranges }) =>
    uniteRanges(ranges.map((r) => r.range)).map((range): PullRow => {
      const inside = ranges.filter((r) => r.range.start >= range.start && r.range.end <= range.end);
      const { reel, remembered, rate, counting } = clip;
      const file = remembered ? parseRememberedPath(remembered).name : clip.name;
      return { reel, file, remembered, names: [...new Set(inside.map((r) => r.name))], range, rate, counting };
    }),
  );
  const order = (a: string, b: string) => a.localeCompare(b, 'en', { numeric: true });
  return rows.toSorted(
    (a, b) => order(a.reel ?? '\uffff', b.reel ?? '\uffff') || order(a.file, b.file) || a.range.start - b.range.start,
  );
}

export const pullHeaders = ['Reel', 'File', 'Clip', 'Start', 'End', 'Length', 'Frames', 'Rate'] as const;

export const pullTable = (rows: readonly PullRow[]): string[][] =>
  rows.map(({ reel, file, names, range, rate, counting }) => [
    reel ?? '',
    file,
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
  const isSound = (row: PullRow) => nominalRate(row.rate) > 1000;
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

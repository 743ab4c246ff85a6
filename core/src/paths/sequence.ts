import type { SequenceFrames } from '../model/media.ts';

/** Fewer numbered stills than this in a row are taken for single pictures: a scan of six pages is not a film. */
export const leastSequenceLength = 8;

/** Between two numbers of digits that are one run, so many frames may be missing at most. */
const mostMissingBetween = 8;

const numbered = /^(.*?)(\d{1,9})(\.(?:dpx|exr|tiff?|png|jpe?g|tga|cin))$/is;

type Member = { readonly number: number; readonly name: string };
type Run = { readonly prefix: string; readonly suffix: string; readonly padding: number; readonly members: Member[] };

/**
 * Finds numbered image sequences among the file names of one folder. A sequence is a run of equal prefix, extension
 * and padding with at least `leastSequenceLength` members of which at least half of the span is there. A number that
 * outgrows the padding goes on with more digits.
 */
export function findSequences(names: readonly string[]): {
  sequences: { frames: SequenceFrames; members: string[] }[];
  singles: string[];
} {
  const groups = new Map<string, Run[]>();
  const singles: string[] = [];
  for (const name of names) {
    const match = numbered.exec(name);
    if (!match) {
      singles.push(name);
      continue;
    }
    const [, prefix = '', digits = '', suffix = ''] = match;
    const key = `${prefix}\u0000${suffix}`;
    const runs = groups.get(key) ?? [];
    groups.set(key, runs);
    const known = runs.find((run) => run.padding === digits.length);
    const member = { number: Number(digits), name };
    if (known) known.members.push(member);
    else runs.push({ prefix, suffix, padding: digits.length, members: [member] });
  }
  const sequences: { frames: SequenceFrames; members: string[] }[] = [];
  for (const { prefix, suffix, padding, members } of [...groups.values()].flatMap(joined)) {
    const first = members[0]!.number;
    const last = members.at(-1)!.number;
    const isFew = members.length < leastSequenceLength || last < 10;
    if (isFew || members.length * 2 < last - first + 1) {
      for (const { name } of members) singles.push(name);
      continue;
    }
    const present = new Set(members.map((m) => m.number));
    const missing: number[] = [];
    for (let n = first; n <= last; n += 1) if (!present.has(n)) missing.push(n);
    sequences.push({ frames: { prefix, suffix, padding, first, last, missing }, members: members.map((m) => m.name) });
  }
  return { sequences, singles };
}

/** Runs of one name by number, those that go on where the padding of another ends as part of that. */
function joined(runs: readonly Run[]): Run[] {
  const sorted = runs
    .map((run) => ({ ...run, members: run.members.toSorted((a, b) => a.number - b.number) }))
    .sort((a, b) => a.padding - b.padding);
  const found: Run[] = [];
  for (const run of sorted) {
    const before = found.at(-1);
    const [ends, begins] = [before?.members.at(-1), run.members[0]!];
    const goesOn =
      ends !== undefined &&
      begins.number >= 10 ** (run.padding - 1) &&
      begins.number > ends.number &&
      begins.number - ends.number - 1 <= mostMissingBetween &&
      // Numbers of one digit say little: with a few more it is a handful of scans and no film.
      (before!.padding > 1 || run.members.length >= leastSequenceLength || before!.members.length > 9);
    // One by one: there may be more of them than a call takes.
    if (goesOn) for (const member of run.members) before!.members.push(member);
    else found.push(run);
  }
  return found;
}

/** The file name of one frame number. */
export const frameName = (s: SequenceFrames, number: number): string =>
  `${s.prefix}${String(number).padStart(s.padding, '0')}${s.suffix}`;

/** How a sequence is named in lists and compared by name: its first frame with the number as a run of "#". */
export const sequenceName = (s: Pick<SequenceFrames, 'prefix' | 'suffix' | 'padding'>): string =>
  `${s.prefix}${'#'.repeat(s.padding)}${s.suffix}`;

/**
 * The sequence that a name may stand for: "title_####.png", "title_%04d.png" and "title_[1001-1100].png" say so, and
 * "title_1001.png" may be its first picture. `name` is as `sequenceName` writes it; `number` the one picture named.
 */
export function sequenceNamed(name: string): { readonly name: string; readonly number: number | null } | null {
  const pattern = /^(.*?)(?:%0?(\d{0,2})d|\[(\d{2,9})-\d{2,9}\]|([#@]{2,9}))(\.[a-z0-9]+)$/is.exec(name);
  if (pattern) {
    const [, prefix = '', width, first, marks, suffix = ''] = pattern;
    const padding = width === undefined ? (first ?? marks ?? '').length : Number(width || 1);
    return { name: sequenceName({ prefix, suffix, padding }), number: null };
  }
  const image = numbered.exec(name);
  if (!image) return null;
  const [, prefix = '', digits = '', suffix = ''] = image;
  return { name: sequenceName({ prefix, suffix, padding: digits.length }), number: Number(digits) };
}

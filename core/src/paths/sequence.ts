import type { SequenceFrames } from '../model/media.ts';

/** Fewer numbered stills than this in a row are taken for single pictures: a scan of six pages is not a film. */
export const leastSequenceLength = 8;

const numbered = /^(.*?)(\d{2,9})(\.(?:dpx|exr|tiff?|png|jpe?g|tga|cin))$/is;

/**
 * Finds numbered image sequences among the file names of one folder. A sequence is a run of equal prefix, extension
 * and padding with at least `leastSequenceLength` members of which at least half of the span is there.
 */
export function findSequences(names: readonly string[]): {
  sequences: { frames: SequenceFrames; members: string[] }[];
  singles: string[];
} {
  const groups = new Map<
    string,
    { prefix: string; suffix: string; padding: number; members: { number: number; name: string }[] }
  >();
  const singles: string[] = [];
  for (const name of names) {
    const match = numbered.exec(name);
    if (!match) {
      singles.push(name);
      continue;
    }
    const [, prefix = '', digits = '', suffix = ''] = match;
    const key = `${prefix}\u0000${digits.length}\u0000${suffix}`;
    const group = groups.get(key) ?? { prefix, suffix, padding: digits.length, members: [] };
    group.members.push({ number: Number(digits), name });
    groups.set(key, group);
  }
  const sequences: { frames: SequenceFrames; members: string[] }[] = [];
  for (const { prefix, suffix, padding, members } of groups.values()) {
    members.sort((a, b) => a.number - b.number);
    const first = members[0]!.number;
    const last = members.at(-1)!.number;
    if (members.length < leastSequenceLength || members.length * 2 < last - first + 1) {
      singles.push(...members.map((m) => m.name));
      continue;
    }
    const present = new Set(members.map((m) => m.number));
    const missing: number[] = [];
    for (let n = first; n <= last; n += 1) if (!present.has(n)) missing.push(n);
    sequences.push({ frames: { prefix, suffix, padding, first, last, missing }, members: members.map((m) => m.name) });
  }
  return { sequences, singles };
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
  const pattern = /^(.*?)(?:%0?(\d{1,2})d|\[(\d{2,9})-\d{2,9}\]|([#@]{2,9}))(\.[a-z0-9]+)$/is.exec(name);
  if (pattern) {
    const [, prefix = '', width, first, marks, suffix = ''] = pattern;
    const padding = width ? Number(width) : (first ?? marks ?? '').length;
    return { name: sequenceName({ prefix, suffix, padding }), number: null };
  }
  const image = numbered.exec(name);
  if (!image) return null;
  const [, prefix = '', digits = '', suffix = ''] = image;
  return { name: sequenceName({ prefix, suffix, padding: digits.length }), number: Number(digits) };
}

import type { Judged } from './grounds.ts';
import { marksUnder, nameGradeIn, type RuleBits, verdictIn, verdictRank } from './marks.ts';
import { type Attribute, attributes } from './rules.ts';
import type { Candidate, FileInHand } from './weigh.ts';

/** A candidate with its marks as the rules take them. */
export type JudgedCandidate = Judged & { readonly c: Candidate<FileInHand> };

export const judgedUnder = (bits: RuleBits, c: Candidate<FileInHand>): JudgedCandidate => ({
  c,
  marks: c.marks,
  seen: marksUnder(bits, c.marks),
});

/**
 * Whether two files may be two recordings: where no bytes were read, nobody knows better. Of a clip's candidates those
 * that have a form are one recording in several.
 */
export const mayBeOther = ({ c: a }: JudgedCandidate, { c: b }: JudgedCandidate): boolean =>
  a !== b && (a.file.bytes === null || a.file.bytes !== b.file.bytes) && !(a.form && b.form);

/** The one of two files that was written on another day is no worse: copies lose their dates. */
const compared: readonly Attribute[] = attributes.filter((a) => a !== 'date' && a !== 'folder');

/** By how much `a` agrees better than `b`; below zero where it does worse. */
export function difference(a: JudgedCandidate, b: JudgedCandidate, attribute: Attribute): number {
  // Where folders are ignored, both are unknown there.
  if (attribute === 'folder')
    return verdictIn(a.seen, 'folder') === 'unknown' && verdictIn(b.seen, 'folder') === 'unknown'
      ? 0
      : a.c.levels - b.c.levels;
  const by = verdictRank[verdictIn(a.seen, attribute)] - verdictRank[verdictIn(b.seen, attribute)];
  // Of two namesakes the one whose reel stands in some name, or is cut, is no better than the one that states none.
  if (attribute === 'reel' && Math.abs(by) === 1 && isReelAside(a) && isReelAside(b)) return 0;
  // Among namesakes that are otherwise equal, the one written exactly so.
  return attribute === 'name' && by === 0 ? spelling(a) - spelling(b) : by;
}

const isReelAside = ({ seen }: JudgedCandidate): boolean =>
  verdictIn(seen, 'name') === 'agrees' && ['nearly', 'unknown'].includes(verdictIn(seen, 'reel'));

const spelling = ({ marks }: JudgedCandidate): number => {
  const grade = nameGradeIn(marks);
  return grade === 'case' || grade === 'unicode' ? 0 : 1;
};

/** Whether `a` is better than `b` in something that counts and worse in nothing. */
export function beats(a: JudgedCandidate, b: JudgedCandidate, byFolder: boolean): boolean {
  let better = false;
  for (const attribute of compared) {
    const by = difference(a, b, attribute);
    if (by < 0) return false;
    if (by > 0) better = true;
  }
  if (!byFolder) return better;
  const levels = difference(a, b, 'folder');
  return levels >= 0 && (better || levels > 0);
}

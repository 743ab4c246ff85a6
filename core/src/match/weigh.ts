import { checks } from './evidence/index.ts';
import type { Evidence, Verdict } from './evidence/evidence.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';
import { attributes, type Attribute } from './rules.ts';

/** A media file that may be the right one, with the evidence for and against, in the order of `attributes`. */
export type Candidate = { readonly file: PreparedFile; readonly evidence: readonly Evidence[] };

/** Weighs one file for one clip, attribute by attribute. Rules have no say here. */
export const weigh = (clip: PreparedClip, file: PreparedFile): Candidate => ({
  file,
  evidence: checks.map((check) => {
    const { verdict, finding } = check.weigh(clip, file);
    return { attribute: check.attribute, verdict, finding };
  }),
});

const positions = Object.fromEntries(attributes.map((attribute, i) => [attribute, i])) as Readonly<
  Record<Attribute, number>
>;

/** Evidence always stands in the order of `attributes`. */
export const evidenceFor = (evidence: readonly Evidence[], attribute: Attribute): Evidence =>
  evidence[positions[attribute]]!;
export const verdictOf = (evidence: readonly Evidence[], attribute: Attribute): Verdict =>
  evidenceFor(evidence, attribute).verdict;

const importance: Readonly<Record<Attribute, number>> = {
  name: 6,
  folder: 2,
  reel: 4,
  timecode: 5,
  length: 3,
  rate: 1,
  raster: 1,
};
const worth: Readonly<Record<Verdict, number>> = { agrees: 2, nearly: 1, unknown: 0, differs: -2 };

/** Only for the order in which candidates are shown; decisions never rest on this sum. */
export function closeness(evidence: readonly Evidence[]): number {
  let sum = 0;
  for (const { attribute, verdict } of evidence) sum += importance[attribute] * worth[verdict];
  return sum + folderLevels(evidence) / 8;
}

/** Folder levels in common, for telling apart candidates that are alike in all else. */
export function folderLevels(evidence: readonly Evidence[]): number {
  const { finding } = evidenceFor(evidence, 'folder');
  return finding.code === 'folder-levels' ? finding.levels : 0;
}

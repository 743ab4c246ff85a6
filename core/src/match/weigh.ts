import { commonTailOfKeys } from '../paths/displacement.ts';
import { checks } from './evidence/index.ts';
import type { Evidence, Verdict } from './evidence/evidence.ts';
import { packMarks, verdictIn, type Marks } from './marks.ts';
import type { Form } from './forms.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';
import { attributes, type Attribute } from './rules.ts';

/**
 * A media file that may be the right one: `marks` is the evidence in short, `levels` how many folder levels agree. A
 * decision needs no more of the file than `FileInHand`, so that it can be made where the files are not.
 */
export type Candidate<F extends FileInHand = PreparedFile> = {
  readonly file: F;
  readonly marks: Marks;
  readonly levels: number;
  /** Which form of its recording it is, where the recording is among the candidates in more than one. */
  readonly form?: Form | null;
};
export type FileInHand = Pick<
  PreparedFile,
  'id' | 'placeId' | 'folder' | 'kind' | 'state' | 'bytes' | 'nameKey' | 'there' | 'reelKey'
>;

/** So many levels of folders, the drive among them, tell where a file lies; the lowest alone is called alike elsewhere. */
export const tellingLevels = 2;
/** Whether it lies at the end of all folders that the edit knows below the volume. */
export const liesAsSaid = ({ marks, levels }: Pick<Candidate, 'marks' | 'levels'>): boolean =>
  verdictIn(marks, 'folder') === 'agrees' && levels >= tellingLevels;

/** Weighs one file for one clip, attribute by attribute, in short. Rules have no say here. */
export const weigh = (clip: PreparedClip, file: PreparedFile): Candidate => ({
  file,
  marks: packMarks(checks, (check) => check.weigh(clip, file)),
  levels: commonTailOfKeys(clip.folderKeys, file.folderKeys),
});

/** The same in full: what was compared, and what came out, in the order of `attributes`. */
export const evidenceOf = (clip: PreparedClip, file: PreparedFile): Evidence[] =>
  checks.map((check) => {
    const { verdict, finding } = check.weigh(clip, file);
    return { attribute: check.attribute, verdict, finding };
  });

const importance: Readonly<Record<Attribute, number>> = {
  name: 6,
  folder: 2,
  reel: 4,
  timecode: 5,
  length: 3,
  rate: 1,
  raster: 1,
  content: 12,
  kind: 1,
  codec: 1,
  sound: 1,
  size: 2,
  date: 1,
};
const worth: Readonly<Record<Verdict, number>> = { agrees: 2, nearly: 1, unknown: 0, differs: -2 };

/** Only for the order in which candidates are shown; decisions never rest on this sum. */
export const closeness = ({ marks, levels }: Pick<Candidate, 'marks' | 'levels'>): number =>
  levels / 8 + lower[marks & (2 ** lowerBits - 1)]! + upper[(marks >> lowerBits) & (2 ** upperBits - 1)]!;

/** The sums for all marks there can be, worked out once: the first six attributes, then the rest. */
const lowerBits = 12;
const upperBits = attributes.length * 2 - lowerBits;
const sumOf = (marks: Marks): number =>
  attributes.reduce((sum, attribute) => sum + importance[attribute] * worth[verdictIn(marks, attribute)], 0);
const lower = Float64Array.from({ length: 2 ** lowerBits }, (_, i) => sumOf(i));
const upper = Float64Array.from({ length: 2 ** upperBits }, (_, i) => sumOf(i << lowerBits));

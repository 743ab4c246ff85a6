import { liesBeside, nameGradeIn, verdictIn, type Marks } from './marks.ts';
import { attributes, type Attribute } from './rules.ts';

/** What identifies a recording when nothing speaks against it. */
export const grounds = ['content', 'name-timecode-length', 'reel-timecode-length', 'name-reel-timecode'] as const;
export type Grounds = (typeof grounds)[number];

/** Marks as they are, and as the rules take them. */
export type Judged = { readonly marks: Marks; readonly seen: Marks };

/** A difference in any of these, where it counts, keeps a link from being certain. Names and folders may differ. */
const speakingAgainst: readonly Attribute[] = [
  'reel',
  'timecode',
  'length',
  'content',
  'kind',
  'codec',
  'sound',
  'size',
];
/** In these even "nearly" does: another raster or rate is another rendition, and choosing among those is a person's. */
const renditionMarks: readonly Attribute[] = ['rate', 'raster'];

/** What is known of the first frame that the edit states: null as `start`, where many recordings begin there. */
export type Beginning = { readonly start: number | null; readonly startIsCommon: boolean };

/**
 * What identifies the recording, or null when nothing does or something that counts speaks against it. Where the edit's
 * start is one that many takes of that name have (see `isCommonStart`), name and reel must both agree beside it; where it
 * is one that many recordings have, reel and length under wholly another name are not enough.
 */
export function groundsIn({ marks, seen }: Judged, { start, startIsCommon }: Beginning): Grounds | null {
  if (speakingAgainst.some((a) => verdictIn(seen, a) === 'differs')) return null;
  if (verdictIn(seen, 'content') === 'agrees') return 'content';
  if (renditionMarks.some((a) => verdictIn(seen, a) === 'nearly' || verdictIn(seen, a) === 'differs')) return null;
  if (verdictIn(seen, 'timecode') !== 'agrees') return null;
  const [name, reel, length] = [verdictIn(seen, 'name'), verdictIn(seen, 'reel'), verdictIn(seen, 'length')];
  if (length === 'agrees') {
    if (startIsCommon) return name === 'agrees' && reel === 'agrees' ? 'name-timecode-length' : null;
    if (name === 'agrees') return 'name-timecode-length';
    if (name === 'differs' && start === null) return null;
    // Another version of a picture has the reel, timecode and length of the first.
    return reel === 'agrees' && nameGradeIn(marks) !== 'version' ? 'reel-timecode-length' : null;
  }
  // A list states no length of the media, so all three that it does state are asked for; neighbours must bear it out.
  const isStated = name === 'agrees' && (reel === 'agrees' || reel === 'nearly');
  return isStated && length === 'unknown' ? 'name-reel-timecode' : null;
}

/** Worth asking about: the name or the reel with its timecode speaks for it. */
export function isPlausible({ marks, seen }: Judged, startIsCommon: boolean): boolean {
  if (verdictIn(seen, 'content') === 'agrees') return true;
  const [name, reel, timecode] = [verdictIn(seen, 'name'), verdictIn(seen, 'reel'), verdictIn(seen, 'timecode')];
  if (name === 'agrees') return reel !== 'differs' || timecode !== 'differs';
  if (name === 'nearly') return reel !== 'differs';
  const isOtherNumber = nameGradeIn(marks) === 'number';
  if (reel === 'agrees' && (timecode === 'agrees' || (timecode === 'nearly' && !isOtherNumber))) return true;
  // The same start and length under wholly another name; under the same name with another number it is another thing.
  return (
    timecode === 'agrees' &&
    verdictIn(seen, 'length') === 'agrees' &&
    reel !== 'differs' &&
    !(startIsCommon && isOtherNumber)
  );
}

/** Nothing that counts differs, and at least one thing beside the name, or reel and timecode, speaks for it. */
export function isLikely({ marks, seen }: Judged): boolean {
  if (nameGradeIn(marks) === 'version' || liesBeside(marks)) return false;
  if (attributes.some((a) => !mayDiffer.includes(a) && verdictIn(seen, a) === 'differs')) return false;
  const [name, reel, timecode] = [verdictIn(seen, 'name'), verdictIn(seen, 'reel'), verdictIn(seen, 'timecode')];
  if (verdictIn(seen, 'content') === 'agrees') return true;
  if (name === 'agrees' || name === 'nearly')
    return (
      timecode === 'agrees' ||
      verdictIn(seen, 'length') === 'agrees' ||
      (name === 'agrees' && (timecode === 'nearly' || reel === 'agrees' || verdictIn(seen, 'kind') === 'agrees'))
    );
  if (reel === 'agrees' && timecode === 'agrees') return true;
  // The same start and length under another name or number: others of its folder may bear it out.
  return timecode === 'agrees' && verdictIn(seen, 'length') === 'agrees';
}
const mayDiffer: readonly Attribute[] = ['name', 'folder', 'date'];

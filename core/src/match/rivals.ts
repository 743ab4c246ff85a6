import type { ClipInHand } from './decision.ts';
import type { Grounds } from './grounds.ts';
import { difference, type JudgedCandidate, mayBeOther } from './judged.ts';
import { nameGradeIn, verdictIn } from './marks.ts';

/** Of all that rules do not refuse, the files that keep what was taken from being certain. */
type Rule = (
  clip: ClipInHand,
  taken: JudgedCandidate,
  usable: readonly JudgedCandidate[],
) => readonly JudgedCandidate[];

/**
 * Cameras whose clocks are set alike roll from the same frame, now and then to the same frame. Then a name that stands
 * everywhere does not tell which: a file as long from the same start, nearer to where the edit says, may be the one
 * under another name.
 */
const besideIt: Rule = (clip, taken, usable) =>
  clip.nameIsCommon && verdictIn(taken.seen, 'reel') !== 'agrees'
    ? usable.filter(
        (one) =>
          one.c.levels > taken.c.levels &&
          mayBeOther(one, taken) &&
          verdictIn(one.seen, 'timecode') === 'agrees' &&
          verdictIn(one.seen, 'length') === 'agrees' &&
          verdictIn(one.seen, 'reel') !== 'differs',
      )
    : [];

/**
 * A row of a log tells which of its recordings a list means where no other fits what the list itself says: its name, its
 * reel, and what is used. These do.
 */
const alsoAsStated: Rule = (clip, taken, usable) =>
  clip.enriched
    ? usable.filter(
        (one) =>
          mayBeOther(one, taken) &&
          verdictIn(one.seen, 'timecode') !== 'differs' &&
          difference(taken, one, 'reel') <= 0 &&
          (clip.enriched === 'extent-and-name' || difference(taken, one, 'name') <= 0),
      )
    : [];

/**
 * Two files of one name that were put into one folder: one of them bears the mark of a copy now, and is none. Which of
 * them it is tells nobody, unless timecode and length do.
 */
const renamedForIt: Rule = (clip, taken, usable) =>
  usable.filter(
    (one) =>
      nameGradeIn(one.marks) === 'copy' &&
      one.c.file.placeId === taken.c.file.placeId &&
      one.c.file.folder === taken.c.file.folder &&
      mayBeOther(one, taken) &&
      told.every((attribute) => difference(taken, one, attribute) <= 0),
  );
const told = ['reel', 'timecode', 'length'] as const;

/**
 * A reel that stands in some name, or is cut, is as good as none: a namesake that holds what is used as well, and states
 * no reel, may be the one.
 */
const statingNone: Rule = (_, taken, usable) =>
  verdictIn(taken.seen, 'reel') === 'nearly'
    ? usable.filter(
        (one) =>
          mayBeOther(one, taken) &&
          one.c.levels >= taken.c.levels &&
          verdictIn(one.seen, 'name') === 'agrees' &&
          verdictIn(one.seen, 'timecode') === 'agrees' &&
          verdictIn(one.seen, 'reel') === 'unknown',
      )
    : [];

/** Another version has the reel, start and length of the first, and is as near as a file under wholly another name. */
const versions: Rule = (_, taken, usable) =>
  usable.filter(
    (one) =>
      nameGradeIn(one.marks) === 'version' &&
      mayBeOther(one, taken) &&
      (['reel', 'timecode', 'length'] as const).every((a) => verdictIn(one.seen, a) === 'agrees'),
  );

/** Content knows no rivals. */
const rulesBy: Readonly<Record<Grounds, readonly Rule[]>> = {
  content: [],
  'name-timecode-length': [besideIt, alsoAsStated],
  'reel-timecode-length': [alsoAsStated, versions],
  'name-reel-timecode': [alsoAsStated, renamedForIt, statingNone],
};

const rivalsBy = (rules: readonly Rule[], given: Parameters<Rule>): readonly JudgedCandidate[] => [
  ...new Set(rules.flatMap((rule) => rule(...given))),
];

/**
 * Files that nothing identifies, and beside which what is identified is not certain all the same: with them, which
 * recording is meant is for a person to say.
 */
export const rivalsOf = (grounds: Grounds, ...given: Parameters<Rule>) => rivalsBy(rulesBy[grounds], given);

/** The same beside what only fits best. */
export const rivalsOfLeader = (...given: Parameters<Rule>) => rivalsBy([alsoAsStated, renamedForIt], given);

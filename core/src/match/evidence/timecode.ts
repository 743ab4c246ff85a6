import { countingRate, sourceRange } from '../../model/media.ts';
import { sameRate } from '../../time/rate.ts';
import { rangeLength, uncoveredFrames, type FrameRange } from '../../time/range.ts';
import { onItsDay, type PreparedClip, type PreparedFile } from '../prepare.ts';
import { doesNotApply, editSaysNothing, fileSaysNothing, notReadYet, type AttributeCheck } from './evidence.ts';

/**
 * Whether the file's source timecode is the one the edit counts on: the same start where the edit knows it, else the
 * used frames inside the file's range. Two counts that both begin at zero only nearly agree, for half of all files do;
 * nor is it more that a file holds what is used, if it would hold it counted from zero, too.
 * As long, and begun at another moment, is another recording, however much of it lies over the used frames; but not where
 * the start is what another clip says of its own.
 */
export const timecodeCheck: AttributeCheck = {
  attribute: 'timecode',
  weigh({ clip, wanted: asked }, { file }) {
    if (!file.facts) return notReadYet;
    if (file.facts.kind === 'still' || (clip.kind === 'still' && !file.sequence)) return doesNotApply;
    const held = sourceRange(file.facts, clip.rate);
    if (!held) return fileSaysNothing;
    if (!asked) return editSaysNothing;
    const wanted = onItsDay(asked, held, clip);
    const available = clip.available && onItsDay(clip.available, held, clip);
    const edit = available ?? wanted;
    const unnumbered = file.facts.timecodeSource === 'none';
    if (unnumbered) {
      // A sequence counts from its first number, or from zero, as its edit likes.
      const fromZero = edit.start === 0 || edit.start === file.facts.start;
      if (available && !fromZero) return fileSaysNothing;
      if (available) return { verdict: 'nearly', finding: { code: 'both-count-from-zero', edit, file: held } };
    } else if (available) {
      const difference = Math.abs(available.start - held.start);
      if (difference === 0 && held.start === 0)
        return { verdict: 'nearly', finding: { code: 'both-count-from-zero', edit, file: held } };
      if (difference === 0) return { verdict: 'agrees', finding: { code: 'start-equal', edit, file: held } };
      if (difference === 1 && isRounded({ clip }, { file })) {
        return { verdict: 'agrees', finding: { code: 'start-within-a-frame', edit, file: held } };
      }
    }
    const uncovered = uncoveredFrames(wanted, held);
    const isAsLong =
      available !== null &&
      !clip.enriched &&
      !unnumbered &&
      Math.abs(rangeLength(available) - rangeLength(held)) <= (isRounded({ clip }, { file }) ? 1 : 0);
    if (isAsLong && uncovered < rangeLength(wanted))
      return { verdict: 'differs', finding: { code: 'start-differs', edit, file: held } };
    if (uncovered === 0) {
      const sure = !available && !unnumbered && wanted.end > rangeLength(held);
      return { verdict: sure ? 'agrees' : 'nearly', finding: { code: 'used-inside', edit: wanted, file: held } };
    }
    if (uncovered < rangeLength(wanted)) {
      return {
        verdict: 'nearly',
        finding: { code: 'used-partly', edit: wanted, file: held, uncoveredInFrames: uncovered },
      };
    }
    return {
      verdict: 'differs',
      finding: { code: 'used-outside', edit: wanted, file: held, uncoveredInFrames: uncovered },
    };
  },
};

/** Counted at another rate than the clip's, as samples are: a conversion had to round. */
export function isRounded({ clip }: Pick<PreparedClip, 'clip'>, { file }: Pick<PreparedFile, 'file'>): boolean {
  const own = file.facts && countingRate(file.facts);
  return own !== null && !sameRate(own, clip.rate);
}

/** Whether all that is used lies inside; false where either is unknown. */
export function coversUse({ clip, wanted }: PreparedClip, held: FrameRange): boolean {
  return wanted !== null && uncoveredFrames(onItsDay(wanted, held, clip), held) === 0;
}

import { sourceRange } from '../../model/media.ts';
import { uncoveredFrames } from '../../time/range.ts';
import { doesNotApply, editSaysNothing, fileSaysNothing, notReadYet, type AttributeCheck } from './evidence.ts';

/**
 * Whether the file's source timecode is the one the edit counts on: the same start where the edit knows it, else the
 * used frames inside the file's range. Two counts that both begin at zero only nearly agree, for half of all files do.
 */
export const timecodeCheck: AttributeCheck = {
  attribute: 'timecode',
  weigh({ clip, wanted }, { file }) {
    if (!file.facts) return notReadYet;
    if (file.facts.kind === 'still' || clip.kind === 'still') return doesNotApply;
    const held = sourceRange(file.facts, clip.rate);
    if (!held) return fileSaysNothing;
    if (!wanted) return editSaysNothing;
    const edit = clip.available ?? wanted;
    const unnumbered = file.facts.timecodeSource === 'none';
    if (unnumbered) {
      // A sequence counts from its first number, or from zero, as its edit likes.
      const fromZero = edit.start === 0 || edit.start === file.facts.start;
      if (clip.available && !fromZero) return fileSaysNothing;
      if (clip.available) return { verdict: 'nearly', finding: { code: 'both-count-from-zero', edit, file: held } };
    } else if (clip.available) {
      const difference = Math.abs(clip.available.start - held.start);
      if (difference === 0) return { verdict: 'agrees', finding: { code: 'start-equal', edit, file: held } };
      if (difference === 1 && file.facts.kind === 'sound') {
        return { verdict: 'agrees', finding: { code: 'start-within-a-frame', edit, file: held } };
      }
    }
    const uncovered = uncoveredFrames(wanted, held);
    if (uncovered === 0) {
      const sure = !clip.available && !unnumbered;
      return { verdict: sure ? 'agrees' : 'nearly', finding: { code: 'used-inside', edit: wanted, file: held } };
    }
    if (uncovered < wanted.end - wanted.start) {
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

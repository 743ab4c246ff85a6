import { countingRate, sourceRange } from '../../model/media.ts';
import { sameRate } from '../../time/rate.ts';
import { rangeLength } from '../../time/range.ts';
import { doesNotApply, editSaysNothing, fileSaysNothing, notReadYet, type AttributeCheck } from './evidence.ts';

/** Whole length of the media, in frames at the clip's rate. One frame of tolerance where a conversion had to round. */
export const lengthCheck: AttributeCheck = {
  attribute: 'length',
  weigh({ clip }, { file }) {
    if (!file.facts) return notReadYet;
    if (file.facts.kind === 'still' || clip.kind === 'still') return doesNotApply;
    if (!clip.available) return editSaysNothing;
    const held = sourceRange(file.facts, clip.rate);
    if (!held) return fileSaysNothing;
    const [edit, found] = [rangeLength(clip.available), rangeLength(held)];
    if (edit === found) return { verdict: 'agrees', finding: { code: 'length-equal', inFrames: found } };
    const own = countingRate(file.facts);
    if (Math.abs(edit - found) === 1 && own && !sameRate(own, clip.rate)) {
      return { verdict: 'agrees', finding: { code: 'length-within-a-frame', inFrames: found } };
    }
    return { verdict: 'differs', finding: { code: 'length-differs', edit, file: found } };
  },
};

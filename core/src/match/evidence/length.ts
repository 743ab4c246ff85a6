import { countingRate, sourceRange } from '../../model/media.ts';
import { compareReels } from '../../paths/names.ts';
import { rangeContains, rangeLength } from '../../time/range.ts';
import { onItsDay } from '../prepare.ts';
import { doesNotApply, editSaysNothing, fileSaysNothing, notReadYet, type AttributeCheck } from './evidence.ts';
import { coversUse, isRounded } from './timecode.ts';

/**
 * Whole length of the media, in frames at the clip's rate. One frame of tolerance where a conversion had to round. Of
 * the same reel and timecode another length is said and not held against a file that covers all that is used: it was
 * cut down, or kept longer, so that one of the two lies within the other. What another clip says refutes nothing.
 */
export const lengthCheck: AttributeCheck = {
  attribute: 'length',
  weigh(prepared, preparedFile) {
    const [{ clip }, { file }] = [prepared, preparedFile];
    if (!file.facts) return notReadYet;
    if (file.facts.kind === 'still' || (clip.kind === 'still' && !file.sequence)) return doesNotApply;
    if (!clip.available) return editSaysNothing;
    const held = sourceRange(file.facts, clip.rate);
    if (!held) return fileSaysNothing;
    const [edit, found] = [rangeLength(clip.available), rangeLength(held)];
    if (edit === found) return { verdict: 'agrees', finding: { code: 'length-equal', inFrames: found } };
    if (clip.enriched) return editSaysNothing;
    const isMean = file.facts.doubts.includes('rate-varies') && countingRate(file.facts) !== null;
    if (Math.abs(edit - found) === 1 && isRounded(prepared, preparedFile)) {
      return { verdict: 'agrees', finding: { code: 'length-within-a-frame', inFrames: found } };
    }
    if (isMean && Math.abs(edit - found) * 50 <= edit)
      return { verdict: 'nearly', finding: { code: 'length-differs-covers', edit, file: found } };
    const isOfReel =
      prepared.reel !== null && preparedFile.reel !== null && compareReels(prepared.reel, preparedFile.reel) === 'same';
    // What counts from zero, as half of all files do, has no timecode in common with anything.
    const isTimed = file.facts.timecodeSource !== 'none' && held.start !== 0;
    const available = onItsDay(clip.available, held, clip);
    const isWithin = rangeContains(held, available) || rangeContains(available, held);
    const isCovered = isOfReel && isTimed && isWithin && coversUse(prepared, held);
    return isCovered
      ? { verdict: 'nearly', finding: { code: 'length-differs-covers', edit, file: found } }
      : { verdict: 'differs', finding: { code: 'length-differs', edit, file: found } };
  },
};

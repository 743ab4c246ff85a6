import { nominalRate, sameRate } from '../../time/rate.ts';
import { doesNotApply, fileSaysNothing, notReadYet, type AttributeCheck } from './evidence.ts';

/** Frame rate of picture: equal, equal in name only (24 against 23.976), or different. Sound has none to compare. */
export const rateCheck: AttributeCheck = {
  attribute: 'rate',
  weigh({ clip }, { file }) {
    if (!file.facts) return notReadYet;
    if (file.facts.kind === 'sound' || file.facts.kind === 'still' || (clip.kind === 'still' && !file.sequence))
      return doesNotApply;
    if (!file.facts.rate) return fileSaysNothing;
    const rates = { edit: clip.rate, file: file.facts.rate };
    // A mean of what varied is no rate that an edit could name.
    if (file.facts.doubts.includes('rate-varies'))
      return { verdict: 'unknown', finding: { code: 'rate-varies', ...rates } };
    if (sameRate(rates.edit, rates.file)) return { verdict: 'agrees', finding: { code: 'rate-equal', ...rates } };
    if (nominalRate(rates.edit) === nominalRate(rates.file))
      return { verdict: 'nearly', finding: { code: 'rate-nominal', ...rates } };
    return { verdict: 'differs', finding: { code: 'rate-differs', ...rates } };
  },
};

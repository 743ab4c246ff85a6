import { editSaysNothing, fileSaysNothing, type AttributeCheck } from './evidence.ts';

/** The bytes: the full hash where both have one, else the sampled fingerprint. What is known of them was learned when the clip was linked, or stands in a log. */
export const contentCheck: AttributeCheck = {
  attribute: 'content',
  weigh({ known }, { file }) {
    if (!known || (known.fullHash === null && known.fingerprint === null)) return editSaysNothing;
    const by = known.fullHash !== null && file.fullHash !== null ? 'hash' : 'fingerprint';
    const edit = by === 'hash' ? known.fullHash : known.fingerprint;
    const found = by === 'hash' ? file.fullHash : file.fingerprint;
    if (edit === null) return editSaysNothing;
    if (found === null) return fileSaysNothing;
    return edit === found
      ? { verdict: 'agrees', finding: { code: 'content-equal', by, edit, file: found } }
      : { verdict: 'differs', finding: { code: 'content-differs', by, edit, file: found } };
  },
};

import { editSaysNothing, notReadYet, type AttributeCheck } from './evidence.ts';

/** The codec, where a log or an earlier link says which it was. */
export const codecCheck: AttributeCheck = {
  attribute: 'codec',
  weigh({ known }, { file }) {
    if (!known?.codec) return editSaysNothing;
    if (!file.facts) return notReadYet;
    const codecs = { edit: known.codec, file: file.facts.codec };
    const plain = (text: string) => text.toLowerCase().replace(/[^a-z0-9]/g, '');
    return plain(codecs.edit) === plain(codecs.file)
      ? { verdict: 'agrees', finding: { code: 'codec-equal', ...codecs } }
      : { verdict: 'differs', finding: { code: 'codec-differs', ...codecs } };
  },
};

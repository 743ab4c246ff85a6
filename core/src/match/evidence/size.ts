import { editSaysNothing, type AttributeCheck } from './evidence.ts';

/** Size in bytes. */
export const sizeCheck: AttributeCheck = {
  attribute: 'size',
  weigh({ known }, { file }) {
    if (!known || known.sizeInBytes === null) return editSaysNothing;
    const sizes = { edit: known.sizeInBytes, file: file.sizeInBytes };
    return sizes.edit === sizes.file
      ? { verdict: 'agrees', finding: { code: 'size-equal', ...sizes } }
      : { verdict: 'differs', finding: { code: 'size-differs', ...sizes } };
  },
};

import { editSaysNothing, notReadYet, type AttributeCheck } from './evidence.ts';

/** Picture, sound, still or sequence. A numbered sequence and a film of it show the same, so those nearly agree. */
export const kindCheck: AttributeCheck = {
  attribute: 'kind',
  weigh({ clip }, { file }) {
    if (!file.facts) return notReadYet;
    if (!clip.kind) return editSaysNothing;
    const kinds = { edit: clip.kind, file: file.facts.kind };
    if (kinds.edit === kinds.file) return { verdict: 'agrees', finding: { code: 'kind-equal', ...kinds } };
    const moving = (kind: string) => kind === 'picture' || kind === 'sequence';
    // A film carries sound as well, so a clip that is only heard may be one.
    // A sequence is named by one of its pictures as often as by a pattern.
    const isNamedByPicture = kinds.edit === 'still' && file.sequence !== null;
    const holds =
      isNamedByPicture || (moving(kinds.edit) && moving(kinds.file))
        ? true
        : kinds.edit === 'sound' && (file.facts.channels ?? 0) > 0;
    return holds
      ? { verdict: 'nearly', finding: { code: 'kind-sequence', ...kinds } }
      : { verdict: 'differs', finding: { code: 'kind-differs', ...kinds } };
  },
};

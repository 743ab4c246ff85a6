import type { RenameFault } from '@legame/core/naming';

/** Why a file cannot get a name, as the end of a sentence. */
export const renameFaultWords: Readonly<Record<RenameFault, string>> = {
  taken: 'another file is called so',
  twice: 'two of them would be called so',
  sequence: 'its frames are many files, which keep their numbers',
  empty: 'it is no name that every system takes',
};

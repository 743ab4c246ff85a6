import { commonTailOfKeys } from '../../paths/displacement.ts';
import { leadBeside } from '../../paths/siblings.ts';
import { editSaysNothing, type AttributeCheck } from './evidence.ts';

/** How many folder levels above the file agree: all below the volume, some, or none. */
export const folderCheck: AttributeCheck = {
  attribute: 'folder',
  weigh(clip, file) {
    if (!clip.path || clip.folders.length === 0) return editSaysNothing;
    const levels = commonTailOfKeys(clip.folderKeys, file.folderKeys);
    if (leadBeside(clip.beside, file.beside))
      return { verdict: 'differs', finding: { code: 'folder-beside', edit: clip.folderText, file: file.folderText } };
    const of = clip.path.folders.length;
    const finding = {
      code: 'folder-levels',
      edit: clip.folderText,
      file: file.folderText,
      levels,
      of,
    } as const;
    return { verdict: levels > 0 && levels >= of ? 'agrees' : levels > 0 ? 'nearly' : 'differs', finding };
  },
};

import { commonTail } from '../../paths/displacement.ts';
import { editSaysNothing, type AttributeCheck } from './evidence.ts';

/** How many folder levels above the file agree: all below the volume, some, or none. */
export const folderCheck: AttributeCheck = {
  attribute: 'folder',
  weigh(clip, file) {
    if (!clip.path || clip.folders.length === 0) return editSaysNothing;
    const levels = commonTail(clip.folders, file.folders);
    const of = clip.path.folders.length;
    const finding = {
      code: 'folder-levels',
      edit: clip.folders.join('/'),
      file: file.folders.join('/'),
      levels,
      of,
    } as const;
    return { verdict: levels > 0 && levels >= of ? 'agrees' : levels > 0 ? 'nearly' : 'differs', finding };
  },
};

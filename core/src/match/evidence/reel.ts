import { reelKey } from '../../paths/names.ts';
import { editSaysNothing, fileSaysNothing, notReadYet, type AttributeCheck } from './evidence.ts';

/** Equal; equal but for case, or punctuation; equal in the 8 characters that lists keep; named in the file's name or folders. */
export const reelCheck: AttributeCheck = {
  attribute: 'reel',
  weigh(clip, file) {
    if (!clip.reelKey || !clip.clip.reel) return editSaysNothing;
    const reels = { edit: clip.clip.reel, file: file.file.facts?.reel ?? '' };
    if (file.reelKey) {
      if (reels.edit === reels.file) return { verdict: 'agrees', finding: { code: 'reel-equal', ...reels } };
      if (reels.edit.toUpperCase() === reels.file.toUpperCase())
        return { verdict: 'agrees', finding: { code: 'reel-case', ...reels } };
      if (clip.reelKey === file.reelKey) return { verdict: 'agrees', finding: { code: 'reel-spelling', ...reels } };
      const cut = clip.reelKey.length === 8 && file.reelKey.startsWith(clip.reelKey);
      const cutBack = file.reelKey.length === 8 && clip.reelKey.startsWith(file.reelKey);
      if (cut || cutBack) return { verdict: 'nearly', finding: { code: 'reel-truncated', ...reels } };
      return { verdict: 'differs', finding: { code: 'reel-differs', ...reels } };
    }
    if (clip.reelKey.length >= 3) {
      const names = (part: string) => reelKey(part).includes(clip.reelKey);
      const named = names(file.stem) ? file.stem : file.folders.findLast(names);
      const where = named === file.stem ? 'file' : 'folder';
      if (named) return { verdict: 'nearly', finding: { code: 'reel-in-path', where, edit: reels.edit, file: named } };
    }
    return file.file.facts ? fileSaysNothing : notReadYet;
  },
};

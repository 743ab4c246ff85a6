import { compareReels, reelKey, standsAlone } from '../../paths/names.ts';
import type { PreparedClip, PreparedFile } from '../prepare.ts';
import { editSaysNothing, fileSaysNothing, notReadYet, type AttributeCheck, type Weighing } from './evidence.ts';

/** A shorter reel stands in a name by chance. */
const leastInPath = 3;

/** Equal; equal but for case, or punctuation; equal as lists cut reels; named in the file's name or folders. */
export const reelCheck: AttributeCheck = {
  attribute: 'reel',
  weigh(clip, file) {
    if (!clip.reel || !clip.clip.reel) return namedBy(clip, file) ?? editSaysNothing;
    const reels = { edit: clip.clip.reel, file: file.file.facts?.reel ?? '' };
    if (file.reel) {
      if (reels.edit === reels.file) return { verdict: 'agrees', finding: { code: 'reel-equal', ...reels } };
      switch (compareReels(clip.reel, file.reel)) {
        case 'same': {
          const isCase = reels.edit.toUpperCase() === reels.file.toUpperCase();
          return { verdict: 'agrees', finding: { code: isCase ? 'reel-case' : 'reel-spelling', ...reels } };
        }
        case 'cut':
          return { verdict: 'nearly', finding: { code: 'reel-truncated', ...reels } };
        case 'other':
          return { verdict: 'differs', finding: { code: 'reel-differs', ...reels } };
      }
    }
    const named = clip.reelKey.length >= leastInPath ? partNaming(clip.reelKey, file) : null;
    if (named !== null) {
      const where = named === file.stem ? 'file' : 'folder';
      return { verdict: 'nearly', finding: { code: 'reel-in-path', where, edit: reels.edit, file: named } };
    }
    return file.file.facts ? fileSaysNothing : notReadYet;
  },
};

/** Cameras begin their names with the reel: "A001" in "A001C003", where that is not all of the name. */
function namedBy({ clip, stemKey }: PreparedClip, { reelKey: reel, file }: PreparedFile): Weighing | null {
  const name = reelKey(stemKey);
  const isNamed =
    reel.length >= leastInPath &&
    name.length > reel.length &&
    name.startsWith(reel) &&
    standsAlone(name, 0, reel.length);
  return isNamed
    ? { verdict: 'nearly', finding: { code: 'reel-in-name', edit: clip.name, file: file.facts!.reel! } }
    : null;
}

/** The name, or the lowest folder, in which a reel stands by itself: "A001" in "A001C003", not in "A0012". */
function partNaming(reel: string, file: PreparedFile): string | null {
  const names = (part: string) => {
    const key = reelKey(part);
    const at = key.indexOf(reel);
    return at >= 0 && standsAlone(key, at, reel.length);
  };
  return names(file.stem) ? file.stem : (file.folders.findLast(names) ?? null);
}

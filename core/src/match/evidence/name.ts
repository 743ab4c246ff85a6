import { splitExtension } from '../../paths/names.ts';
import type { AttributeCheck } from './evidence.ts';

/** Equal; equal but for case or Unicode form; same stem with another extension; something added in front or behind. */
export const nameCheck: AttributeCheck = {
  attribute: 'name',
  weigh(clip, file) {
    const names = { edit: clip.name, file: file.file.name };
    if (clip.name === file.file.name) return { verdict: 'agrees', finding: { code: 'name-equal', ...names } };
    if (clip.nameKey === file.nameKey) {
      const unicode = clip.name.toLowerCase() !== file.file.name.toLowerCase();
      return { verdict: 'agrees', finding: { code: unicode ? 'name-unicode' : 'name-case', ...names } };
    }
    if (clip.stemKey === file.stemKey) {
      // A clip known by a bare name, as in a list without source files, has no extension to differ in.
      const bare = splitExtension(clip.name).extension === '';
      return { verdict: bare ? 'agrees' : 'nearly', finding: { code: 'name-extension', ...names } };
    }
    const at = clip.stemKey.length >= 3 ? file.stemKey.indexOf(clip.stemKey) : -1;
    if (at >= 0 && standsAlone(file.stemKey, at, clip.stemKey.length)) {
      const before = file.stemKey.slice(0, at);
      const after = file.stemKey.slice(at + clip.stemKey.length);
      return { verdict: 'nearly', finding: { code: 'name-added', ...names, before, after } };
    }
    return { verdict: 'differs', finding: { code: 'name-differs', ...names } };
  },
};

/** "pipe_1" is not contained in "pipe_12": what was added must not go on with a digit or letter of the same run. */
function standsAlone(text: string, at: number, length: number): boolean {
  const sameRun = (a: string, b: string) => (/\d/.test(a) && /\d/.test(b)) || (/\p{L}/u.test(a) && /\p{L}/u.test(b));
  const [before, first, last, after] = [text[at - 1], text[at]!, text[at + length - 1]!, text[at + length]];
  return !(before && sameRun(before, first)) && !(after && sameRun(last, after));
}

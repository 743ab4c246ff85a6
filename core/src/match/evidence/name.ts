import { distance } from 'fastest-levenshtein';
import { splitExtension, standsAlone } from '../../paths/names.ts';
import { addsVersion, areOfOtherNumber, kinshipOf, versionsIn } from '../../paths/versions.ts';
import type { PreparedClip, PreparedFile } from '../prepare.ts';
import { editSaysNothing, type AttributeCheck, type Finding, type Weighing } from './evidence.ts';

/** Below this share of letters that stay, two names are not called similar. */
const leastSimilarity = 0.75;
/** Shorter names are alike by chance. */
const shortestContained = 3;

/**
 * The names, from equal down: but for case or Unicode form; same stem with another extension; a copy's mark; something
 * added; the clip's or reel's name inside; similar; different. Each is a finding of its own.
 */
export const nameCheck: AttributeCheck = {
  attribute: 'name',
  weigh(clip, file) {
    // A list without names repeats the reel: that is the reel's to say.
    if (clip.isNamedByReel) return editSaysNothing;
    const names = { edit: clip.name, file: file.file.name };
    const elsewhere = clip.stemKey === file.stemKey ? inOther(clip, file) : null;
    if (elsewhere) return elsewhere;
    if (clip.name === file.file.name) return { verdict: 'agrees', finding: { code: 'name-equal', ...names } };
    if (clip.nameKey === file.nameKey) {
      const unicode = clip.name.toLowerCase() !== file.file.name.toLowerCase();
      return { verdict: 'agrees', finding: { code: unicode ? 'name-unicode' : 'name-case', ...names } };
    }
    const frames = file.file.sequence;
    if (frames && clip.sequence?.nameKey === file.nameKey) {
      const { number } = clip.sequence;
      if (number === null || (number >= frames.first && number <= frames.last))
        return { verdict: 'agrees', finding: { code: 'name-sequence', ...names } };
    }
    if (clip.stemKey === file.stemKey) {
      // A clip known by a bare name, as in a list without source files, has no extension to differ in.
      const bare = splitExtension(clip.name).extension === '';
      return { verdict: bare ? 'agrees' : 'nearly', finding: { code: 'name-extension', ...names } };
    }
    return (
      added(clip, file, names) ?? kin(clip, file, names) ?? inside(clip, file, names) ?? similar(clip, file, names)
    );
  },
};

/**
 * A namesake that its folder tells to be another: of another version, which renders and grades often bear there and not
 * in their names, or of one that nobody tells; or, from a start that many have and where no reel tells, of another day or
 * roll.
 */
function inOther(clip: PreparedClip, file: PreparedFile): Weighing | null {
  const { folderKeys, start } = clip;
  const isOneReel = clip.reelKey !== '' && clip.reelKey === file.reelKey;
  const isFromCommonStart = start === null && clip.clip.available !== null && !isOneReel;
  const code = versionsApart(clip, file, isOneReel);
  if (!code && !(isFromCommonStart && areOfOtherNumber(folderKeys, file.folderKeys))) return null;
  return nearly({
    code: code ?? 'name-in-other-folder',
    ...{ edit: `${clip.folderText}/${clip.name}`, file: `${file.folderText}/${file.file.name}` },
  });
}

/** Where the edit knows no folder, and one reel is known of both, the version of a folder is none of a recording. */
function versionsApart({ versions, folders }: PreparedClip, file: PreparedFile, isOneReel: boolean) {
  if (versions.length === 0) {
    const isUntold = folders.length === 0 && !isOneReel && file.versions.length > 0 && !namesVersion(file.stemKey);
    return isUntold ? 'name-version-untold' : null;
  }
  if (file.versionsAnywhere.some((version) => versions.includes(version))) return null;
  return file.versionsAnywhere.length > 0 ? 'name-version' : 'name-version-untold';
}
const namesVersion = (stem: string): boolean => versionsIn(stem).length > 0;

type Names = { readonly edit: string; readonly file: string };
const nearly = (finding: Finding): Weighing => ({ verdict: 'nearly', finding });

function added(clip: PreparedClip, file: PreparedFile, names: Names): Weighing | null {
  if (clip.stemKey.length < shortestContained || file.stemKey.length <= clip.stemKey.length) return null;
  const at = file.stemKey.indexOf(clip.stemKey);
  if (at >= 0 && standsAlone(file.stemKey, at, clip.stemKey.length)) {
    const before = file.stemKey.slice(0, at);
    const after = file.stemKey.slice(at + clip.stemKey.length);
    if (addsVersion(clip.stemKey, file.stemKey)) return nearly({ code: 'name-version', ...names });
    if (before === '' && isCopyMark(after)) return nearly({ code: 'name-copy', ...names, mark: after });
    return nearly({ code: 'name-added', ...names, before, between: '', after });
  }
  const between = addedBetween(clip.stemKey, file.stemKey);
  if (between === null) return null;
  return addsVersion(clip.stemKey, file.stemKey)
    ? nearly({ code: 'name-version', ...names })
    : nearly({ code: 'name-added', ...names, before: '', between, after: '' });
}

/** Another version of what the clip names, or another number, which is another thing altogether. */
function kin(clip: PreparedClip, file: PreparedFile, names: Names): Weighing | null {
  switch (kinshipOf(clip.stemKey, file.stemKey)) {
    case 'version':
      return nearly({ code: 'name-version', ...names });
    case 'number':
      return { verdict: 'differs', finding: { code: 'name-number', ...names } };
    default:
      return null;
  }
}

/** What stands between the words of one stem in another that begins and ends alike; whole words only. */
function addedBetween(stem: string, longer: string): string | null {
  let head = 0;
  while (head < stem.length && stem[head] === longer[head]) head += 1;
  const more = longer.length - stem.length;
  for (; head > 0; head -= 1) {
    if (!longer.endsWith(stem.slice(head))) return null;
    const cut = isSeparator(stem[head - 1]!) || isSeparator(stem[head] ?? '');
    if (cut && head < stem.length) return longer.slice(head, head + more);
  }
  return null;
}
const isSeparator = (c: string): boolean => /[ ._-]/.test(c);

/** " (1)", "_1", " copy", "-copy 2": what a second copy gets behind its name. */
export const isCopyMark = (text: string): boolean =>
  /^(?:[ _-]?\(\d{1,3}\)|[_-]\d|[ _-]+copy(?:[ _-]*\(?\d{1,3}\)?)?)$/.test(text);

function inside(clip: PreparedClip, file: PreparedFile, names: Names): Weighing | null {
  const { clipStemKey } = clip;
  if (clipStemKey !== clip.stemKey && clipStemKey.length >= shortestContained) {
    if (clipStemKey === file.stemKey)
      return nearly({ code: 'name-inside', of: 'clip', ...names, edit: clip.clip.name });
    const at = file.stemKey.indexOf(clipStemKey);
    if (at >= 0 && standsAlone(file.stemKey, at, clipStemKey.length))
      return nearly({ code: 'name-inside', of: 'clip', ...names, edit: clip.clip.name });
  }
  // Where the file knows its own reel, that is held against the clip's, and its name says nothing more.
  if (file.reelKey !== '') return null;
  if (clip.reelKey.length >= 4 && file.stemAsReel.includes(clip.reelKey) && !clip.stemAsReel.includes(clip.reelKey))
    return nearly({ code: 'name-inside', of: 'reel', ...names, edit: clip.clip.reel! });
  return null;
}

function similar(clip: PreparedClip, file: PreparedFile, names: Names): Weighing {
  const longest = Math.max(clip.stemKey.length, file.stemKey.length);
  const apart = Math.abs(clip.stemKey.length - file.stemKey.length);
  // Takes differ in their numbers alone, so names with other numbers are no spelling of one another.
  const worthIt =
    longest >= 5 && apart <= longest * (1 - leastSimilarity) && numbersOf(clip.stemKey) === numbersOf(file.stemKey);
  if (worthIt) {
    const share = 1 - distance(clip.stemKey, file.stemKey) / longest;
    if (share >= leastSimilarity)
      return nearly({ code: 'name-similar', ...names, hundredths: Math.floor(share * 100) });
  }
  return { verdict: 'differs', finding: { code: 'name-differs', ...names } };
}
const numbersOf = (text: string): string => (text.match(/\d+/g) ?? []).join(' ');

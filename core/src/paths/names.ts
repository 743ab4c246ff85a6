/** The form under which names are compared when case and Unicode form must not matter. */
export const nameKey = (name: string): string => (isAscii(name) ? name : name.normalize('NFC')).toLowerCase();

/** Nearly all names are; for them the Unicode machinery, ten times as slow, has nothing to do. */
// eslint-disable-next-line no-control-regex
const isAscii = (text: string): boolean => /^[\x00-\x7f]*$/.test(text);

/** Splits "bowl_03.MOV" into stem and extension; a leading dot belongs to the stem. */
export function splitExtension(name: string): { stem: string; extension: string } {
  const dot = name.lastIndexOf('.');
  return dot > 0 ? { stem: name.slice(0, dot), extension: name.slice(dot + 1) } : { stem: name, extension: '' };
}

/** The words and numbers of a stem: "SG_bowl-gather 03" gives sg, bowl, gather, 03. */
export function nameTokens(stem: string): string[] {
  const key = nameKey(stem);
  return key.match(isAscii(key) ? /[a-z0-9]+/g : /[\p{L}\p{N}]+/gu) ?? [];
}

/** "pipe_1" is not contained in "pipe_12": what was added must not go on with a digit or letter of the same run. */
export function standsAlone(text: string, at: number, length: number): boolean {
  const sameRun = (a: string, b: string) => (/\d/.test(a) && /\d/.test(b)) || (/\p{L}/u.test(a) && /\p{L}/u.test(b));
  const [before, first, last, after] = [text[at - 1], text[at]!, text[at + length - 1]!, text[at + length]];
  return !(before && sameRun(before, first)) && !(after && sameRun(last, after));
}

/** Reels are cut to 8 characters, uppercased and stripped on their way through lists; this is what survives. */
export const reelKey = (reel: string): string =>
  reel
    .normalize('NFC')
    .toUpperCase()
    .replace(/[^\p{L}\p{N}]/gu, '');

/** A reel under every form in which lists may hand it on. */
export type ReelForms = {
  readonly full: string;
  /** Cut to 8 characters, after its punctuation went and before it; without those that cut nothing. */
  readonly cut: readonly string[];
};
const reelLength = 8;
/** Shorter than this, what is left of a reel says nothing. */
const leastOfReel = 3;

export function reelForms(reel: string): ReelForms {
  const full = reelKey(reel);
  const cut = new Set([full.slice(0, reelLength), reelKey(reel.trim().slice(0, reelLength))]);
  cut.delete(full);
  return { full, cut: [...cut].filter((form) => form.length >= leastOfReel) };
}

/** Two spellings of a reel: the same, one of them cut as lists cut, or two reels. Two cut alike are not one. */
export function compareReels(a: ReelForms, b: ReelForms): 'same' | 'cut' | 'other' {
  if (a.full === b.full) return 'same';
  return a.cut.includes(b.full) || b.cut.includes(a.full) ? 'cut' : 'other';
}

const reservedNames = /^(con|prn|aux|nul|com\d|lpt\d)(\.|$)/i;

/**
 * A file or folder name that every common file system takes: no control or reserved characters, no trailing dot or
 * space, no device name, at most 200 bytes of UTF-8 with the extension kept.
 */
export function safeName(name: string): string {
  let safe = name
    .normalize('NFC')
    .replace(/[<>:"/\\|?*\p{Cc}]/gu, '_')
    .replace(/[. ]+$/, '');
  if (safe === '' || safe === '..') safe = '_';
  if (reservedNames.test(safe)) safe = `_${safe}`;
  const { stem, extension } = splitExtension(safe);
  const bytes = (text: string) => new TextEncoder().encode(text).length;
  let kept = stem;
  while (kept.length > 1 && bytes(kept) + bytes(extension) > 199) kept = [...kept].slice(0, -1).join('');
  return extension ? `${kept}.${extension}` : kept;
}

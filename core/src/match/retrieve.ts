import { countingRate, sourceRange } from '../model/media.ts';
import { commonTailOfKeys } from '../paths/displacement.ts';
import { nameTokens, shortReelKey, splitExtension } from '../paths/names.ts';
import { nominalRate, type Rate } from '../time/rate.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';

/** A key that more files share than this says nothing about any of them. */
const mostPerKey = 200;
/** As many candidates as are weighed for one clip. */
const mostWeighed = 12;
/** A file of a reel, in whole milliseconds of timecode: near enough for finding, never for judging. */
type OnReel = { readonly start: number; readonly end: number; readonly file: PreparedFile };

/** Files of one reel looked at before a wanted address. */
const neighboursOnReel = 8;

/**
 * The files of all places under the keys by which these clips may find them: stem, pairs of words, reel with address,
 * start with length, bytes. What no clip asks for is not kept. Building it costs one pass over clips and one over files;
 * asking it costs no pass at all.
 */
export class CandidateIndex {
  readonly #byStem = new Map<string, PreparedFile[]>();
  readonly #byWords = new Map<string, PreparedFile[]>();
  readonly #byStart = new Map<number, PreparedFile[]>();
  readonly #byReel = new Map<string, OnReel[]>();
  readonly #byBytes = new Map<string, PreparedFile[]>();
  readonly #bySize = new Map<number, PreparedFile[]>();
  /** By the beginnings of words: where a letter was mistyped, or a word shortened. */
  readonly #byOutline = new Map<string, PreparedFile[]>();

  constructor(files: Iterable<PreparedFile>, clips: readonly PreparedClip[]) {
    for (const clip of clips) {
      this.#byStem.set(clip.stemKey, []);
      for (const words of wordsAsked(clip)) this.#byWords.set(words, []);
      const { available, rate, reel } = clip.clip;
      if (available) this.#byStart.set(startKey(available.start, available.end - available.start, rate), []);
      if (reel) this.#byReel.set(shortReelKey(reel), []);
      this.#byOutline.set(outline(clip.tokens), []);
      const { known } = clip;
      if (known?.fingerprint) this.#byBytes.set(known.fingerprint, []);
      if (known?.fullHash) this.#byBytes.set(known.fullHash, []);
      if (known?.sizeInBytes) this.#bySize.set(known.sizeInBytes, []);
    }
    const someAskByOneWord = clips.some((clip) => clip.tokens.length === 1);
    for (const file of files) {
      this.#byStem.get(file.stemKey)?.push(file);
      const tokens = nameTokens(file.stemKey);
      tokens.forEach((token, i) => {
        if (someAskByOneWord) addFew(this.#byWords.get(token), file);
        if (i > 0) addFew(this.#byWords.get(`${tokens[i - 1]} ${token}`), file);
      });
      addFew(this.#byOutline.get(outline(tokens)), file);
      const { facts, fingerprint, fullHash, sizeInBytes } = file.file;
      if (this.#byBytes.size > 0) {
        if (fingerprint !== null) addFew(this.#byBytes.get(fingerprint), file);
        if (fullHash !== null) addFew(this.#byBytes.get(fullHash), file);
      }
      if (this.#bySize.size > 0) addFew(this.#bySize.get(sizeInBytes), file);
      const rate = facts ? countingRate(facts) : null;
      if (!facts || !rate || facts.length === null || facts.timecodeSource === 'none') continue;
      addFew(this.#byStart.get(startKey(facts.start, facts.length, rate)), file);
      if (file.reelKey) {
        const start = toMilliseconds(facts.start, rate);
        this.#byReel
          .get(file.reelKey.slice(0, 8))
          ?.push({ start, end: toMilliseconds(facts.start + facts.length, rate), file });
      }
    }
    for (const list of this.#byReel.values()) list.sort((a, b) => a.start - b.start);
  }

  /** Every file of exactly this name (as a name key). */
  named(key: string): readonly PreparedFile[] {
    return (this.#byStem.get(splitExtension(key).stem) ?? []).filter((file) => file.nameKey === key);
  }

  /** The few files worth weighing for a clip. Never all of them; possibly none. */
  candidatesOf(clip: PreparedClip): PreparedFile[] {
    // A list, not a set: it is short, and a set would give each file of a large storage a hash of its own.
    const found: PreparedFile[] = [];
    const add = (file: PreparedFile) => {
      if (!found.includes(file)) found.push(file);
    };
    const take = (files: readonly PreparedFile[] | undefined) => {
      if (files && files.length <= mostPerKey) for (const file of files) add(file);
    };
    // Equal names are always looked at, however many: leaving one out could make another look unrivalled.
    const sameStem = this.#byStem.get(clip.stemKey);
    if (sameStem && sameStem.length > mostPerKey) for (const file of this.named(clip.nameKey)) add(file);
    else take(sameStem);
    const { available, rate, reel } = clip.clip;
    if (available) take(this.#byStart.get(startKey(available.start, available.end - available.start, rate)));
    if (reel && clip.wanted) {
      const list = this.#byReel.get(shortReelKey(reel)) ?? [];
      const [from, to] = [toMilliseconds(clip.wanted.start, rate), toMilliseconds(clip.wanted.end, rate)];
      // Files of a reel follow one another; a few before the address are looked at, for lengths overlap now and then.
      const at = lastAtOrBefore(list, from);
      for (let i = Math.max(0, at - neighboursOnReel); i < list.length && list[i]!.start <= to; i += 1) {
        if (list[i]!.end >= from && found.length < mostPerKey) add(list[i]!.file);
      }
    }
    if (clip.known?.fingerprint) take(this.#byBytes.get(clip.known.fingerprint));
    if (clip.known?.fullHash) take(this.#byBytes.get(clip.known.fullHash));
    for (const file of this.#withAdditions(clip)) add(file);
    // What is merely alike is worth a look only where nothing better was found.
    if (found.length === 0) take(this.#byOutline.get(outline(clip.tokens)));
    if (found.length === 0 && clip.known?.sizeInBytes) take(this.#bySize.get(clip.known.sizeInBytes));
    return found.length > mostWeighed ? likeliest(clip, found) : found;
  }

  /** Files whose stem contains the clip's, found by the rarest of its word pairs: names with something added. */
  #withAdditions(clip: PreparedClip): PreparedFile[] {
    let rarest: readonly PreparedFile[] | undefined;
    for (const key of wordsAsked(clip)) {
      const files = this.#byWords.get(key);
      // A pair that no file has is one that no file containing the stem can be without.
      if (!files?.length) return [];
      if (!rarest || files.length < rarest.length) rarest = files;
    }
    if (!rarest || rarest.length > mostPerKey) return [];
    return rarest.filter((file) => file.stemKey.includes(clip.stemKey));
  }
}

/**
 * The likeliest of very many, by what can be told at a glance. What is left out is no likelier than what stays, so that
 * leaving it out never makes a file look unrivalled.
 */
function likeliest(clip: PreparedClip, files: readonly PreparedFile[]): PreparedFile[] {
  const { available } = clip.clip;
  const glance = (file: PreparedFile): number => {
    const { facts, fingerprint, fullHash } = file.file;
    let worth = commonTailOfKeys(clip.folderKeys, file.folderKeys) / 32 + (clip.stemKey === file.stemKey ? 1 : 0);
    const isSame = (a: string | null | undefined, b: string | null) => b !== null && a === b;
    if (isSame(clip.known?.fullHash, fullHash) || isSame(clip.known?.fingerprint, fingerprint)) worth += 16;
    // What has not been read may be anything.
    if (!facts) return worth + 12;
    if (clip.reelKey && file.reelKey) worth += clip.reelKey.slice(0, 8) === file.reelKey.slice(0, 8) ? 3 : -1;
    const held = sourceRange(facts, clip.clip.rate);
    const wanted = available ?? clip.wanted;
    if (!held || !wanted) return worth;
    // A frame of rounding is what counting samples costs.
    if (available && Math.abs(held.start - available.start) <= 1) worth += 3;
    else if (held.start <= wanted.start && held.end >= wanted.end) worth += 2;
    if (available && Math.abs(held.end - held.start - (available.end - available.start)) <= 1) worth += 2;
    return worth;
  };
  return files
    .map((file) => ({ file, worth: glance(file) }))
    .sort((a, b) => b.worth - a.worth)
    .slice(0, mostWeighed)
    .map((entry) => entry.file);
}

/** Numbers whole, of words their first letter: what a slip of the hand leaves of a name. */
function outline(tokens: readonly string[]): string {
  let text = '';
  for (const token of tokens) text += (token.charCodeAt(0) <= 57 ? token : token[0]!) + ' ';
  return text;
}

/** What a clip asks by: its pairs of neighbouring words, or its only word. */
const wordsAsked = ({ tokens }: PreparedClip): readonly string[] =>
  tokens.length > 1 ? tokens.slice(1).map((token, i) => `${tokens[i]} ${token}`) : tokens;

/** Keeps one more than counts, so that a key too common to say anything is known as such. */
function addFew(list: PreparedFile[] | undefined, file: PreparedFile): void {
  if (list && list.length <= mostPerKey) list.push(file);
}

/**
 * Start, length and nominal rate in one number: timecode numbers frames, so rates of one nominal value share their
 * addresses. Lengths of over 2^20 frames fold; two that meet by that are told apart when they are weighed.
 */
const startKey = (start: number, length: number, rate: Rate): number =>
  (start * 1_048_576 + (length % 1_048_576)) * 128 + (nominalRate(rate) % 128);
const toMilliseconds = (frames: number, rate: Rate): number => Math.floor((frames * 1000) / nominalRate(rate));

function lastAtOrBefore(list: readonly OnReel[], milliseconds: number): number {
  let low = 0;
  let high = list.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (list[middle]!.start <= milliseconds) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

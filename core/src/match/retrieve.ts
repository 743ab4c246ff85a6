import { countingRate } from '../model/media.ts';
import { nameTokens, shortReelKey, splitExtension } from '../paths/names.ts';
import { nominalRate, type Rate } from '../time/rate.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';

/** A key that more files share than this says nothing about any of them. */
const mostPerKey = 200;
/** A file of a reel, in whole milliseconds of timecode: near enough for finding, never for judging. */
type OnReel = { readonly start: number; readonly end: number; readonly file: PreparedFile };

/** Files of one reel looked at before a wanted address. */
const neighboursOnReel = 8;

/**
 * The files of all places under the keys by which a clip may find them: name, stem, pairs of words, reel with
 * address, start with length. Building it costs one pass over the files; asking it costs no pass at all.
 */
export class CandidateIndex {
  readonly #byStem = new Map<string, PreparedFile[]>();
  readonly #byWords = new Map<string, PreparedFile[]>();
  readonly #byStart = new Map<string, PreparedFile[]>();
  readonly #byReel = new Map<string, OnReel[]>();

  /** `clips` are those that will ask: a pair of words that none of them has need not be kept. */
  constructor(files: Iterable<PreparedFile>, clips: readonly PreparedClip[]) {
    const wantedWords = new Set(clips.flatMap(wordsAsked));
    for (const file of files) {
      add(this.#byStem, file.stemKey, file);
      for (const words of wordKeys(nameTokens(file.stemKey)))
        if (wantedWords.has(words)) add(this.#byWords, words, file, mostPerKey + 1);
      const { facts } = file.file;
      const rate = facts ? countingRate(facts) : null;
      if (!facts || !rate || facts.length === null || facts.timecodeSource === 'none') continue;
      add(this.#byStart, startKey(facts.start, facts.length, rate), file, mostPerKey + 1);
      if (facts.reel) {
        const key = shortReelKey(facts.reel);
        const entry = {
          start: toMilliseconds(facts.start, rate),
          end: toMilliseconds(facts.start + facts.length, rate),
          file,
        };
        const list = this.#byReel.get(key);
        if (list) list.push(entry);
        else this.#byReel.set(key, [entry]);
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
    const found = new Set<PreparedFile>();
    const take = (files: readonly PreparedFile[] | undefined) => {
      if (files && files.length <= mostPerKey) for (const file of files) found.add(file);
    };
    // Equal names are always looked at, however many: leaving one out could make another look unrivalled.
    const sameStem = this.#byStem.get(clip.stemKey);
    if (sameStem && sameStem.length > mostPerKey) for (const file of this.named(clip.nameKey)) found.add(file);
    else take(sameStem);
    const { available, rate, reel } = clip.clip;
    if (available) take(this.#byStart.get(startKey(available.start, available.end - available.start, rate)));
    if (reel && clip.wanted) {
      const list = this.#byReel.get(shortReelKey(reel)) ?? [];
      const [from, to] = [toMilliseconds(clip.wanted.start, rate), toMilliseconds(clip.wanted.end, rate)];
      // Files of a reel follow one another; a few before the address are looked at, for lengths overlap now and then.
      const at = lastAtOrBefore(list, from);
      for (let i = Math.max(0, at - neighboursOnReel); i < list.length && list[i]!.start <= to; i += 1) {
        if (list[i]!.end >= from && found.size < mostPerKey) found.add(list[i]!.file);
      }
    }
    for (const file of this.#withAdditions(clip)) found.add(file);
    return [...found];
  }

  /** Files whose stem contains the clip's, found by the rarest of its word pairs: names with something added. */
  #withAdditions(clip: PreparedClip): PreparedFile[] {
    let rarest: readonly PreparedFile[] | undefined;
    for (const key of wordsAsked(clip)) {
      const files = this.#byWords.get(key);
      // A pair that no file has is one that no file containing the stem can be without.
      if (!files) return [];
      if (!rarest || files.length < rarest.length) rarest = files;
    }
    if (!rarest || rarest.length > mostPerKey) return [];
    return rarest.filter((file) => file.stemKey.includes(clip.stemKey));
  }
}

/** What a clip asks by: its pairs of neighbouring words, or its only word. */
const wordsAsked = ({ tokens }: PreparedClip): readonly string[] => (tokens.length > 1 ? pairs(tokens) : tokens);
const pairs = (tokens: readonly string[]): string[] => tokens.slice(1).map((token, i) => `${tokens[i]} ${token}`);

/** The words of a name one by one, and each with its neighbour. */
const wordKeys = (tokens: readonly string[]): string[] => [...tokens, ...pairs(tokens)];

function add(map: Map<string, PreparedFile[]>, key: string, file: PreparedFile, most = Infinity): void {
  const list = map.get(key);
  if (!list) map.set(key, [file]);
  else if (list.length < most) list.push(file);
}

/** Timecode numbers frames, so rates of one nominal value share their addresses. */
const startKey = (start: number, length: number, rate: Rate): string => `${nominalRate(rate)}/${start}/${length}`;
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

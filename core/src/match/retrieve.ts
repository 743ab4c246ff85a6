import { countingRate } from '../model/media.ts';
import { splitExtension, type ReelForms } from '../paths/names.ts';
import { formatRate, nominalRate, type Rate } from '../time/rate.ts';
import { Crowd, meets, type KeyKind } from './crowd.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';

/**
 * The files worth weighing for one clip. `namesakes`: how many files of the whole index bear its name. What was not
 * taken, and why, is in `leftOut` and `outOfTime`; see `Narrowed`.
 */
export type Retrieved = {
  readonly files: PreparedFile[];
  readonly namesakes: number;
  readonly outOfTime: number;
  readonly leftOut: number;
};

/** Names with something added are looked at all while they are so few. */
const mostAdditions = 6;
const nothingFound = { files: [], leftOut: 0 };

/** Merely alike in their outlines: of more than this nobody could choose. */
const mostAlike = 64;

/**
 * The files of all places under the keys by which these clips may find them: stem, pairs of words, reel, start with
 * length, bytes, size. What no clip asks for is not kept. A key that has very many files is narrowed by what else the
 * clip knows (see `Crowd`), so that whatever identifies is found however often its name stands elsewhere.
 */
export class CandidateIndex {
  readonly #byStem = new Map<string, Crowd>();
  readonly #byWords = new Map<string, Crowd>();
  readonly #byStart = new Map<number, Crowd>();
  readonly #byReel = new Map<string, Crowd>();
  readonly #byBytes = new Map<string, Crowd>();
  readonly #bySize = new Map<number, Crowd>();
  /** By the beginnings of words: where a letter was mistyped, or a word shortened. */
  readonly #byOutline = new Map<string, Crowd>();
  /** Rates that clips count at, for the starts of sound. */
  readonly #rates = new Map<string, Rate>();
  /** What was worked out of names and folders, for names repeat by the thousand. */
  readonly #byNames = new Map<string, readonly Crowd[]>();
  readonly #reelsInNames = new Map<string, readonly Crowd[]>();
  readonly #reelsInFolders = new Map<string, readonly Crowd[]>();

  readonly #clips: PreparedClip[];
  /** The clips for which nothing was found but what is merely alike, or nothing at all. */
  readonly #guessed = new Set<number>();

  constructor(clips: readonly PreparedClip[], files: Iterable<PreparedFile>) {
    this.#clips = [...clips];
    clips.forEach((clip, i) => {
      this.#rates.set(formatRate(clip.clip.rate), clip.clip.rate);
      this.#eachAsked(clip, (crowd) => crowd.addAsker(i));
    });
    for (const file of files) this.add(file);
  }

  add(file: PreparedFile): void {
    this.#eachHolding(file, (crowd) => crowd.add(file));
  }

  remove(file: PreparedFile): void {
    this.#eachHolding(file, (crowd) => crowd.remove(file));
  }

  /** The clips that may find this file, or would miss it, by their place in the list; as they last asked. */
  askersOf(file: PreparedFile): Set<number> {
    const found = new Set<number>();
    this.#eachHolding(file, ({ by, askers }) => {
      for (const at of askers) {
        if (by === 'reel' && !meets(this.#clips[at]!, file)) continue;
        if (by === 'outline' && !this.#guessed.has(at)) continue;
        found.add(at);
      }
    });
    return found;
  }

  /** Whether it knows the rate of this clip; where not, it has to be made anew for it. */
  countsAt = ({ clip }: PreparedClip): boolean => this.#rates.has(formatRate(clip.rate));

  /** Puts other clips in the places of some. `files`: all that there are, for keys that nobody asked by before. */
  replace(changed: readonly { at: number; is: PreparedClip }[], files: Iterable<PreparedFile>): void {
    const fresh = new Set<Crowd>();
    for (const { at, is } of changed) {
      this.#eachAsked(this.#clips[at]!, (crowd) => crowd.removeAsker(at));
      this.#clips[at] = is;
      this.#eachAsked(is, (crowd, isNew) => {
        crowd.addAsker(at);
        if (isNew) fresh.add(crowd);
      });
    }
    if (fresh.size === 0) return;
    for (const known of [this.#byNames, this.#reelsInNames, this.#reelsInFolders]) known.clear();
    for (const file of files) this.#eachHolding(file, (crowd) => fresh.has(crowd) && crowd.add(file));
  }

  #eachAsked(clip: PreparedClip, visit: (crowd: Crowd, isNew: boolean) => void): void {
    const ask = <K>(map: Map<K, Crowd>, key: K, by: KeyKind = 'identity') => {
      const known = map.get(key);
      const crowd = known ?? new Crowd(by);
      if (!known) map.set(key, crowd);
      visit(crowd, !known);
    };
    for (const stem of stemsAsked(clip)) ask(this.#byStem, stem);
    for (const words of wordsAsked(clip)) ask(this.#byWords, words);
    for (const start of startsAsked(clip)) ask(this.#byStart, start);
    if (clip.reel) for (const reel of formsOf(clip.reel)) ask(this.#byReel, reel, 'reel');
    ask(this.#byOutline, outline(clip.tokens), 'outline');
    for (const bytes of bytesAsked(clip)) ask(this.#byBytes, bytes);
    if (clip.known?.sizeInBytes) ask(this.#bySize, clip.known.sizeInBytes, 'outline');
  }

  /** Every crowd that a file belongs to, once. */
  #eachHolding(file: PreparedFile, visit: (crowd: Crowd) => void): void {
    const visitAt = <K>(map: Map<K, Crowd>, key: K) => {
      const crowd = map.get(key);
      if (crowd) visit(crowd);
    };
    for (const crowd of this.#named(file)) visit(crowd);
    const { facts, fingerprint, fullHash, sizeInBytes } = file.file;
    if (this.#byBytes.size > 0) {
      if (fingerprint !== null) visitAt(this.#byBytes, fingerprint);
      if (fullHash !== null && fullHash !== fingerprint) visitAt(this.#byBytes, fullHash);
    }
    if (this.#bySize.size > 0) visitAt(this.#bySize, sizeInBytes);
    const rate = facts ? countingRate(facts) : null;
    if (!facts || !rate || facts.length === null || facts.timecodeSource === 'none') return;
    if (facts.kind !== 'sound') visitAt(this.#byStart, startKey(facts.start, facts.length, rate));
    else
      for (const key of startsOfSound(facts.start, facts.length, rate, this.#rates.values()))
        visitAt(this.#byStart, key);
    for (const crowd of file.reel ? this.#onReel(file.reel) : this.#reelsNamed(file)) visit(crowd);
  }

  /** By its stem, its pairs of words and its outline. */
  #named({ stemKey, tokens }: PreparedFile): readonly Crowd[] {
    const known = this.#byNames.get(stemKey);
    if (known) return known;
    const found: (Crowd | undefined)[] = [this.#byStem.get(stemKey), this.#byOutline.get(outline(tokens))];
    // A stem of nothing but the words asked for has nothing added.
    if (tokens.length > 1) for (const token of new Set(tokens)) found.push(this.#byWords.get(token));
    if (tokens.length > 2) for (const pair of new Set(pairsOf(tokens))) found.push(this.#byWords.get(pair));
    const crowds = found.filter((crowd) => crowd !== undefined);
    this.#byNames.set(stemKey, crowds);
    return crowds;
  }

  #onReel = (reel: ReelForms): Crowd[] => formsOf(reel).flatMap((form) => this.#byReel.get(form) ?? []);

  /** Every file of exactly this name (as a name key) in a folder of these name keys, place first. */
  namedIn(name: string, folders: readonly string[]): readonly PreparedFile[] {
    const crowd = this.#byStem.get(splitExtension(name).stem);
    return (crowd?.lyingIn(folders) ?? []).filter((file) => file.nameKey === name);
  }

  /** What is worth weighing for the clip at this place in the list. */
  candidatesOf(at: number): Retrieved {
    const clip = this.#clips[at]!;
    // A list, not a set: it is short, and a set would give each file of a large storage a hash of its own.
    const files: PreparedFile[] = [];
    let [outOfTime, leftOut, namesakes] = [0, 0, 0];
    const take = (found: Iterable<PreparedFile>) => {
      for (const file of found) if (!files.includes(file)) files.push(file);
    };
    for (const key of startsAsked(clip)) take(this.#byStart.get(key)!.narrowed(clip).files);
    const isBegun = files.length > 0;
    for (const stem of stemsAsked(clip)) {
      const crowd = this.#byStem.get(stem)!;
      const narrowed = crowd.narrowed(clip, { isBegun });
      take(narrowed.files);
      namesakes += crowd.size;
      outOfTime += narrowed.outOfTime;
      leftOut += narrowed.leftOut;
    }
    if (clip.reel && clip.wanted) for (const crowd of this.#onReel(clip.reel)) take(holdingUsed(crowd, clip));
    for (const bytes of bytesAsked(clip)) take(this.#byBytes.get(bytes)!.files);
    const added = this.#withAdditions(clip);
    take(added.files);
    if (namesakes === 0) leftOut += added.leftOut;
    // What is merely alike is worth a look only where nothing better was found.
    if (files.length === 0) this.#guessed.add(at);
    else this.#guessed.delete(at);
    if (files.length === 0) take(atMostAlike(this.#byOutline.get(outline(clip.tokens))!));
    if (files.length === 0 && clip.known?.sizeInBytes) take(atMostAlike(this.#bySize.get(clip.known.sizeInBytes)!));
    return { files, namesakes, outOfTime, leftOut };
  }

  /** Files whose stem contains the clip's, found by the rarest of its word pairs: names with something added. */
  #withAdditions(clip: PreparedClip): Pick<Retrieved, 'files' | 'leftOut'> {
    let rarest: Crowd | undefined;
    for (const key of wordsAsked(clip)) {
      const crowd = this.#byWords.get(key)!;
      // A pair that no file has is one that no file containing the stem can be without.
      if (crowd.size === 0) return nothingFound;
      if (!rarest || crowd.size < rarest.size) rarest = crowd;
    }
    if (!rarest) return nothingFound;
    const { files, leftOut } = rarest.narrowed(clip, { most: mostAdditions });
    return {
      files: files.filter((file) => file.stemKey !== clip.stemKey && file.stemKey.includes(clip.stemKey)),
      leftOut,
    };
  }

  /** The reels asked for that a file without one bears in its name, or its folders in theirs. */
  #reelsNamed({ folderText, folderKeys, stemKey }: PreparedFile): readonly Crowd[] {
    if (this.#byReel.size === 0) return [];
    const inFolders = this.#reelsIn(this.#reelsInFolders, folderText, () => folderKeys.join('/'));
    const inName = this.#reelsIn(this.#reelsInNames, stemKey, () => stemKey);
    const others = inName.filter((crowd) => !inFolders.includes(crowd));
    return others.length > 0 ? [...inFolders, ...others] : inFolders;
  }

  #reelsIn(known: Map<string, readonly Crowd[]>, key: string, text: () => string): readonly Crowd[] {
    const before = known.get(key);
    if (before) return before;
    const found = new Set(reelsNamedIn(text()).flatMap((reel) => this.#byReel.get(reel) ?? []));
    known.set(key, [...found]);
    return [...found];
  }
}

/** Files of a reel that hold something of what is used. */
function holdingUsed(crowd: Crowd, clip: PreparedClip): readonly PreparedFile[] {
  if (crowd.size === 0) return [];
  const meeting = crowd.meeting(clip);
  // A reel of that name in every unit: what neither name nor start speaks for is no rival.
  return meeting.length > mostAlike ? meeting.filter((f) => f.stemKey === clip.stemKey) : meeting;
}

/** Everything in names, divided by slashes, that could be a reel: runs of letters and digits that stand together. */
function reelsNamedIn(text: string): string[] {
  const found: string[] = [];
  for (const part of text.split('/')) {
    const runs = part.toUpperCase().match(/\p{L}+|\p{N}+/gu) ?? [];
    for (let from = 0; from < runs.length; from += 1) {
      let reel = '';
      for (let to = from; to < Math.min(runs.length, from + mostRuns); to += 1) {
        reel += runs[to]!;
        if (reel.length >= 3) found.push(reel);
      }
    }
  }
  return found;
}

/** A reel is made of so many runs of letters and of digits at most: "GL-A_001" of three. */
const mostRuns = 5;

const formsOf = ({ full, cut }: ReelForms): readonly string[] => (cut.length === 0 ? [full] : [full, ...cut]);

/** Numbers whole, of words their first letter: what a slip of the hand leaves of a name. */
function outline(tokens: readonly string[]): string {
  let text = '';
  for (const token of tokens) text += (token.charCodeAt(0) <= 57 ? token : token[0]!) + ' ';
  return text;
}

/** The stem of its name, and that of the image sequence that the name may mean. */
function stemsAsked({ stemKey, sequence }: PreparedClip): readonly string[] {
  const other = sequence && splitExtension(sequence.nameKey).stem;
  return other === null || other === stemKey ? [stemKey] : [stemKey, other];
}

/** What a clip asks by: its pairs of neighbouring words, or its only word. */
const wordsAsked = ({ tokens }: PreparedClip): readonly string[] => (tokens.length > 1 ? pairsOf(tokens) : tokens);
const pairsOf = (tokens: readonly string[]): string[] => tokens.slice(1).map((token, i) => `${tokens[i]} ${token}`);

const bytesAsked = ({ known }: PreparedClip): string[] =>
  known ? [known.fingerprint, known.fullHash].flatMap((bytes) => bytes || []) : [];

/** Of a key too common to say anything, nothing. */
const atMostAlike = ({ files }: Crowd): readonly PreparedFile[] => (files.length <= mostAlike ? files : []);

/**
 * Start, length and nominal rate in one number: timecode numbers frames, so rates of one nominal value share their
 * addresses. Lengths of over 2^20 frames fold; two that meet by that are told apart when they are weighed.
 */
const startKey = (start: number, length: number, rate: Rate): number =>
  (start * 1_048_576 + (length % 1_048_576)) * 128 + (nominalRate(rate) % 128);

/** Samples as the frames of other rates: to the nearest, which is near enough for finding. Each key once. */
function startsOfSound(start: number, length: number, own: Rate, rates: Iterable<Rate>): number[] {
  const keys: number[] = [];
  for (const rate of rates) {
    const frames = (count: number) => Math.round((count * own.den * rate.num) / (own.num * rate.den));
    const key = startKey(frames(start), frames(length), rate);
    if (!keys.includes(key)) keys.push(key);
  }
  return keys;
}

/** Sound is counted in samples, so that its start and length may each be a frame off. */
function startsAsked({ clip: { available, rate, kind } }: PreparedClip): number[] {
  if (!available) return [];
  const [start, length] = [available.start, available.end - available.start];
  if (kind === 'picture' || kind === 'sequence' || kind === 'still') return [startKey(start, length, rate)];
  return [0, -1, 1].flatMap((s) => [0, -1, 1].map((l) => startKey(start + s, length + l, rate)));
}

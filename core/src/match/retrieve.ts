import { countingRate } from '../model/media.ts';
import { nameTokens, splitExtension, type ReelForms } from '../paths/names.ts';
import { formatRate, nominalRate, type Rate } from '../time/rate.ts';
import { Crowd } from './crowd.ts';
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
  readonly #byBytes = new Map<string, PreparedFile[]>();
  readonly #bySize = new Map<number, PreparedFile[]>();
  /** By the beginnings of words: where a letter was mistyped, or a word shortened. */
  readonly #byOutline = new Map<string, PreparedFile[]>();
  readonly #reelsInFolders = new Map<string, readonly Crowd[]>();

  constructor(files: Iterable<PreparedFile>, clips: readonly PreparedClip[]) {
    const rates = new Map<string, Rate>();
    for (const clip of clips) {
      for (const stem of stemsAsked(clip)) ask(this.#byStem, stem);
      for (const words of wordsAsked(clip)) ask(this.#byWords, words);
      const { available, rate } = clip.clip;
      if (available) for (const key of startsAsked(clip)) ask(this.#byStart, key);
      if (available) rates.set(formatRate(rate), rate);
      if (clip.reel) for (const reel of formsOf(clip.reel)) ask(this.#byReel, reel);
      this.#byOutline.set(outline(clip.tokens), []);
      const { known } = clip;
      if (known?.fingerprint) this.#byBytes.set(known.fingerprint, []);
      if (known?.fullHash) this.#byBytes.set(known.fullHash, []);
      if (known?.sizeInBytes) this.#bySize.set(known.sizeInBytes, []);
    }
    const someAskByOneWord = clips.some((clip) => clip.tokens.length === 1);
    for (const file of files) {
      this.#byStem.get(file.stemKey)?.files.push(file);
      const tokens = nameTokens(file.stemKey);
      // A stem of nothing but the words asked for has nothing added.
      if (someAskByOneWord && tokens.length > 1) for (const token of tokens) this.#byWords.get(token)?.files.push(file);
      if (tokens.length > 2)
        for (let i = 1; i < tokens.length; i += 1) this.#byWords.get(`${tokens[i - 1]} ${tokens[i]}`)?.files.push(file);
      addFew(this.#byOutline.get(outline(tokens)), file);
      const { facts, fingerprint, fullHash, sizeInBytes } = file.file;
      if (this.#byBytes.size > 0) {
        if (fingerprint !== null) this.#byBytes.get(fingerprint)?.push(file);
        if (fullHash !== null) this.#byBytes.get(fullHash)?.push(file);
      }
      if (this.#bySize.size > 0) addFew(this.#bySize.get(sizeInBytes), file);
      const rate = facts ? countingRate(facts) : null;
      if (!facts || !rate || facts.length === null || facts.timecodeSource === 'none') continue;
      if (facts.kind !== 'sound') this.#byStart.get(startKey(facts.start, facts.length, rate))?.files.push(file);
      else
        for (const counted of rates.values())
          this.#byStart.get(startKeyOf(facts.start, facts.length, rate, counted))?.files.push(file);
      if (file.reel) for (const reel of formsOf(file.reel)) this.#byReel.get(reel)?.files.push(file);
      else for (const crowd of this.#reelsNamed(file)) crowd.files.push(file);
    }
  }

  /** Every file of exactly this name (as a name key) in a folder of these name keys, place first. */
  namedIn(name: string, folders: readonly string[]): readonly PreparedFile[] {
    const crowd = this.#byStem.get(splitExtension(name).stem);
    return (crowd?.lyingIn(folders) ?? []).filter((file) => file.nameKey === name);
  }

  candidatesOf(clip: PreparedClip): Retrieved {
    // A list, not a set: it is short, and a set would give each file of a large storage a hash of its own.
    const files: PreparedFile[] = [];
    let [outOfTime, leftOut, namesakes] = [0, 0, 0];
    const take = (found: Iterable<PreparedFile>) => {
      for (const file of found) if (!files.includes(file)) files.push(file);
    };
    for (const stem of stemsAsked(clip)) {
      const crowd = this.#byStem.get(stem)!;
      const narrowed = crowd.narrowed(clip);
      take(narrowed.files);
      namesakes += crowd.size;
      outOfTime += narrowed.outOfTime;
      leftOut += narrowed.leftOut;
    }
    const { available } = clip.clip;
    if (available) for (const key of startsAsked(clip)) take(this.#byStart.get(key)!.narrowed(clip).files);
    if (clip.reel && clip.wanted) for (const reel of formsOf(clip.reel)) take(this.#onReel(reel, clip));
    if (clip.known?.fingerprint) take(this.#byBytes.get(clip.known.fingerprint)!);
    if (clip.known?.fullHash) take(this.#byBytes.get(clip.known.fullHash)!);
    const added = this.#withAdditions(clip);
    take(added.files);
    if (namesakes === 0) leftOut += added.leftOut;
    // What is merely alike is worth a look only where nothing better was found.
    if (files.length === 0) take(atMostAlike(this.#byOutline.get(outline(clip.tokens))));
    if (files.length === 0 && clip.known?.sizeInBytes) take(atMostAlike(this.#bySize.get(clip.known.sizeInBytes)));
    return { files, namesakes, outOfTime, leftOut };
  }

  /** Files of a reel that hold something of what is used. */
  #onReel(reel: string, clip: PreparedClip): readonly PreparedFile[] {
    const crowd = this.#byReel.get(reel)!;
    if (crowd.size === 0) return [];
    const meeting = crowd.meeting(clip);
    // A reel of that name in every unit: what neither name nor start speaks for is no rival.
    return meeting.length > mostAlike ? meeting.filter((f) => f.stemKey === clip.stemKey) : meeting;
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
    const { files, leftOut } = rarest.narrowed(clip, mostAdditions);
    return {
      files: files.filter((file) => file.stemKey !== clip.stemKey && file.stemKey.includes(clip.stemKey)),
      leftOut,
    };
  }

  /** The reels asked for that a file without one bears in its name, or its folders in theirs. */
  #reelsNamed(file: PreparedFile): readonly Crowd[] {
    if (this.#byReel.size === 0) return [];
    const known = this.#reelsInFolders.get(file.folderText);
    const inFolders = known ?? this.#reelsIn(file.folderKeys.join('/'));
    if (!known) this.#reelsInFolders.set(file.folderText, inFolders);
    const inName = this.#reelsIn(file.stemKey).filter((crowd) => !inFolders.includes(crowd));
    return inName.length > 0 ? [...inFolders, ...inName] : inFolders;
  }

  #reelsIn(text: string): Crowd[] {
    const found: Crowd[] = [];
    for (const reel of reelsNamedIn(text)) {
      const crowd = this.#byReel.get(reel);
      if (crowd && !found.includes(crowd)) found.push(crowd);
    }
    return found;
  }
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

/**
 * The keys by which a clip may find files, and those under which a file may be found, as texts: a file that shares none
 * with any clip can change nothing of what matching found.
 */
export const keysAsked = (clip: PreparedClip): string[] => [
  ...stemsAsked(clip).map((stem) => `stem ${stem}`),
  ...wordsAsked(clip).map((words) => `words ${words}`),
  ...startsAsked(clip).map((start) => `start ${start}`),
  ...(clip.reel ? formsOf(clip.reel).map((reel) => `reel ${reel}`) : []),
  `outline ${outline(clip.tokens)}`,
  ...[clip.known?.fingerprint, clip.known?.fullHash].flatMap((bytes) => (bytes ? [`bytes ${bytes}`] : [])),
  ...(clip.known?.sizeInBytes ? [`size ${clip.known.sizeInBytes}`] : []),
];

/** `rates` are those that clips count at, for the starts of sound. */
export function keysAnswered(file: PreparedFile, rates: readonly Rate[]): string[] {
  const tokens = nameTokens(file.stemKey);
  const { facts, fingerprint, fullHash, sizeInBytes } = file.file;
  const own = facts ? countingRate(facts) : null;
  const starts =
    facts && own && facts.length !== null && facts.timecodeSource !== 'none'
      ? facts.kind === 'sound'
        ? rates.map((rate) => startKeyOf(facts.start, facts.length!, own, rate))
        : [startKey(facts.start, facts.length, own)]
      : [];
  return [
    `stem ${file.stemKey}`,
    ...tokens.map((token) => `words ${token}`),
    ...tokens.slice(1).map((token, i) => `words ${tokens[i]} ${token}`),
    ...starts.map((start) => `start ${start}`),
    ...(file.reel ? formsOf(file.reel) : reelsNamedIn(`${file.folderKeys.join('/')}/${file.stemKey}`)).map(
      (reel) => `reel ${reel}`,
    ),
    `outline ${outline(tokens)}`,
    ...[fingerprint, fullHash].flatMap((bytes) => (bytes === null ? [] : [`bytes ${bytes}`])),
    `size ${sizeInBytes}`,
  ];
}

/** A reel is made of so many runs of letters and of digits at most: "GL-A_001" of three. */
const mostRuns = 5;

const ask = <K>(map: Map<K, Crowd>, key: K): void => {
  if (!map.has(key)) map.set(key, new Crowd());
};
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
const wordsAsked = ({ tokens }: PreparedClip): readonly string[] =>
  tokens.length > 1 ? tokens.slice(1).map((token, i) => `${tokens[i]} ${token}`) : tokens;

/** Keeps one more than counts, so that a key too common to say anything is known as such. */
function addFew(list: PreparedFile[] | undefined, file: PreparedFile): void {
  if (list && list.length <= mostAlike) list.push(file);
}
const atMostAlike = (list: readonly PreparedFile[] | undefined): readonly PreparedFile[] =>
  list && list.length <= mostAlike ? list : [];

/**
 * Start, length and nominal rate in one number: timecode numbers frames, so rates of one nominal value share their
 * addresses. Lengths of over 2^20 frames fold; two that meet by that are told apart when they are weighed.
 */
const startKey = (start: number, length: number, rate: Rate): number =>
  (start * 1_048_576 + (length % 1_048_576)) * 128 + (nominalRate(rate) % 128);

/** Samples as the frames of another rate: to the nearest, which is near enough for finding. */
function startKeyOf(start: number, length: number, own: Rate, rate: Rate): number {
  const frames = (count: number) => Math.round((count * own.den * rate.num) / (own.num * rate.den));
  return startKey(frames(start), frames(length), rate);
}

/** Sound is counted in samples, so that its start and length may each be a frame off. */
function startsAsked({ clip: { available, rate, kind } }: PreparedClip): number[] {
  if (!available) return [];
  const [start, length] = [available.start, available.end - available.start];
  if (kind === 'picture' || kind === 'sequence' || kind === 'still') return [startKey(start, length, rate)];
  return [0, -1, 1].flatMap((s) => [0, -1, 1].map((l) => startKey(start + s, length + l, rate)));
}

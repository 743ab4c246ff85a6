import { countingRate } from '../model/media.ts';
import { commonTailOfKeys } from '../paths/displacement.ts';
import { compareReels } from '../paths/names.ts';
import { nominalRate, type Rate } from '../time/rate.ts';
import { IntervalIndex } from './intervals.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';

/** Up to so many files under one key are all weighed. */
const few = 24;
/** Of more than that, the nearest so many. */
const fewNearest = 8;
const dayInMs = 86_400_000;

/**
 * What a key has for a clip. `outOfTime` are files that were not taken since their timecode is elsewhere and known;
 * `leftOut` could be as good as what was taken, and nobody looked: then nothing may be certain.
 */
export type Narrowed = { readonly files: PreparedFile[]; readonly outOfTime: number; readonly leftOut: number };

/** Counts as timecode numbers them, in whole milliseconds: near enough for finding, never for judging. */
export const toMilliseconds = (frames: number, rate: Rate): number => Math.floor((frames * 1000) / nominalRate(rate));

/**
 * Files under one key. Where they are very many (every camera restarts its numbering), what else the clip knows narrows
 * them: timecode, length, folder. None is ever passed over silently.
 */
export class Crowd {
  readonly files: PreparedFile[] = [];
  #timed: IntervalIndex<PreparedFile> | null = null;
  /** Of the timed ones, those that state no reel; and those that do, by every form of it. */
  #reelless: IntervalIndex<PreparedFile> | null = null;
  #byReel = new Map<string, PreparedFile[]>();
  #byLength = new Map<number, { readonly length: number; readonly file: PreparedFile }[]>();
  #byFolder = new Map<string, PreparedFile[]>();
  #unread: PreparedFile[] = [];
  #untimed = 0;
  #isSorted = false;

  get size(): number {
    return this.files.length;
  }

  /** `most`: up to so many are all taken. */
  narrowed(clip: PreparedClip, most = few): Narrowed {
    if (this.files.length <= most) return { files: this.files, outOfTime: 0, leftOut: 0 };
    this.#sort();
    const found = new Set<PreparedFile>();
    // What several ways lead to and one of them takes is not left out.
    const passed = new Set<PreparedFile>();
    const take = (files: readonly PreparedFile[], ownsUp = true) => {
      const within = files.length > few ? nearest(clip, files) : files;
      for (const file of within) found.add(file);
      if (ownsUp && within.length < files.length) for (const file of files) passed.add(file);
    };
    const { available, rate } = clip.clip;
    const meeting = this.#meetingOnReel(clip);
    const starting = meeting.filter((file) => startsWith(clip, file));
    take(starting.filter((file) => isAsLong(clip, file)));
    // Where the edit says when a take begins, those that begin elsewhere are told apart; so are those of other reels.
    take(meeting, available === null);
    take(this.#unread);
    for (const key of folderKeys(clip)) {
      const lying = this.#byFolder.get(key);
      if (!lying) continue;
      if (lying.length <= few) take(lying);
      break;
    }
    // Counted otherwise, a recording is known by its length; one that fits as it stands needs no such guess.
    if (available && starting.length === 0)
      take(this.#ofLength(toMilliseconds(available.end - available.start, rate), rate));
    let leftOut = !available && found.size === 0 ? this.#untimed : 0;
    for (const file of passed) if (!found.has(file)) leftOut += 1;
    return { files: [...found], outOfTime: this.files.length - found.size - leftOut, leftOut };
  }

  /** Files of a folder, given as name keys with the place first. */
  lyingIn(folders: readonly string[]): readonly PreparedFile[] {
    const isIn = ({ folderKeys: own }: PreparedFile) =>
      own.length === folders.length && own.every((key, i) => key === folders[i]);
    if (this.files.length <= few) return this.files.filter(isIn);
    this.#sort();
    const [key] = folderKeys({ folderKeys: folders });
    return (key === undefined ? [] : (this.#byFolder.get(key) ?? [])).filter(isIn);
  }

  /** Files whose timecode meets what the clip uses, on either side of midnight. */
  meeting(clip: PreparedClip): PreparedFile[] {
    this.#sort();
    return meetingIn(this.#timed!, clip);
  }

  /** The same, without those that state another reel than the clip does: they are told apart. */
  #meetingOnReel(clip: PreparedClip): PreparedFile[] {
    const { reel } = clip;
    if (!reel) return meetingIn(this.#timed!, clip);
    const found = meetingIn(this.#reelless!, clip);
    for (const form of [reel.full, ...reel.cut])
      for (const file of this.#byReel.get(form) ?? [])
        if (!found.includes(file) && !isOfOtherReel(clip, file) && meets(clip, file)) found.push(file);
    return found;
  }

  #ofLength(milliseconds: number, rate: Rate): PreparedFile[] {
    const frame = Math.ceil(1000 / Math.min(nominalRate(rate), 120));
    const found: PreparedFile[] = [];
    const at = lengthBucket(milliseconds);
    for (const bucket of [at - 1, at, at + 1])
      for (const { length, file } of this.#byLength.get(bucket) ?? [])
        if (Math.abs(length - milliseconds) <= frame) found.push(file);
    return found;
  }

  #sort(): void {
    if (this.#isSorted) return;
    this.#isSorted = true;
    const timed: { from: number; to: number; item: PreparedFile }[] = [];
    for (const file of this.files) {
      for (const key of folderKeys(file)) push(this.#byFolder, key, file);
      const { facts } = file.file;
      const rate = facts && countingRate(facts);
      if (!facts) {
        if (!file.file.unreadable) this.#unread.push(file);
        continue;
      }
      if (!rate || facts.length === null) {
        this.#untimed += 1;
        continue;
      }
      const length = toMilliseconds(facts.length, rate);
      push(this.#byLength, lengthBucket(length), { length, file });
      if (facts.timecodeSource === 'none') this.#untimed += 1;
      else {
        const from = toMilliseconds(facts.start, rate);
        timed.push({ from, to: toMilliseconds(facts.start + facts.length, rate), item: file });
        if (file.reel) for (const form of [file.reel.full, ...file.reel.cut]) push(this.#byReel, form, file);
      }
    }
    this.#timed = new IntervalIndex(timed);
    this.#reelless = new IntervalIndex(timed.filter(({ item }) => item.reel === null));
  }
}

/** What a clip uses, in milliseconds, on every day on which a file may count it. */
function stretchesOf({ clip, wanted }: PreparedClip): [from: number, to: number][] {
  const range = wanted ?? clip.available;
  if (!range) return [];
  const [from, to] = [toMilliseconds(range.start, clip.rate), toMilliseconds(range.end, clip.rate)];
  const days: [number, number][] = [
    [from, to],
    [from + dayInMs, to + dayInMs],
  ];
  return to >= dayInMs ? [...days, [from - dayInMs, to - dayInMs]] : days;
}

function meetingIn(index: IntervalIndex<PreparedFile>, clip: PreparedClip): PreparedFile[] {
  const found: PreparedFile[] = [];
  for (const [from, to] of stretchesOf(clip)) index.meeting(from, to, (file) => void found.push(file));
  return found;
}

function meets(clip: PreparedClip, { file: { facts } }: PreparedFile): boolean {
  const rate = facts && countingRate(facts);
  if (!rate || facts.length === null) return false;
  const [start, end] = [toMilliseconds(facts.start, rate), toMilliseconds(facts.start + facts.length, rate)];
  return stretchesOf(clip).some(([from, to]) => end >= from && start <= to);
}

/** So wide that a frame more or less falls into the next at most. */
const lengthBucket = (milliseconds: number): number => Math.round(milliseconds / 50);

function push<K, V>(map: Map<K, V[]>, key: K, value: V): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}

/** The two lowest folders together, then the lowest. */
function folderKeys({ folderKeys: keys }: Pick<PreparedFile, 'folderKeys'>): string[] {
  const lowest = keys.at(-1);
  if (lowest === undefined) return [];
  const above = keys.at(-2);
  return above === undefined ? [lowest] : [`${above}/${lowest}`, lowest];
}

function isAsLong({ clip: { available, rate } }: PreparedClip, { file: { facts } }: PreparedFile): boolean {
  const own = facts && countingRate(facts);
  if (!available || !facts || !own || facts.length === null) return false;
  return Math.abs(toMilliseconds(facts.length, own) - toMilliseconds(available.end - available.start, rate)) <= 84;
}

function startsWith({ clip: { available, rate } }: PreparedClip, { file: { facts } }: PreparedFile): boolean {
  const own = facts && countingRate(facts);
  if (!available || !facts || !own || facts.start === 0) return false;
  return Math.abs(toMilliseconds(facts.start, own) - toMilliseconds(available.start, rate)) <= 42;
}

const isOfOtherReel = (clip: PreparedClip, file: PreparedFile): boolean =>
  clip.reel !== null && file.reel !== null && compareReels(clip.reel, file.reel) === 'other';

/** The few whose reel or folders are most the clip's own. */
function nearest(clip: PreparedClip, files: readonly PreparedFile[]): readonly PreparedFile[] {
  if (files.length <= fewNearest) return files;
  const worth = (file: PreparedFile) =>
    commonTailOfKeys(clip.folderKeys, file.folderKeys) + (clip.reel && file.reel && !isOfOtherReel(clip, file) ? 8 : 0);
  // One pass, for there may be thousands: the best so far, best first, and of equals the one met first.
  const best: { readonly file: PreparedFile; readonly worth: number }[] = [];
  for (const file of files) {
    const own = worth(file);
    if (best.length === fewNearest && own <= best.at(-1)!.worth) continue;
    const at = best.findIndex((other) => own > other.worth);
    best.splice(at < 0 ? best.length : at, 0, { file, worth: own });
    if (best.length > fewNearest) best.pop();
  }
  return best.map((entry) => entry.file);
}

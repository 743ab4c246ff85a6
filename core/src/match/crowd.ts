import { commonTailOfKeys } from '../paths/displacement.ts';
import { compareReels } from '../paths/names.ts';
import { nominalRate, type Rate } from '../time/rate.ts';
import { IntervalIndex, toMilliseconds } from '../time/intervals.ts';
import { lowestFolders, type PreparedClip, type PreparedFile } from './prepare.ts';

/** Up to so many files under one key are all weighed. */
const few = 24;
/** Of more than that, the nearest so many. */
const fewNearest = 8;
const dayInMs = 86_400_000;
/** At the slowest rate there is. */
const oneFrame = 42;

/**
 * What a key has for a clip. `outOfTime` are files that were not taken since their timecode is elsewhere and known;
 * `leftOut` could be as good as what was taken, and nobody looked: then nothing may be certain.
 */
export type Narrowed = {
  readonly files: readonly PreparedFile[];
  readonly outOfTime: number;
  readonly leftOut: number;
};

/**
 * `identity`: names, words, starts, bytes. `reel`: asked for what of it holds something of what is used. `outline`: names
 * or sizes that are merely alike, looked at only where nothing better was found.
 */
export type KeyKind = 'identity' | 'reel' | 'outline';

/**
 * Files under one key, and who asks for them. Where they are very many (every camera restarts its numbering), what else
 * a clip knows narrows them: timecode, length, folder. None is ever passed over silently.
 */
export class Crowd {
  readonly by: KeyKind;
  #files: PreparedFile[] = none;
  /** Nearly always the only one, which needs no list. */
  #firstAsker: number | null = null;
  #otherAskers: number[] = none;
  #order: Order | null = null;

  constructor(by: KeyKind = 'identity') {
    this.by = by;
  }

  get files(): readonly PreparedFile[] {
    return this.#files;
  }

  /** The clips that ask by this key, by their place in the project. */
  get askers(): readonly number[] {
    return this.#firstAsker === null ? none : [this.#firstAsker, ...this.#otherAskers];
  }

  get size(): number {
    return this.#files.length;
  }

  add(file: PreparedFile): void {
    this.#files = withOneMore(this.#files, file);
    this.#order = null;
  }

  remove(file: PreparedFile): void {
    this.#files = without(this.#files, file);
    this.#order = null;
  }

  addAsker(at: number): void {
    if (this.#firstAsker === null) this.#firstAsker = at;
    else this.#otherAskers = withOneMore(this.#otherAskers, at);
  }

  removeAsker(at: number): void {
    if (this.#firstAsker === at) this.#firstAsker = this.#otherAskers.shift() ?? null;
    else this.#otherAskers = without(this.#otherAskers, at);
  }

  /** `most`: up to so many are all taken. `isBegun`: some file, whatever its name, begins and ends with the clip. */
  narrowed(clip: PreparedClip, { most = few, isBegun = false } = {}): Narrowed {
    if (this.files.length <= most) return { files: this.files, outOfTime: 0, leftOut: 0 };
    const order = this.#sorted();
    const found = new Set<PreparedFile>();
    // What several ways lead to and one of them takes is not left out.
    const passed = new Set<PreparedFile>();
    const take = (files: readonly PreparedFile[], ownsUp = true) => {
      const within = files.length > few ? nearest(clip, files) : files;
      for (const file of within) found.add(file);
      if (ownsUp && within.length < files.length) for (const file of files) passed.add(file);
    };
    const { available, rate } = clip.clip;
    const starting = available === null ? [] : order.startingOnReel(clip, toMilliseconds(available.start, rate));
    take(starting.filter((file) => isAsLong(clip, file)));
    // Where the edit says when a take begins, those that begin elsewhere are told apart; so are those of other reels.
    if (available === null || clip.enriched !== null) take(order.meetingOnReel(clip));
    else take(order.meetingNearby(clip), false);
    take(order.unread);
    for (const key of clip.lowest) {
      const lying = order.lyingUnder(key);
      if (lying.length === 0) continue;
      if (lying.length <= few) take(lying);
      break;
    }
    // Counted otherwise, a recording is known by its length; one that fits as it stands needs no such guess.
    if (available && starting.length === 0 && !isBegun)
      take(order.ofLength(toMilliseconds(available.end - available.start, rate), rate));
    let leftOut = !available && found.size === 0 ? order.untimed : 0;
    for (const file of passed) if (!found.has(file)) leftOut += 1;
    return { files: [...found], outOfTime: this.files.length - found.size - leftOut, leftOut };
  }

  /** Files of a folder, given as name keys with the place first. */
  lyingIn(folders: readonly string[]): readonly PreparedFile[] {
    const isIn = ({ folderKeys: own }: PreparedFile) =>
      own.length === folders.length && own.every((key, i) => key === folders[i]);
    if (this.files.length <= few) return this.files.filter(isIn);
    const [key] = lowestFolders(folders);
    return key === undefined ? [] : this.#sorted().lyingUnder(key).filter(isIn);
  }

  /** Files whose timecode meets what the clip uses, on either side of midnight. */
  meeting(clip: PreparedClip): PreparedFile[] {
    return this.#sorted().meeting(clip);
  }

  #sorted(): Order {
    return (this.#order ??= new Order(this.files));
  }
}

/** There are ten times as many crowds as clips, and nearly all have one file or none, and one who asks. */
const none: never[] = [];

/** The list, longer by one. An empty one that were pushed to would make room for seventeen. */
function withOneMore<T>(list: T[], one: T): T[] {
  if (list.length === 0) return [one];
  list.push(one);
  return list;
}

function without<T>(list: T[], one: T): T[] {
  const at = list.indexOf(one);
  if (at >= 0) list.splice(at, 1);
  return list;
}

/** The files of one crowd under what else a clip may know. Each way is sorted when it is first asked. */
class Order {
  readonly unread: readonly PreparedFile[];
  /** Files that say nothing of when they were recorded. */
  readonly untimed: number;
  readonly #files: readonly PreparedFile[];
  #timed: IntervalIndex<PreparedFile> | null = null;
  /** Of the timed ones, those that state no reel; and those that do, by every form of it. */
  #reelless: IntervalIndex<PreparedFile> | null = null;
  #byReel: Map<string, PreparedFile[]> | null = null;
  #byLength: Map<number, PreparedFile[]> | null = null;
  #byFolder: Map<string, PreparedFile[]> | null = null;
  readonly #timedByFolder = new Map<string, IntervalIndex<PreparedFile>>();

  constructor(files: readonly PreparedFile[]) {
    this.#files = files;
    this.unread = files.filter(({ state }) => state === 'unread');
    this.untimed = files.filter(({ file, stretch }) => file.facts && !stretch?.isNumbered).length;
  }

  meeting(clip: PreparedClip): PreparedFile[] {
    return meetingIn(this.#ofTime(), clip);
  }

  /** The same, without those that state another reel than the clip does: they are told apart. */
  meetingOnReel(clip: PreparedClip): PreparedFile[] {
    if (!clip.reel) return this.meeting(clip);
    return [...meetingIn(this.#ofNoReel(), clip), ...this.#ofReel(clip)];
  }

  /** Of those the ones that begin with the clip, or within a frame of it. */
  startingOnReel(clip: PreparedClip, milliseconds: number): PreparedFile[] {
    const all = clip.reel ? this.#ofNoReel() : this.#ofTime();
    const begins = all.beginning(milliseconds - oneFrame, milliseconds + oneFrame);
    const onReel = this.#ofReel(clip).filter(({ stretch }) => Math.abs(stretch!.from - milliseconds) <= oneFrame);
    return [...begins.filter((file) => meets(clip, file)), ...onReel].filter(({ stretch }) => stretch!.from !== 0);
  }

  /**
   * Of what meets the clip on its reel all, while they are few. Of many only those that state its reel, and those whose
   * lowest folders are called as the clip's: the rest are of the same hour of other days.
   */
  meetingNearby(clip: PreparedClip): readonly PreparedFile[] {
    const onReel = this.#ofReel(clip);
    const others = meetingIn(clip.reel ? this.#ofNoReel() : this.#ofTime(), clip, fewNearest + 1);
    if (others.length + onReel.length <= fewNearest) return [...others, ...onReel];
    for (const key of clip.lowest) {
      const lying = meetingIn(this.#timedUnder(key), clip).filter((file) => !isOfOtherReel(clip, file));
      if (lying.length > 0) return nearest(clip, [...onReel, ...lying.filter((file) => !onReel.includes(file))]);
    }
    return nearest(clip, onReel);
  }

  /** What states the clip's reel, in any form of it, and meets what is used. */
  #ofReel(clip: PreparedClip): PreparedFile[] {
    const { reel } = clip;
    if (!reel) return [];
    this.#byReel ??= gathered(this.#files, (file) =>
      file.reel && file.stretch?.isNumbered ? [file.reel.full, ...file.reel.cut] : [],
    );
    const found: PreparedFile[] = [];
    for (const form of [reel.full, ...reel.cut])
      for (const file of this.#byReel.get(form) ?? [])
        if (!found.includes(file) && !isOfOtherReel(clip, file) && meets(clip, file)) found.push(file);
    return found;
  }

  #ofTime = () => (this.#timed ??= indexOf(this.#files));
  #ofNoReel = () => (this.#reelless ??= indexOf(this.#files.filter((file) => file.reel === null)));

  #timedUnder(key: string): IntervalIndex<PreparedFile> {
    const known = this.#timedByFolder.get(key) ?? indexOf(this.lyingUnder(key));
    this.#timedByFolder.set(key, known);
    return known;
  }

  ofLength(milliseconds: number, rate: Rate): PreparedFile[] {
    this.#byLength ??= gathered(this.#files, ({ stretch }) =>
      stretch ? [lengthBucket(stretch.to - stretch.from)] : [],
    );
    const frame = Math.ceil(1000 / Math.min(nominalRate(rate), 120));
    const found: PreparedFile[] = [];
    const at = lengthBucket(milliseconds);
    for (const bucket of [at - 1, at, at + 1])
      for (const file of this.#byLength.get(bucket) ?? [])
        if (Math.abs(lengthOf(file) - milliseconds) <= frame) found.push(file);
    return found;
  }

  lyingUnder(key: string): readonly PreparedFile[] {
    this.#byFolder ??= gathered(this.#files, ({ lowest }) => lowest);
    return this.#byFolder.get(key) ?? [];
  }
}

const indexOf = (files: readonly PreparedFile[]): IntervalIndex<PreparedFile> =>
  new IntervalIndex(
    files.flatMap((file) =>
      file.stretch?.isNumbered ? { from: file.stretch.from, to: file.stretch.to, item: file } : [],
    ),
  );

function gathered<K>(
  files: readonly PreparedFile[],
  keysOf: (file: PreparedFile) => readonly K[],
): Map<K, PreparedFile[]> {
  const byKey = new Map<K, PreparedFile[]>();
  for (const file of files)
    for (const key of keysOf(file)) {
      const list = byKey.get(key);
      if (list) list.push(file);
      else byKey.set(key, [file]);
    }
  return byKey;
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

/** `most`: after so many no more are looked for. */
function meetingIn(index: IntervalIndex<PreparedFile>, clip: PreparedClip, most = Infinity): PreparedFile[] {
  const found: PreparedFile[] = [];
  for (const [from, to] of stretchesOf(clip))
    index.meeting(from, to, (file) => found.length < most && found.push(file) > 0);
  return found;
}

/** Whether a file holds something of what a clip uses, on whatever day. */
export const meets = (clip: PreparedClip, { stretch }: PreparedFile): boolean =>
  stretch !== null && stretchesOf(clip).some(([from, to]) => stretch.to >= from && stretch.from <= to);

const lengthOf = ({ stretch }: PreparedFile): number => (stretch ? stretch.to - stretch.from : 0);

/** So wide that a frame more or less falls into the next at most. */
const lengthBucket = (milliseconds: number): number => Math.round(milliseconds / 50);

const isAsLong = ({ clip: { available, rate } }: PreparedClip, file: PreparedFile): boolean =>
  available !== null &&
  file.stretch !== null &&
  Math.abs(lengthOf(file) - toMilliseconds(available.end - available.start, rate)) <= 84;

const isOfOtherReel = (clip: PreparedClip, file: PreparedFile): boolean =>
  clip.reel !== null && file.reel !== null && compareReels(clip.reel, file.reel) === 'other';

/** The few whose reel or folders are most the clip's own; of equals always the same, in whatever order they came. */
function nearest(clip: PreparedClip, files: readonly PreparedFile[]): readonly PreparedFile[] {
  if (files.length <= fewNearest) return files;
  const worth = (file: PreparedFile) =>
    commonTailOfKeys(clip.folderKeys, file.folderKeys) + (clip.reel && file.reel && !isOfOtherReel(clip, file) ? 8 : 0);
  type Ranked = { readonly file: PreparedFile; readonly worth: number };
  const isBefore = (a: Ranked, b: Ranked) => a.worth > b.worth || (a.worth === b.worth && a.file.id < b.file.id);
  // One pass, for there may be thousands: the best so far, best first.
  const best: Ranked[] = [];
  for (const file of files) {
    const own = { file, worth: worth(file) };
    if (best.length === fewNearest && !isBefore(own, best.at(-1)!)) continue;
    const at = best.findIndex((other) => isBefore(own, other));
    best.splice(at < 0 ? best.length : at, 0, own);
    if (best.length > fewNearest) best.pop();
  }
  return best.map((entry) => entry.file);
}

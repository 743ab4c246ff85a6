import { countingRate } from '../model/media.ts';
import { nameTokens, shortReelKey } from '../paths/names.ts';
import { scaleFrames } from '../time/range.ts';
import { nominalRate, type Rate } from '../time/rate.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';

/** A key that more files share than this says nothing about any of them. */
const mostPerKey = 200;
/** Files of one reel looked at around a wanted address. */
const neighboursOnReel = 8;

/**
 * The files of all places under the keys by which a clip may find them: name, stem, words of the name, reel with
 * address, start with length. Building it costs one pass over the files; asking it costs no pass at all.
 */
export class CandidateIndex {
  readonly #byName = new Map<string, PreparedFile[]>();
  readonly #byStem = new Map<string, PreparedFile[]>();
  readonly #byToken = new Map<string, PreparedFile[]>();
  readonly #byStart = new Map<string, PreparedFile[]>();
  readonly #byReel = new Map<string, { milliseconds: number; file: PreparedFile }[]>();

  constructor(files: Iterable<PreparedFile>) {
    for (const file of files) {
      add(this.#byName, file.nameKey, file);
      add(this.#byStem, file.stemKey, file);
      for (const token of new Set(nameTokens(file.stem))) add(this.#byToken, token, file, mostPerKey + 1);
      const { facts } = file.file;
      const rate = facts ? countingRate(facts) : null;
      if (!facts || !rate || facts.length === null || facts.timecodeSource === 'none') continue;
      add(this.#byStart, startKey(facts.start, facts.length, rate), file, mostPerKey + 1);
      if (facts.reel) {
        const key = shortReelKey(facts.reel);
        const entry = { milliseconds: toMilliseconds(facts.start, rate), file };
        const list = this.#byReel.get(key);
        if (list) list.push(entry);
        else this.#byReel.set(key, [entry]);
      }
    }
    for (const list of this.#byReel.values()) list.sort((a, b) => a.milliseconds - b.milliseconds);
  }

  /** The few files worth weighing for a clip. Never all of them; possibly none. */
  candidatesOf(clip: PreparedClip): PreparedFile[] {
    const found = new Set<PreparedFile>();
    const take = (files: readonly PreparedFile[] | undefined) => {
      if (files && files.length <= mostPerKey) for (const file of files) found.add(file);
    };
    // Equal names are always looked at, however many: leaving one out could make another look unrivalled.
    for (const file of this.#byName.get(clip.nameKey) ?? []) found.add(file);
    take(this.#byStem.get(clip.stemKey));
    const { available, rate, reel } = clip.clip;
    if (available) take(this.#byStart.get(startKey(available.start, available.end - available.start, rate)));
    if (reel && clip.wanted) {
      const list = this.#byReel.get(shortReelKey(reel)) ?? [];
      const at = lastAtOrBefore(list, toMilliseconds(clip.wanted.start, rate));
      for (let i = Math.max(0, at - neighboursOnReel + 1); i <= Math.min(list.length - 1, at + 1); i += 1)
        found.add(list[i]!.file);
    }
    if (found.size < mostPerKey) take(this.#rarestTokens(clip));
    return [...found];
  }

  /** Files that share the two rarest words of the clip's name: how a name with something added to it is found. */
  #rarestTokens(clip: PreparedClip): readonly PreparedFile[] | undefined {
    const lists = clip.tokens.map((token) => this.#byToken.get(token)).filter((list) => list !== undefined);
    lists.sort((a, b) => a.length - b.length);
    const [rarest, next] = lists;
    if (!rarest || rarest.length > mostPerKey) return undefined;
    return clip.tokens.length > 1 && next && next.length <= mostPerKey
      ? rarest.filter((f) => next.includes(f))
      : rarest;
  }
}

function add(map: Map<string, PreparedFile[]>, key: string, file: PreparedFile, most = Infinity): void {
  const list = map.get(key);
  if (!list) map.set(key, [file]);
  else if (list.length < most) list.push(file);
}

/** Timecode numbers frames, so rates of one nominal value share their addresses. */
const startKey = (start: number, length: number, rate: Rate): string => `${nominalRate(rate)}/${start}/${length}`;
const toMilliseconds = (frames: number, rate: Rate): number =>
  scaleFrames(frames, { num: 1000, den: nominalRate(rate) }, 'down');

function lastAtOrBefore(list: readonly { milliseconds: number }[], milliseconds: number): number {
  let low = 0;
  let high = list.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (list[middle]!.milliseconds <= milliseconds) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

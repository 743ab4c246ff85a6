import type { MediaFileId } from '../model/ids.ts';
import { binKey } from './tree.ts';
import type { BinPath } from './noted.ts';

/** A clip as bins tell whether another speaks of the same: start and rate as the edit states them. */
export type ToGather = {
  readonly id: string;
  readonly bin: BinPath;
  readonly tiedTo: MediaFileId | null;
  readonly name: string;
  readonly remembered: string | null;
  readonly reel: string | null;
  readonly rate: string;
  readonly start: number | null;
};

/**
 * What a clip is a recording of: the file it is tied to; while it is dark, what the edit says of it to the letter. Two
 * documents that say the same may still mean another, so nothing is decided by this: it is how bins are read.
 */
export const recordingOf = ({ tiedTo, name, remembered, reel, rate, start }: Omit<ToGather, 'id' | 'bin'>): string =>
  tiedTo ?? JSON.stringify([name, remembered, reel, rate, start]);

/** Clips of one bin that are one recording, together, in the order of the first of each. */
export function gatherClips<T extends ToGather>(clips: readonly T[]): T[][] {
  const gathered = new Map<string, T[]>();
  for (const clip of clips) {
    const key = `${binKey(clip.bin)} ${recordingOf(clip)}`;
    const known = gathered.get(key);
    if (known) known.push(clip);
    else gathered.set(key, [clip]);
  }
  return [...gathered.values()];
}

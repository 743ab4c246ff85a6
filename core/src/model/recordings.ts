import { sameRate } from '../time/rate.ts';
import type { FrameRange } from '../time/range.ts';
import type { Facts, MediaFile } from './media.ts';

/** One recording that a camera split into several files, in order. The range is in frames at the parts' rate. */
export type Recording = { readonly parts: readonly MediaFile[]; readonly range: FrameRange };

/** Cameras begin a new file where a file system ends: at 2 and 4 GiB. */
const splitSizes = [2 ** 31, 2 ** 32];
const nearSplitSize = 0.06;
const equalParts = 0.02;

/**
 * Recordings of several parts: files of one folder whose names differ in one number that goes up by one, whose timecode
 * goes on without a gap, and that are alike in everything else. Takes of a recorder that pauses its timecode do that
 * too, so it must show that the camera split them, not a person: all parts but the last are equally long, or as large as
 * a file system allows, or their names call them parts.
 */
export function splitRecordings(files: readonly MediaFile[]): Recording[] {
  const parts = files.filter(canBePart);
  const next = new Map<string, MediaFile>();
  for (const file of parts) for (const key of keysAt(file, file.facts.start, 0)) next.set(key, file);
  const follower = (file: (typeof parts)[number]) =>
    keysAt(file, file.facts.start + file.facts.length, 1)
      .map((key) => next.get(key))
      .find((found) => found !== undefined && found !== file);
  const followed = new Set(parts.map(follower).filter((f) => f !== undefined));
  const recordings: Recording[] = [];
  for (const first of parts) {
    if (followed.has(first)) continue;
    const chain: (typeof parts)[number][] = [first];
    for (let at = follower(first); at && canBePart(at) && chain.length < 1000; at = follower(at)) chain.push(at);
    const last = chain.at(-1)!;
    if (chain.length > 1 && wasSplitByCamera(chain))
      recordings.push({ parts: chain, range: { start: first.facts.start, end: last.facts.start + last.facts.length } });
  }
  return recordings;
}

type Part = MediaFile & { readonly facts: Facts & { readonly length: number } };
const canBePart = (file: MediaFile): file is Part =>
  file.facts?.kind === 'picture' && file.facts.length !== null && file.facts.timecodeSource !== 'none';

/** For each number in the name: everything that must be equal, with that number `ahead` and the timecode at `start`. */
function keysAt({ folder, name, facts }: Part, start: number, ahead: number): string[] {
  const { codec, rate, raster, reel } = facts;
  const alike = [folder, codec, `${rate?.num}/${rate?.den}`, `${raster?.width}x${raster?.height}`, reel ?? '', start];
  return [...name.matchAll(/\d{1,6}/g)].map((match) => {
    const number = String(Number(match[0]) + ahead).padStart(match[0].length, '0');
    const renamed = name.slice(0, match.index) + number + name.slice(match.index + match[0].length);
    return [...alike, match.index, renamed.toLowerCase()].join('\u0000');
  });
}

function wasSplitByCamera(chain: readonly Part[]): boolean {
  if (!chain.every((file) => sameRate(file.facts.rate!, chain[0]!.facts.rate!))) return false;
  const [full, last] = [chain.slice(0, -1), chain.at(-1)!];
  const [longest, shortest] = [
    Math.max(...full.map((f) => f.facts.length)),
    Math.min(...full.map((f) => f.facts.length)),
  ];
  const areEqual = full.length > 1 && longest - shortest <= longest * equalParts && last.facts.length <= longest * 1.02;
  const areFull = full.every((f) => splitSizes.some((size) => Math.abs(f.sizeInBytes / size - 1) < nearSplitSize));
  const areNamedParts = chain.every((f) => /(?:^|[^a-z])(?:part|pt|p)[ ._-]?\d+/i.test(f.name));
  return areEqual || areFull || areNamedParts;
}

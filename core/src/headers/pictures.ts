import { HeaderBroken, type ByteReader } from './bytes.ts';
import { pictureTrack, type Track } from './movie.ts';

/** A coded picture of a movie: where it lies, which frame of presentation it is, whether decoding can begin there. */
export type CodedPicture = {
  readonly offset: number;
  readonly size: number;
  readonly frame: number;
  readonly isKey: boolean;
};

/** A day of 50 frames a second is less; a forged count must not fill the memory. */
const mostPictures = 5_000_000;

/**
 * The coded pictures of a MOV or MP4 (ISO 14496-12) in the order they are decoded, from its index alone. Null where they
 * are not evenly spaced, not all there, or where only a decoder knows.
 */
export function readPictures(source: ByteReader): CodedPicture[] | null {
  try {
    const track = pictureTrack(source);
    if (!track || track.times.length !== 1 || track.samples > mostPictures) return null;
    const frames = framesOf(track);
    const places = placesOf(track, source.size);
    if (!frames || !places || places.length !== frames.length) return null;
    const keys = track.keys && new Set(track.keys);
    return places.map((place, i) => ({ ...place, frame: frames[i]!, isKey: keys === null || keys.has(i + 1) }));
  } catch (error) {
    if (error instanceof HeaderBroken) return null;
    throw error;
  }
}

/** Which frame each sample shows: samples are decoded evenly, and shown later by what the index says. */
function framesOf({ samples, times, shifts, edits }: Track): number[] | null {
  const { delta, count } = times[0]!;
  if (count !== samples || delta === 0) return null;
  const shown: number[] = [];
  let [step, left] = [0, shifts[0]?.count ?? Infinity];
  for (let i = 0; i < samples; i += 1) {
    while (left === 0 && step + 1 < shifts.length) {
      step += 1;
      left = shifts[step]!.count;
    }
    shown.push(i * delta + (shifts[step]?.by ?? 0));
    left -= 1;
  }
  const first = shown.reduce((least, time) => Math.min(least, time), Infinity);
  // Shown from somewhere else, or with a pause before: what is the first frame then, only a decoder knows.
  if (edits.length > 1 || (edits.length === 1 && edits[0]!.from !== first)) return null;
  const frames = shown.map((time) => (time - first) / delta);
  const isEven = frames.every(Number.isInteger) && new Set(frames).size === samples;
  return isEven && frames.every((frame) => frame < samples) ? frames : null;
}

function placesOf(
  { samples, sizes, chunks, perChunk }: Track,
  fileSize: number,
): { offset: number; size: number }[] | null {
  if (!chunks) return null;
  const offsets = chunks.box.cursor();
  offsets.skip(4);
  const count = offsets.u32();
  const table = sizes.fixed === 0 ? sizes.table?.cursor() : null;
  table?.skip(12);
  const places: { offset: number; size: number }[] = [];
  let step = 0;
  for (let chunk = 1; chunk <= count && places.length < samples; chunk += 1) {
    while (step + 1 < perChunk.length && perChunk[step + 1]!.first <= chunk) step += 1;
    let at = chunks.wide ? offsets.u64() : offsets.u32();
    for (let i = perChunk[step]?.count ?? 0; i > 0 && places.length < samples; i -= 1) {
      const size = sizes.fixed > 0 ? sizes.fixed : table!.u32();
      if (at + size > fileSize) return null;
      places.push({ offset: at, size });
      at += size;
    }
  }
  return places.length === samples ? places : null;
}

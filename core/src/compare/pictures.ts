import { intersectRanges, type FrameRange } from '../time/range.ts';

/** How two small grey pictures of one moment stand to one another. */
export type Likeness = 'same' | 'regraded' | 'other';

/** Of 255 levels so many apart on the average are what encoding costs. */
const encodingCost = 4;
/** Pictures whose light and dark fall together so far show the same, however light or dark they are. */
const sameShape = 0.9;

/**
 * Whether two samples of grey (as many values, 0 to 255) are the same picture, the same made lighter, darker or harder, or
 * another one. Flat pictures have no shape to compare: they are told by their level alone.
 */
export function likenessOf(a: Uint8Array, b: Uint8Array): Likeness {
  const count = Math.min(a.length, b.length);
  if (count === 0) return 'other';
  const mean = (values: Uint8Array) => values.subarray(0, count).reduce((sum, v) => sum + v, 0) / count;
  const [meanA, meanB] = [mean(a), mean(b)];
  let [apart, together, spreadA, spreadB] = [0, 0, 0, 0];
  for (let i = 0; i < count; i += 1) {
    const [x, y] = [a[i]!, b[i]!];
    apart += Math.abs(x - y);
    together += (x - meanA) * (y - meanB);
    spreadA += (x - meanA) ** 2;
    spreadB += (y - meanB) ** 2;
  }
  if (apart / count <= encodingCost) return 'same';
  if (spreadA === 0 || spreadB === 0) return 'other';
  return together / Math.sqrt(spreadA * spreadB) >= sameShape ? 'regraded' : 'other';
}

/** A few frames that two source ranges share, at one rate: near both ends, and the middle. */
export function framesToCompare(a: FrameRange, b: FrameRange): number[] {
  const shared = intersectRanges(a, b);
  if (!shared) return [];
  const length = shared.end - shared.start;
  return [...new Set([0.1, 0.5, 0.9].map((part) => shared.start + Math.floor((length - 1) * part)))];
}

/** What several frames say together: one that is another picture makes the files two. */
export function togetherAlike(frames: readonly Likeness[]): Likeness | null {
  if (frames.length === 0) return null;
  return frames.includes('other') ? 'other' : frames.includes('regraded') ? 'regraded' : 'same';
}

import { compareReels, reelForms, splitExtension } from '../paths/names.ts';
import { isBareName } from '../paths/remembered.ts';
import type { Clip, MediaKind, Raster } from '../model/edit.ts';
import { intersectRanges, rangeContains, type FrameRange } from '../time/range.ts';
import { sameRate, type Rate } from '../time/rate.ts';
import type { Counting } from '../time/timecode.ts';

/** One reference as a reader meets it; several of them with one `identity` are one clip. */
export type ReferenceSeen = {
  readonly identity: string;
  readonly name: string;
  readonly reel: string | null;
  readonly remembered: string | null;
  readonly kind: MediaKind | null;
  /** Null when this reference says no rate, as for a still in a bin; then another reference to the media decides. */
  readonly rate: Rate | null;
  readonly counting: Counting;
  readonly available: FrameRange | null;
  /** What is read of it here, at `rate`, where nothing says what is available. */
  readonly used: FrameRange | null;
  readonly raster: Raster | null;
  readonly address: string;
  readonly binKey: string | null;
  readonly metadata?: Readonly<Record<string, string>>;
};

/** `uses`: what those read that do not say what is available. */
type Gathered = {
  readonly key: string;
  seen: ReferenceSeen;
  readonly uses: FrameRange[];
  readonly addresses: string[];
};

/** What a further reference may say that the ones before did not. */
const learnable = ['rate', 'reel', 'remembered', 'kind', 'available', 'raster', 'binKey'] as const;

/** Gathers references into clips while a document is read, in the order in which they are first met. */
export class ClipGatherer {
  readonly #byIdentity = new Map<string, Gathered[]>();
  readonly #inOrder: Gathered[] = [];

  /**
   * Notes a reference and returns the key of its clip. One clip is one recording: what speaks against two references
   * being the same (another rate, reel, start or length) makes two clips of them, whatever name they share.
   */
  see(reference: ReferenceSeen): string {
    const sameMedia = this.#byIdentity.get(reference.identity) ?? [];
    const known = sameMedia.find((one) => isSameMedia(one, reference));
    if (!known) {
      const key = `clip-${this.#inOrder.length + 1}`;
      const clip = { key, seen: reference, uses: usesOf(reference), addresses: [reference.address] };
      this.#inOrder.push(clip);
      if (sameMedia.push(clip) === 1) this.#byIdentity.set(reference.identity, sameMedia);
      return clip.key;
    }
    const { seen } = known;
    known.addresses.push(reference.address);
    known.uses.push(...usesOf(reference));
    if (learnable.some((what) => seen[what] === null && reference[what] !== null))
      known.seen = {
        ...seen,
        rate: seen.rate ?? reference.rate,
        counting: seen.rate ? seen.counting : reference.counting,
        reel: seen.reel ?? reference.reel,
        remembered: seen.remembered ?? reference.remembered,
        kind: seen.kind ?? reference.kind,
        available: seen.available ?? reference.available,
        raster: seen.raster ?? reference.raster,
        binKey: seen.binKey ?? reference.binKey,
      };
    return known.key;
  }

  /**
   * The clips; what is used of them is for `withUsedRanges` to say. Where no reference said a rate, `fallbackRate`
   * counts; it matters to nobody, for such a clip has no range either.
   */
  clips(fallbackRate: Rate): Clip[] {
    return this.#inOrder.map(({ key, seen, addresses }) => ({
      key,
      name: seen.name,
      reel: seen.reel,
      remembered: seen.remembered,
      kind: seen.kind,
      rate: seen.rate ?? fallbackRate,
      counting: seen.counting,
      available: seen.available,
      raster: seen.raster,
      used: [],
      binKey: seen.binKey,
      addresses,
      metadata: seen.metadata ?? {},
    }));
  }
}

const usesOf = ({ used }: ReferenceSeen): FrameRange[] => (used && used.end > used.start ? [used] : []);

/** Whether nothing that references of one identity say keeps another from being the same recording. */
function isSameMedia({ seen: a, uses }: Gathered, b: ReferenceSeen): boolean {
  if (a.rate && b.rate && !sameRate(a.rate, b.rate)) return false;
  const [isReelKnown, isRangeKnown] = [
    a.reel !== null && b.reel !== null,
    a.available !== null && b.available !== null,
  ];
  if (isReelKnown && compareReels(reelForms(a.reel!), reelForms(b.reel!)) === 'other') return false;
  if (isRangeKnown && (a.available!.start !== b.available!.start || a.available!.end !== b.available!.end))
    return false;
  // What is said to be there, and what is read by those that do not say so.
  const [held, read] = a.available ? [a.available, usesOf(b)] : [b.available, uses];
  const isBare = (a.remembered ?? b.remembered) === null || isBareName((a.remembered ?? b.remembered)!);
  // Of one path, too, two cards may have been mounted: what lies all beside what the one has is the other's.
  if (!isBare) return !held || read.every((range) => intersectRanges(range, held) !== null);
  // Behind a bare name anything may stand: what one of them knows and the other does not, the rest must make good.
  const isReelHalf = (a.reel === null) !== (b.reel === null);
  const isRangeHalf = (a.available === null) !== (b.available === null) && a.rate !== null && b.rate !== null;
  if (isReelHalf && !isRangeKnown) return false;
  if (!isRangeHalf) return true;
  // Where one says what is there, the others read of it; from zero that says nothing, for all that is long enough holds it.
  const isRead = read.every((range) => rangeContains(held!, range)) && (held!.start !== 0 || isReelKnown);
  return isRead && (isReelKnown || a.reel === b.reel);
}

const kindsByExtension: Readonly<Record<string, MediaKind>> = {
  ...Object.fromEntries(
    ['mov', 'mp4', 'm4v', 'mxf', 'mkv', 'avi', 'mts', 'm2ts', 'ts', 'webm'].map((e) => [e, 'picture']),
  ),
  ...Object.fromEntries(['wav', 'bwf', 'aif', 'aiff', 'flac', 'mp3', 'm4a', 'w64', 'rf64'].map((e) => [e, 'sound'])),
  ...Object.fromEntries(
    ['png', 'jpg', 'jpeg', 'tif', 'tiff', 'dpx', 'exr', 'tga', 'bmp', 'webp'].map((e) => [e, 'still']),
  ),
};

/** The kind of media a file name promises; null when the extension promises nothing. */
export const kindOfName = (name: string): MediaKind | null =>
  kindsByExtension[splitExtension(name).extension.toLowerCase()] ?? null;

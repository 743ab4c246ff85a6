import { splitExtension } from '../paths/names.ts';
import type { Clip, MediaKind, Raster } from '../model/edit.ts';
import { uniteRanges, type FrameRange } from '../time/range.ts';
import type { Rate } from '../time/rate.ts';
import type { Counting } from '../time/timecode.ts';

/** One reference as a reader meets it; several of them with one `identity` are one clip. */
export type ReferenceSeen = {
  readonly identity: string;
  readonly name: string;
  readonly reel: string | null;
  readonly remembered: string | null;
  readonly kind: MediaKind | null;
  readonly rate: Rate;
  readonly counting: Counting;
  readonly available: FrameRange | null;
  readonly raster: Raster | null;
  readonly address: string;
  readonly binKey: string | null;
};

/** Gathers references into clips while a document is read, in the order in which they are first met. */
export class ClipGatherer {
  readonly #clips = new Map<string, { seen: ReferenceSeen; addresses: string[]; key: string }>();

  /** Notes a reference and returns the key of its clip. References counted at another rate are another clip. */
  see(reference: ReferenceSeen): string {
    const identity = `${reference.identity}\u0000${reference.rate.num}/${reference.rate.den}`;
    const known = this.#clips.get(identity);
    if (!known) {
      const key = `clip-${this.#clips.size + 1}`;
      this.#clips.set(identity, { seen: reference, addresses: [reference.address], key });
      return key;
    }
    known.addresses.push(reference.address);
    known.seen = {
      ...known.seen,
      reel: known.seen.reel ?? reference.reel,
      available: known.seen.available ?? reference.available,
      raster: known.seen.raster ?? reference.raster,
      binKey: known.seen.binKey ?? reference.binKey,
    };
    return known.key;
  }

  /** The clips, each with the union of its used ranges (frames at the clip's rate), given by clip key. */
  clips(uses: ReadonlyMap<string, readonly FrameRange[]>): Clip[] {
    return [...this.#clips.values()].map(({ seen, addresses, key }) => ({
      key,
      name: seen.name,
      reel: seen.reel,
      remembered: seen.remembered,
      kind: seen.kind,
      rate: seen.rate,
      counting: seen.counting,
      available: seen.available,
      raster: seen.raster,
      used: uniteRanges(uses.get(key) ?? []),
      binKey: seen.binKey,
      addresses,
    }));
  }
}

const kindsByExtension: Readonly<Record<string, MediaKind>> = {
  ...Object.fromEntries(['mov', 'mp4', 'm4v', 'mxf', 'mkv', 'avi', 'mts', 'm2ts', 'ts', 'webm'].map((e) => [e, 'picture'])),
  ...Object.fromEntries(['wav', 'bwf', 'aif', 'aiff', 'flac', 'mp3', 'm4a', 'w64', 'rf64'].map((e) => [e, 'sound'])),
  ...Object.fromEntries(['png', 'jpg', 'jpeg', 'tif', 'tiff', 'dpx', 'exr', 'tga', 'bmp', 'webp'].map((e) => [e, 'still'])),
};

/** The kind of media a file name promises; null when the extension promises nothing. */
export const kindOfName = (name: string): MediaKind | null =>
  kindsByExtension[splitExtension(name).extension.toLowerCase()] ?? null;

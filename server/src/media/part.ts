import type { FileHandle } from 'node:fs/promises';
import type { LostTrait } from '@legame/core/contract';
import type { Detail } from '@legame/core/model';
import type { FrameRange } from '@legame/core/time';
import { UserProblem } from '../problems.ts';
import type { CopyOptions } from './copying.ts';
import type { Streams, Trim } from './trim.ts';

/** How a part is written, which tells the hash of what was written where that is known; and how it is proven. */
export type Part = {
  readonly write: (copy: FileHandle, options: CopyOptions) => Promise<string | null>;
  /** Writes it together with other parts of the same source, where it can be. */
  readonly writeWith?: (
    copy: FileHandle,
    others: readonly { readonly copy: FileHandle; readonly trim: Trim }[],
    options: CopyOptions,
  ) => Promise<void>;
  readonly prove: (back: FileHandle, options: CopyOptions) => Promise<void>;
  /** How many channels it has, where tracks of its source were joined. */
  readonly channels?: number;
  /** What it is without, where that is known beforehand. */
  readonly lost?: readonly LostTrait[];
};

export const notProven = (path: string, detail: Detail) => new UserProblem({ code: 'trim-not-proven', path, detail });

/** Seeking is coarse and lands before; what lies outside of the part is left out by its time. */
export const aroundSeconds = 2;

/** Filters that cut decoded sound to the sample, and count it from the part's first. */
export function cutSamples(
  sampleRate: number,
  { picture, range, isCounted }: { picture: Streams['picture']; range: FrameRange; isCounted: boolean },
): string {
  const { rate } = picture;
  // Sound and picture begin together; the picture's own times may be rounded.
  const at = (frame: number) =>
    Math.round(
      (picture.start * picture.timeBase.num * sampleRate) / picture.timeBase.den +
        (frame * rate.den * sampleRate) / rate.num,
    );
  const by = isCounted ? 'sample' : 'pts';
  // Sound that begins later than its picture goes on doing so.
  const zero = isCounted ? 'STARTPTS' : at(range.start);
  return `atrim=start_${by}=${at(range.start)}:end_${by}=${at(range.end)},asetpts=PTS-${zero}`;
}

/** Matroska tells times in milliseconds: only counted from the beginning are its samples the right ones. */
export const isCounted = (container: string, sound: Streams['sound']): boolean =>
  container === 'matroska' && sound.some(isPcm);

export const isPcm = ({ codec }: Pick<Streams['sound'][number], 'codec'>): boolean => codec.startsWith('pcm_');

/** How much the library says that it has written. */
export class Written {
  #told = 0;

  add(text: string): number {
    const size = Number(/total_size=(\d+)/.exec(text)?.[1] ?? 0);
    const more = Math.max(0, size - this.#told);
    this.#told += more;
    return more;
  }
}

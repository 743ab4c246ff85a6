import { acceptsAll, refusalOf, type AcceptanceProfile } from '../model/acceptance.ts';
import type { Raster } from '../model/edit.ts';
import type { Facts, Refusal } from '../model/media.ts';
import { waveCodecFor, type WaveCodec } from './waveCodec.ts';

/** What films can be coded as anew; sound becomes PCM beside them. */
export const codings = ['ffv1', 'dnxhd', 'h264', 'mjpeg'] as const;
export type Coding = (typeof codings)[number];

/** How a recording is coded anew. */
export type Coded = CodedFilm | CodedSound;

/** How a film is coded anew, and what of its picture that keeps. */
export type CodedFilm = {
  readonly coding: Coding;
  readonly container: 'mov' | 'matroska';
  readonly extension: 'mov' | 'mkv';
  readonly bitDepth: number;
  /** Null where nobody told it; then it stays as it is. */
  readonly chroma: string | null;
  /** Null where it is not known; then it stays as it is. */
  readonly raster: Raster | null;
  /** Every picture comes out as it went in. */
  readonly isExact: boolean;
};

/** Sound becomes PCM in WAVE files, whatever it was. */
export type CodedSound = {
  readonly coding: 'wave';
  readonly codec: WaveCodec;
  readonly container: 'wav';
  readonly extension: 'wav';
  readonly bitDepth: number;
  /** Every sample comes out as it went in. */
  readonly isExact: boolean;
};

export const isCodedFilm = (coded: Coded | null | undefined): coded is CodedFilm =>
  coded !== null && coded !== undefined && coded.coding !== 'wave';

/** How sound is coded anew: as many channels, as many samples a second, and no fewer bits than it holds. */
export function codedSoundAs(facts: Pick<Facts, 'codec' | 'bitDepth'>): CodedSound {
  return { coding: 'wave', container: 'wav', extension: 'wav', ...waveCodecFor(facts) };
}

/** Why a film cannot be coded so. */
export const noCodingReasons = ['odd-raster', 'small-raster', 'coded-is-refused'] as const;
export type NoCoding =
  | { readonly because: Exclude<(typeof noCodingReasons)[number], 'coded-is-refused'> }
  /** What would come out is not accepted either. */
  | { readonly because: 'coded-is-refused'; readonly refusal: Refusal };

type Kept = Pick<CodedFilm, 'container' | 'extension'> & {
  /** Ascending; null for any. */
  readonly depths: readonly number[] | null;
  /** Null for any. */
  readonly chroma: string | null;
  /** Bytes a pixel takes, on the safe side. */
  readonly bytesPerPixel: (coded: Pick<CodedFilm, 'bitDepth' | 'chroma'>) => number;
};
const kept: Readonly<Record<Coding, Kept>> = {
  // Without loss, pictures shrink by a third or more; grain shrinks least.
  ffv1: {
    container: 'matroska',
    extension: 'mkv',
    depths: null,
    chroma: null,
    bytesPerPixel: (c) => 0.7 * rawBytes(c),
  },
  dnxhd: { container: 'mov', extension: 'mov', depths: [8, 10], chroma: '4:2:2', bytesPerPixel: () => 0.9 },
  h264: { container: 'mov', extension: 'mov', depths: [8], chroma: '4:2:0', bytesPerPixel: () => 0.3 },
  mjpeg: { container: 'mov', extension: 'mov', depths: [8], chroma: '4:2:2', bytesPerPixel: () => 0.5 },
};

const samplesPerPixel: Readonly<Record<string, number>> = { grey: 1, '4:2:0': 1.5, '4:1:1': 1.5, '4:2:2': 2 };
const rawBytes = ({ bitDepth, chroma }: Pick<CodedFilm, 'bitDepth' | 'chroma'>): number =>
  ((samplesPerPixel[chroma ?? ''] ?? 3) * bitDepth) / 8;

/** VC-3 of any raster begins here (SMPTE ST 2019-1). */
const smallestOfVc3 = { width: 256, height: 120 };

/**
 * What a film becomes that is coded anew: depth, chroma and raster stay as they are as far as the coding and whoever
 * accepts it allow; the rate is the film's own, for another would not be the same frames.
 */
export function codedAs(facts: Facts, coding: Coding, accepts: AcceptanceProfile = acceptsAll): CodedFilm | NoCoding {
  const { container, extension, depths, chroma: only } = kept[coding];
  const depth = facts.bitDepth ?? 8;
  // The header of some codings does not tell their chroma. Where any is taken it may stay what it is.
  const chroma = facts.chroma ?? (coding === 'ffv1' && accepts.chroma.length === 0 ? null : '4:2:2');
  const most = Math.min(depth, accepts.largestBitDepth ?? depth);
  const isTaken = chroma === null || accepts.chroma.length === 0 || accepts.chroma.includes(chroma);
  const raster = facts.raster && within(facts.raster, accepts.largestRaster);
  const coded = {
    coding,
    container,
    extension,
    bitDepth: depths ? (depths.findLast((d) => d <= most) ?? depths[0]!) : most,
    chroma: only ?? (isTaken ? chroma : '4:2:2'),
    raster,
  };
  if (raster && coding !== 'ffv1') {
    if (raster.width % 2 > 0 || raster.height % 2 > 0) return { because: 'odd-raster' };
    const { width, height } = smallestOfVc3;
    if (coding === 'dnxhd' && (raster.width < width || raster.height < height)) return { because: 'small-raster' };
  }
  const { bitDepth } = coded;
  const found = { ...facts, container, codec: coding, bitDepth, chroma: coded.chroma, raster };
  const refusal = refusalOf(found, accepts);
  if (refusal) return { because: 'coded-is-refused', refusal };
  const isSame = bitDepth === depth && coded.chroma === chroma && raster?.width === facts.raster?.width;
  return { ...coded, isExact: coding === 'ffv1' && isSame && facts.bitDepth !== null && chroma === facts.chroma };
}

/** Made smaller in the same shape where it is larger, to even sides. */
function within(raster: Raster, largest: Raster | null): Raster {
  if (!largest || (raster.width <= largest.width && raster.height <= largest.height)) return raster;
  const by = Math.min(largest.width / raster.width, largest.height / raster.height);
  const even = (side: number) => Math.max(2, Math.floor((side * by) / 2) * 2);
  return { width: even(raster.width), height: even(raster.height) };
}

/** About how many bytes so many frames or samples take when they are coded so, on the safe side; of sound exactly. */
export function codedBytes(facts: Facts, coded: Coded, units: number): number {
  const channels = facts.channels ?? 0;
  if (!isCodedFilm(coded)) return units * channels * Math.ceil(coded.bitDepth / 8) + waveHeadInBytes;
  const { width, height } = coded.raster ?? { width: 1920, height: 1080 };
  const seconds = facts.rate ? (units * facts.rate.den) / facts.rate.num : 0;
  const sound = channels * (facts.sampleRate ?? 48_000) * bytesPerSample * seconds;
  return Math.ceil(width * height * units * kept[coded.coding].bytesPerPixel(coded) + sound);
}
const bytesPerSample = 3;
/** What stands before and behind the sound, about. */
const waveHeadInBytes = 1000;

import { bmvbhash } from 'blockhash-core';

/** A picture by its red, green, blue and opacity, a byte each, row by row. */
export type Pixels = { readonly width: number; readonly height: number; readonly data: Uint8Array };

/**
 * What a picture looks like, in short: which of 16 × 16 blocks are lighter than the middle of their band, as 64
 * hexadecimal digits. Size, encoding and a grade that keeps light and dark apart hardly change it.
 */
export type Look = string;

/** Blocks along each side; so many bits in all. */
const blocks = 16;
const bits = blocks * blocks;
/** Of 255 levels: pictures that vary by less on the average are black, white or of one colour, and look like nothing. */
const leastSpread = 3;
/** Above the first it looks as it did; above the second alike. Pictures that have nothing in common share a half. */
const asItDid = 0.92;
const alike = 0.8;

export type LookVerdict = 'same' | 'alike' | 'other';

/** The look of a picture; null where it has none, since it is of one colour. */
export function lookOf({ width, height, data }: Pixels): Look | null {
  const count = Math.floor(data.length / 4);
  if (count < bits || width < blocks || height < blocks || count < width * height) return null;
  let sum = 0;
  for (let i = 0; i < count; i += 1) sum += greyAt(data, i);
  const mean = sum / count;
  let apart = 0;
  for (let i = 0; i < count; i += 1) apart += Math.abs(greyAt(data, i) - mean);
  return apart / count < leastSpread ? null : bmvbhash({ width, height, data }, blocks);
}

const greyAt = (data: Uint8Array, i: number): number => (data[i * 4]! + data[i * 4 + 1]! + data[i * 4 + 2]!) / 3;

/** The share of blocks in which two looks agree, 0 to 1; of pictures that have nothing in common about a half. */
export function sharedOfLooks(a: Look, b: Look): number {
  let differing = 0;
  for (let i = 0; i < bits / 4; i += 1) differing += onesIn(parseInt(a[i]!, 16) ^ parseInt(b[i]!, 16));
  return 1 - differing / bits;
}

const onesIn = (digit: number): number => (digit & 1) + ((digit >> 1) & 1) + ((digit >> 2) & 1) + (digit >> 3);

/** What the share says. It is evidence for the eye: two takes of one set-up look alike, and nothing is linked by it. */
export const lookVerdict = (shared: number): LookVerdict =>
  shared >= asItDid ? 'same' : shared >= alike ? 'alike' : 'other';

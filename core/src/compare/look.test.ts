import { describe, expect, test } from '@jest/globals';
import { lookOf, lookVerdict, sharedOfLooks, type Pixels } from './look.ts';

/** A picture by its grey values, 0 to 1, at points from 0 to 1. */
function picture(grey: (x: number, y: number) => number, [width, height] = [64, 36]): Pixels {
  const data = new Uint8Array(width * height * 4).fill(255);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1)
      data.fill(Math.round(255 * grey(x / width, y / height)), (y * width + x) * 4, (y * width + x) * 4 + 3);
  return { width, height, data };
}
const shared = (a: Pixels, b: Pixels) => sharedOfLooks(lookOf(a)!, lookOf(b)!);
const slope = (x: number, y: number) => (x + y) / 2;
const disc = (x: number, y: number) => (Math.hypot(x - 0.3, y - 0.5) < 0.3 ? 0.9 : 0.2);
const noise = (seed: number) => (x: number, y: number) => {
  const wave = Math.sin((Math.floor(x * 16) * 12.9898 + Math.floor(y * 16) * 78.233 + seed) * 43_758.5453);
  return Math.abs(wave % 1);
};

describe('what a picture looks like', () => {
  test('is the same in another size, lighter, darker and flatter', () => {
    for (const shape of [slope, disc]) {
      expect(shared(picture(shape), picture(shape, [320, 180]))).toBeGreaterThan(0.92);
      expect(
        shared(
          picture(shape),
          picture((x, y) => shape(x, y) * 0.5),
        ),
      ).toBeGreaterThan(0.92);
      expect(
        shared(
          picture(shape),
          picture((x, y) => 0.3 + shape(x, y) * 0.6),
        ),
      ).toBeGreaterThan(0.92);
    }
  });

  test('is another one for another picture; of noise about a half is shared', () => {
    expect(
      lookVerdict(
        shared(
          picture(slope),
          picture((x, y) => 1 - slope(x, y)),
        ),
      ),
    ).toBe('other');
    expect(lookVerdict(shared(picture(slope), picture(disc)))).toBe('other');
    const shares = Array.from({ length: 20 }, (_, i) => shared(picture(noise(i)), picture(noise(i + 100))));
    for (const share of shares) expect(lookVerdict(share)).toBe('other');
    expect(shares.reduce((sum, s) => sum + s, 0) / shares.length).toBeCloseTo(0.5, 1);
  });

  test('of one colour there is nothing to see, nor of a picture of too few points or too few bytes', () => {
    expect(lookOf(picture(() => 0))).toBeNull();
    expect(lookOf(picture((x) => 0.5 + (x > 0.5 ? 0.005 : 0)))).toBeNull();
    expect(lookOf(picture(slope, [8, 8]))).toBeNull();
    expect(lookOf({ ...picture(slope), data: new Uint8Array(2000) })).toBeNull();
  });

  test('shares are counted in blocks, whichever is named first', () => {
    const [none, all, half] = ['0'.repeat(64), 'f'.repeat(64), '3'.repeat(64)];
    expect(sharedOfLooks(none, none)).toBe(1);
    expect(sharedOfLooks(none, all)).toBe(0);
    expect(sharedOfLooks(none, half)).toBe(0.5);
    expect(sharedOfLooks(half, none)).toBe(0.5);
    expect([0.92, 0.91, 0.8, 0.79].map(lookVerdict)).toEqual(['same', 'alike', 'alike', 'other']);
  });
});

/** A frame rate as an exact fraction of frames per second: 24000/1001, never 23.976. Always in lowest terms. */
export type Rate = { readonly num: number; readonly den: number };

/** Makes a rate in lowest terms. Throws RangeError unless both are positive whole numbers. */
export function rate(num: number, den = 1): Rate {
  if (!Number.isSafeInteger(num) || !Number.isSafeInteger(den) || num <= 0 || den <= 0) {
    throw new RangeError(`A rate needs two positive whole numbers, not ${num}/${den}.`);
  }
  const divisor = greatestCommonDivisor(num, den);
  return { num: num / divisor, den: den / divisor };
}

/** The rates that timecode and cameras use; a decimal such as 23.976 stands for one of these. */
export const standardRates: readonly Rate[] = [
  rate(24000, 1001),
  rate(24),
  rate(25),
  rate(30000, 1001),
  rate(30),
  rate(48000, 1001),
  rate(48),
  rate(50),
  rate(60000, 1001),
  rate(60),
  rate(120000, 1001),
  rate(100),
  rate(120),
];

/**
 * Reads a decimal rate as files write it (23.976, 23.98, 29.97002997, 25, 48000).
 * Whole numbers stand for themselves; a fraction snaps to the standard rate within 0.02 %, else within the
 * roundings in wide use (23.98, 59.94). Returns null for anything that is not a positive, finite, known rate.
 */
export function rateFromDecimal(value: number): Rate | null {
  if (!Number.isFinite(value) || value <= 0 || value > 1_000_000) return null;
  if (Number.isInteger(value)) return rate(value);
  let best: Rate | null = null;
  let bestError = 0.0003;
  for (const candidate of standardRates) {
    const error = Math.abs(value - candidate.num / candidate.den) / value;
    if (error < bestError) {
      best = candidate;
      bestError = error;
    }
  }
  if (best) return best;
  const thousandths = Math.round(value * 1000);
  return thousandths > 0 && Math.abs(thousandths / 1000 - value) < 1e-9 ? rate(thousandths, 1000) : null;
}

/** The standard rate that a measured fraction stands for, within 0.03 %; itself where it is none (Matroska's 59.94 is odd). */
export const snapToStandard = (exact: Rate): Rate =>
  standardRates.find((s) => Math.abs((s.num * exact.den) / (s.den * exact.num) - 1) < 0.0003) ?? exact;

/** Reads "25", "23.976", "30000/1001"; null when it is none of these. */
export function parseRate(text: string): Rate | null {
  const fraction = /^\s*(\d+)\s*\/\s*(\d+)\s*$/.exec(text);
  if (fraction) {
    const num = Number(fraction[1]);
    const den = Number(fraction[2]);
    return num > 0 && den > 0 && Number.isSafeInteger(num) && Number.isSafeInteger(den) ? rate(num, den) : null;
  }
  return /^\s*\d+(\.\d+)?\s*$/.test(text) ? rateFromDecimal(Number(text)) : null;
}

export const sameRate = (a: Rate, b: Rate): boolean => a.num === b.num && a.den === b.den;

/** Frames counted in one second of timecode: 24 for 24000/1001, 30 for 30000/1001. */
export const nominalRate = (r: Rate): number => Math.ceil(r.num / r.den);

/** Timecode numbers frames: rates of one nominal value share their counts (24 and 23.976). */
export const sameNumbering = (a: Rate, b: Rate): boolean => sameRate(a, b) || nominalRate(a) === nominalRate(b);

/** 29.97 and 59.94 are the only rates that have drop-frame timecode (SMPTE ST 12-1). */
export const hasDropFrame = (r: Rate): boolean => r.den === 1001 && (r.num === 30000 || r.num === 60000);

/** "25", "23.976", "29.97": for people; never parsed back for arithmetic. */
export function formatRate(r: Rate): string {
  const value = r.num / r.den;
  return Number.isInteger(value) ? String(value) : String(Number(value.toFixed(3)));
}

function greatestCommonDivisor(a: number, b: number): number {
  while (b !== 0) [a, b] = [b, a % b];
  return a;
}

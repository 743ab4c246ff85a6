import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { estimateSeconds, type MeasuredRun } from './estimate.ts';

const run = (files: number, bytes: number, perFile: number, perByte: number): MeasuredRun => ({
  files,
  bytes,
  ms: files * perFile + bytes * perByte,
});

describe('how long a handoff will take', () => {
  test('is not said where nothing was measured', () => {
    expect(estimateSeconds([], { files: 1, bytes: 1 })).toBeNull();
    expect(estimateSeconds([{ files: 0, bytes: 0, ms: 5 }], { files: 1, bytes: 1 })).toBeNull();
  });

  test('by one run is as many times as long as there is more to write', () => {
    expect(estimateSeconds([{ files: 10, bytes: 1e9, ms: 20_000 }], { files: 400, bytes: 5e9 })).toBeCloseTo(100);
  });

  test('by several tells what each file costs beside its bytes', () => {
    const [small, large] = [run(1000, 1e8, 30, 1e-5), run(4, 4e10, 30, 1e-5)];
    expect(estimateSeconds([small, large], { files: 100, bytes: 1e10 })).toBeCloseTo((100 * 30 + 1e10 * 1e-5) / 1000);
  });

  test('is never below zero, whatever was measured, and more bytes or files never take less', () => {
    const measured = fc.record({
      files: fc.integer({ min: 1, max: 5000 }),
      bytes: fc.integer({ min: 1, max: 1e12 }),
      ms: fc.integer({ min: 1, max: 1e7 }),
    });
    fc.assert(
      fc.property(fc.array(measured, { minLength: 1, maxLength: 6 }), measured, (runs, { files, bytes }) => {
        const seconds = estimateSeconds(runs, { files, bytes })!;
        expect(seconds).toBeGreaterThanOrEqual(0);
        expect(Number.isFinite(seconds)).toBe(true);
        const more = estimateSeconds(runs, { files: files * 2, bytes: bytes * 2 })!;
        expect(more).toBeGreaterThanOrEqual(seconds);
      }),
    );
  });
});

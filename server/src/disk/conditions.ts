import { readFileSync, statSync } from 'node:fs';
import { basename, join, relative, sep } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import { z } from 'zod';

/**
 * The simulated drives of the bay can be slow, stall, be full or read-only, as real ones can. Everything that touches
 * storage asks here first, and only here is it known that a drive is simulated. For real places nothing is ever set.
 */
const conditionSchema = z.object({
  slow: z.boolean().default(false),
  stalling: z.boolean().default(false),
  readOnly: z.boolean().default(false),
  full: z.boolean().default(false),
});
export type Condition = z.infer<typeof conditionSchema>;
export const bayStateSchema = z.object({ drives: z.record(z.string(), conditionSchema).default({}) });
export const noCondition: Condition = { slow: false, stalling: false, readOnly: false, full: false };

/** What a simulated drive holds at most; its room is what its files leave of that. */
export const simulatedCapacityInBytes = 4_000_000_000;

/** The file in the bay that says what its drives are like; hidden, so no walk lists it. */
export const bayStateFile = '.drives.json';

const slowMs = 250;
const lookEveryMs = 100;
let bay: string | null = null;
let known: { readonly modifiedMs: number; readonly drives: Readonly<Record<string, Condition>> } = {
  modifiedMs: -1,
  drives: {},
};
let lookedAt = -Infinity;

/** Where the bay of simulated drives lies; null where there is none. Set once, when a process starts. */
export function useBay(path: string | null): void {
  bay = path;
  lookedAt = -Infinity;
  known = { modifiedMs: -1, drives: {} };
}

/** Where it was said to lie. */
export const bayInUse = (): string | null => bay;

/** The simulated drive that holds `path`, by where it lies; null for real storage. */
export function simulatedDriveOf(path: string): string | null {
  if (bay === null) return null;
  const way = relative(bay, path);
  return way === '' || way.startsWith('..') ? null : join(bay, way.split(sep)[0]!);
}

/** What the drive that holds `path` is like now. */
export function conditionOf(path: string): Condition {
  const drive = simulatedDriveOf(path);
  if (bay === null || drive === null) return noCondition;
  const now = performance.now();
  if (now - lookedAt > lookEveryMs) {
    lookedAt = now;
    readState(join(bay, bayStateFile));
  }
  return known.drives[basename(drive)] ?? noCondition;
}

function readState(path: string): void {
  const found = statSync(path, { throwIfNoEntry: false });
  const modifiedMs = found?.mtimeMs ?? -1;
  if (modifiedMs === known.modifiedMs) return;
  try {
    const drives = found ? bayStateSchema.parse(JSON.parse(readFileSync(path, 'utf8'))).drives : {};
    known = { modifiedMs, drives };
  } catch {
    // Caught in the middle of being written; the next look reads it whole.
  }
}

/** Waits as the drive makes one wait: a little when slow, and for as long as it stalls. Blocks, as a real call would. */
export function endure(path: string): void {
  const { slow } = conditionOf(path);
  if (slow) sleep(slowMs);
  while (conditionOf(path).stalling) sleep(lookEveryMs * 2);
}

/** The same without blocking others; false when the drive did not answer in time. Throws when the signal fires. */
export async function endureAsync(
  path: string,
  { signal, patienceMs = 10_000 }: { signal?: AbortSignal | undefined; patienceMs?: number } = {},
): Promise<boolean> {
  const options = { ref: false, ...(signal ? { signal } : {}) };
  const { slow } = conditionOf(path);
  if (slow) await after(slowMs, undefined, options);
  const until = performance.now() + patienceMs;
  while (conditionOf(path).stalling) {
    if (performance.now() > until) return false;
    await after(lookEveryMs * 2, undefined, options);
  }
  return true;
}

const sleep = (ms: number) => void Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, ms);

/** The error with which a write to this path would fail now, as the system would throw it; null when it would not. */
export function writeRefusal(path: string): (Error & { code: string }) | null {
  const { readOnly, full } = conditionOf(path);
  if (readOnly) return Object.assign(new Error(`EROFS: read-only file system, '${path}'`), { code: 'EROFS' });
  return full ? Object.assign(new Error(`ENOSPC: no space left on device, '${path}'`), { code: 'ENOSPC' }) : null;
}

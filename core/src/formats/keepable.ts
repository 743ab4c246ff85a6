import type { ReadResult } from './format.ts';

/** No frame of any recording is further: a thousand years at twenty-five a second. Counting stays exact far beyond it. */
export const furthestFrame = 2 ** 40;

/**
 * What was read, as it can be kept and counted with: text without what no text may hold (a NUL, half a character: both
 * can be written in JSON) and numbers that frames can be. An edit that counts beyond is no edit.
 */
export function keepable(result: ReadResult & { readonly ok: true }): ReadResult {
  const found = { beyond: null as number | null };
  const edit = cleaned(result.edit, found);
  return found.beyond === null
    ? { ...result, edit }
    : { ok: false, fault: { code: 'counts-too-far', number: found.beyond } };
}

function cleaned<T>(value: T, found: { beyond: number | null }): T {
  if (typeof value === 'string') return value.replace(unsayable, '\ufffd') as T;
  if (typeof value === 'number') {
    if (!(Math.abs(value) <= furthestFrame)) found.beyond ??= value;
    return value;
  }
  if (Array.isArray(value)) return (value as unknown[]).map((inside) => cleaned(inside, found)) as T;
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, inside]) => [key.replace(unsayable, '\ufffd'), cleaned(inside as unknown, found)]),
  ) as T;
}

const unsayable = /\0|\p{Surrogate}/gu;

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

/** The same, where nothing of it has to be another: of a hundred thousand events hardly one does. */
function cleaned<T>(value: T, found: { beyond: number | null }): T {
  if (typeof value === 'string') return sayable(value) as T;
  if (typeof value === 'number') {
    if (!(Math.abs(value) <= furthestFrame)) found.beyond ??= value;
    return value;
  }
  if (typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) {
    let list: unknown[] | null = null;
    for (let i = 0; i < value.length; i += 1) {
      const before: unknown = value[i];
      const after = cleaned(before, found);
      if (after === before) continue;
      list ??= [...(value as unknown[])];
      list[i] = after;
    }
    return (list ?? value) as T;
  }
  let isOther = false;
  for (const key in value) {
    const before: unknown = value[key];
    if (cleaned(before, found) !== before || sayable(key) !== key) isOther = true;
  }
  if (!isOther) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, inside]) => [sayable(key), cleaned(inside as unknown, found)]),
  ) as T;
}

const unsayable = /\0|\p{Surrogate}/gu;
/** Most of what is written has nothing beyond two bytes, and is looked through quickly. */
const suspicious = /[\0\ud800-\udfff]/;
const sayable = (text: string): string => (suspicious.test(text) ? text.replace(unsayable, '\ufffd') : text);

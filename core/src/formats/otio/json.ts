import { parse } from '@humanwhocodes/momoa';
import type { ReadFault, Remark } from '../../remarks/remark.ts';

/** Deeper than any edit nests, and shallow enough for every recursive reader. */
export const nestingLimit = 400;

export type JsonObject = { readonly [key: string]: unknown };

export const isObject = (value: unknown): value is JsonObject =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
export const textOf = (value: unknown): string | null => (typeof value === 'string' && value !== '' ? value : null);
export const listOf = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : []);
/** A member that is the object's own: `__proto__` and `constructor` are names like any other. */
export const memberOf = (value: JsonObject, key: string): unknown =>
  Object.hasOwn(value, key) ? value[key] : undefined;

export type ParsedJson =
  | { readonly ok: true; readonly value: unknown; readonly remarks: readonly Remark[] }
  | { readonly ok: false; readonly fault: ReadFault };

/**
 * JSON text to a value, or a fault that says where it breaks. What the runtime's parser takes needs no second look; only
 * what it refuses is surveyed, for numbers that JSON does not have and for nesting that no slower parser would survive.
 */
export function parseJson(text: string): ParsedJson {
  const value = parsed(text);
  if (value !== undefined) return { ok: true, value, remarks: [] };
  const { deepest, notFinite } = survey(text);
  if (deepest > nestingLimit) return { ok: false, fault: { code: 'nested-too-deep', limit: nestingLimit } };
  const masked = mask(text, notFinite);
  const second = notFinite.length > 0 ? parsed(masked) : undefined;
  if (second === undefined) return { ok: false, fault: whereBroken(masked) };
  return { ok: true, value: second, remarks: remarksOf(text, notFinite) };
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return undefined;
  }
}

/**
 * The text with every NaN and Infinity, which some writers emit and JSON does not have, as an empty list of the same
 * length: no number, so whoever wants one there says so, and every position in the text stays what it was.
 */
export const strictJson = (text: string): string => (/NaN|Inf/.test(text) ? mask(text, survey(text).notFinite) : text);

type NotFinite = { readonly at: number; readonly text: string };

const mask = (text: string, found: readonly NotFinite[]): string => {
  if (found.length === 0) return text;
  let [result, done] = ['', 0];
  for (const { at, text: word } of found) {
    result += `${text.slice(done, at)}[${' '.repeat(word.length - 2)}]`;
    done = at + word.length;
  }
  return result + text.slice(done);
};

function remarksOf(text: string, found: readonly NotFinite[]): Remark[] {
  let [line, done] = [1, 0];
  return found.slice(0, 1000).map(({ at, text: word }) => {
    for (let end = text.indexOf('\n', done); end >= 0 && end < at; end = text.indexOf('\n', done)) {
      line += 1;
      done = end + 1;
    }
    return { at: { line }, code: 'number-not-finite', text: word };
  });
}

/** One pass over the text: how deep it nests, and where it writes numbers that are none. */
function survey(text: string): { deepest: number; notFinite: NotFinite[] } {
  const notFinite: NotFinite[] = [];
  let [depth, deepest] = [0, 0];
  for (let i = 0; i < text.length; i += 1) {
    switch (text.charCodeAt(i)) {
      case 34: // "
        i = endOfString(text, i) - 1;
        break;
      case 123: // {
      case 91: // [
        depth += 1;
        if (depth > deepest) deepest = depth;
        break;
      case 125: // }
      case 93: // ]
        depth -= 1;
        break;
      case 73: // I
      case 78: {
        // N
        const word = /^(?:NaN|Infinity|Inf)\b/.exec(text.slice(i, i + 9))?.[0];
        if (!word) break;
        const signed = text[i - 1] === '-';
        notFinite.push({ at: signed ? i - 1 : i, text: signed ? `-${word}` : word });
        i += word.length - 1;
        break;
      }
    }
  }
  return { deepest, notFinite };
}

/** The position after the string that begins here; the end of the text when it never ends. */
export function endOfString(text: string, from: number): number {
  for (let at = from + 1; ;) {
    const end = text.indexOf('"', at);
    if (end < 0) return text.length;
    let slashes = 0;
    while (text.charCodeAt(end - 1 - slashes) === 92) slashes += 1;
    if (slashes % 2 === 0) return end + 1;
    at = end + 1;
  }
}

/** The runtime's own message names no place in short texts, so a second, slower parser is asked for it. */
function whereBroken(text: string): ReadFault {
  try {
    parse(text, { mode: 'json' });
  } catch (error) {
    const { line, column } = error as { line?: unknown; column?: unknown };
    const detail = (error instanceof Error ? error.message : String(error))
      .replace(/ \(?at line.*$|\s*\(\d+:\d+\)\s*$/s, '')
      .replace(/\.$/, '');
    if (!line || /end of input/i.test(detail)) {
      // At the end of the text it names no place, or a wrong one.
      const lines = text.trimEnd().split('\n');
      return { code: 'json-broken', line: lines.length, column: lines.at(-1)!.length + 1, detail };
    }
    return { code: 'json-broken', line: Number(line), column: Number(column), detail };
  }
  return { code: 'json-broken', line: 1, column: 1, detail: { code: 'value-beyond-json' } };
}

/** One step of a JSON pointer (RFC 6901). */
export const pointerStep = (key: string | number): string =>
  typeof key === 'number' ? `/${key}` : `/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`;
export const pointerKeys = (pointer: string): string[] =>
  pointer
    .split('/')
    .slice(1)
    .map((key) => key.replaceAll('~1', '/').replaceAll('~0', '~'));

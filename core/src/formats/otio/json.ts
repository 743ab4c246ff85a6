import { parse } from '@humanwhocodes/momoa';
import type { ReadFault } from '../../remarks/remark.ts';

/** Deeper than any edit nests, and shallow enough for every recursive reader. */
export const nestingLimit = 400;

export type JsonObject = { readonly [key: string]: unknown };

export const isObject = (value: unknown): value is JsonObject =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
export const textOf = (value: unknown): string | null => (typeof value === 'string' && value !== '' ? value : null);
export const listOf = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : []);

/** JSON text to a value, or a fault that says where it breaks. Nesting is counted before anything recurses. */
export function parseJson(text: string): { ok: true; value: unknown } | { ok: false; fault: ReadFault } {
  if (deepest(text) > nestingLimit) return { ok: false, fault: { code: 'nested-too-deep', limit: nestingLimit } };
  try {
    return { ok: true, value: JSON.parse(text) as unknown };
  } catch {
    return { ok: false, fault: whereBroken(text) };
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
    if (!line) {
      // At the end of the text it names no place.
      const lines = text.trimEnd().split('\n');
      return { code: 'json-broken', line: lines.length, column: lines.at(-1)!.length + 1, detail };
    }
    return { code: 'json-broken', line: Number(line), column: Number(column), detail };
  }
  return { code: 'json-broken', line: 1, column: 1, detail: 'it holds a value that JSON does not have' };
}

function deepest(text: string): number {
  let depth = 0;
  let most = 0;
  let inString = false;
  for (let i = 0; i < text.length; i += 1) {
    const code = text.charCodeAt(i);
    if (inString) {
      if (code === 92) i += 1;
      else if (code === 34) inString = false;
    } else if (code === 34) inString = true;
    else if (code === 123 || code === 91) {
      depth += 1;
      if (depth > most) most = depth;
    } else if (code === 125 || code === 93) depth -= 1;
  }
  return most;
}

/** One step of a JSON pointer (RFC 6901). */
export const pointerStep = (key: string | number): string =>
  `/${String(key).replaceAll('~', '~0').replaceAll('/', '~1')}`;
export const pointerKeys = (pointer: string): string[] =>
  pointer
    .split('/')
    .slice(1)
    .map((key) => key.replaceAll('~1', '/').replaceAll('~0', '~'));

import type { ReadFault } from '../../remarks/remark.ts';

/** Deeper than any edit nests, and shallow enough for every recursive reader. */
export const nestingLimit = 400;

export type JsonObject = { readonly [key: string]: unknown };

export const isObject = (value: unknown): value is JsonObject => typeof value === 'object' && value !== null && !Array.isArray(value);
export const textOf = (value: unknown): string | null => (typeof value === 'string' && value !== '' ? value : null);
export const listOf = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : []);

/** JSON text to a value, or a fault that says where it breaks. Nesting is counted before anything recurses. */
export function parseJson(text: string): { ok: true; value: unknown } | { ok: false; fault: ReadFault } {
  if (deepest(text) > nestingLimit) return { ok: false, fault: { code: 'nested-too-deep', limit: nestingLimit } };
  try {
    return { ok: true, value: JSON.parse(text) as unknown };
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    const offset = Number(/position (\d+)/.exec(message)?.[1] ?? text.length);
    const before = text.slice(0, offset).split('\n');
    const detail = message.replace(/ in JSON at position.*$/s, '').replace(/^Unexpected end.*$/, 'the text ends too early');
    return { ok: false, fault: { code: 'json-broken', line: before.length, column: (before.at(-1)?.length ?? 0) + 1, detail } };
  }
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
export const pointerStep = (key: string | number): string => `/${String(key).replaceAll('~', '~0').replaceAll('/', '~1')}`;
export const pointerKeys = (pointer: string): string[] =>
  pointer
    .split('/')
    .slice(1)
    .map((key) => key.replaceAll('~1', '/').replaceAll('~0', '~'));

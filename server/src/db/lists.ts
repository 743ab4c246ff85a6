type Element = string | number | boolean | null;

/** A line break means itself in a list, where JSON would name it; and half a character is nothing that could be kept. */
const meansOtherwiseInJson = /[\p{Cc}\p{Cs}]/u;
const quoted = (text: string): string =>
  meansOtherwiseInJson.test(text) ? `"${text.replace(/["\\]/g, '\\$&')}"` : JSON.stringify(text);
const element = (value: Element): string =>
  value === null ? 'NULL' : typeof value === 'string' ? quoted(value) : String(value);

/**
 * Whole lists as bindings for `unnest(?::type[], …)`, each written out as PostgreSQL writes arrays. The database's client
 * writes them out as well, and takes four times as long where the elements are JSON.
 */
export const listBindings = (...lists: readonly (readonly Element[])[]): string[] =>
  lists.map((list) => `{${list.map(element).join(',')}}`);

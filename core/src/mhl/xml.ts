const escapes: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

/** Text inside an element. Control characters have no place in XML at all; no name that is written here has any. */
export const text = (value: string): string =>
  value.replace(/[&<>"]/g, (c) => escapes[c]!).replace(/[\p{Cc}]/gu, '\ufffd');

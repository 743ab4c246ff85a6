/** Hashes that a list may state, as the standard names them, the surest that everybody computes first. */
export const hashNames = ['xxh64', 'md5', 'sha1', 'c4', 'xxh128', 'xxh3', 'xxh32'] as const;
export type HashName = (typeof hashNames)[number];

import type { HashName } from './hashNames.ts';
import type { Hashes } from './read.ts';

/**
 * What became of a file of a set. `waiting`: its bytes are not read yet. `moved`: it lies elsewhere in the set, with the
 * bytes that it was listed with. `new`: no list tells of it. `unproven`: it is listed, and by no hash known here.
 */
export const checkStates = [
  'changed',
  'unreadable',
  'missing',
  'unproven',
  'moved',
  'new',
  'waiting',
  'verified',
] as const;
export type CheckState = (typeof checkStates)[number];

/** States in which a file is not what was handed over; one that lies elsewhere in the set, or is new, harms nothing. */
export const harmfulStates = ['changed', 'missing', 'unreadable', 'unproven'] as const satisfies readonly CheckState[];

/** How a list stands to its chain. `other`: it is not what the chain says it was. `unchained`: no chain names it. */
export const chainings = ['same', 'other', 'unchained', 'chain-broken'] as const;

/** Whether a list itself cannot be believed, whatever the files say. */
export const isListDoubted = ({
  chain,
  fault,
}: {
  readonly chain: (typeof chainings)[number];
  readonly fault: object | null;
}): boolean => fault !== null || chain === 'other' || chain === 'chain-broken';

/** Quick ones first: whichever is listed, one is enough to tell files apart. */
const bySpeed: readonly HashName[] = ['xxh3', 'xxh128', 'xxh64', 'xxh32', 'md5', 'sha1', 'c4'];

/** The hash by which a file is held against its lists; null where they give none. */
export const wantedHash = (listed: Hashes): HashName | null =>
  bySpeed.find((name) => listed[name] !== undefined) ?? null;

export type ToJudge = {
  /** What lists say of it; null where none does. */
  readonly listed: { readonly sizeInBytes: number | null; readonly hashes: Hashes } | null;
  /** What lies there; null where nothing does. */
  readonly found: { readonly sizeInBytes: number } | null;
  /** What its bytes gave, once they were read. */
  readonly hashes: Hashes;
};

/** What is known of a file so far. One of another size is changed, whatever its bytes. */
export function judge({ listed, found, hashes }: ToJudge): CheckState {
  if (!listed) return 'new';
  if (!found) return 'missing';
  if (listed.sizeInBytes !== null && listed.sizeInBytes !== found.sizeInBytes) return 'changed';
  const wanted = wantedHash(listed.hashes);
  if (!wanted) return 'unproven';
  if (hashes[wanted] === undefined) return 'waiting';
  return hashes[wanted] === listed.hashes[wanted] ? 'verified' : 'changed';
}

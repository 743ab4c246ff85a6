/** What is known of a file before it is tried. */
export type Suspect = {
  readonly modifiedMs: number;
  readonly sizeInBytes: number;
  /** It could not be read, or a trial read failed on it, before. */
  readonly failedBefore: boolean;
};
export type Suspicion = 'unreadable-before' | 'changed-lately' | 'large' | 'used';

/** Of the files that are left, this share is tried as changed last; then as large. */
const share = 0.25;

/**
 * The order in which files are tried when one of them makes an edit fail: what failed before; then what changed last;
 * then what is largest; then the rest, newest first. Each with why it stands there.
 */
export function inOrderOfSuspicion<T extends Suspect>(files: readonly T[]): { file: T; suspicion: Suspicion }[] {
  const before = files.filter((f) => f.failedBefore);
  const newest = files.filter((f) => !f.failedBefore).toSorted((a, b) => b.modifiedMs - a.modifiedMs);
  const lately = newest.slice(0, Math.ceil(newest.length * share));
  const rest = newest.slice(lately.length);
  const large = new Set(
    rest.toSorted((a, b) => b.sizeInBytes - a.sizeInBytes).slice(0, Math.ceil(rest.length * share)),
  );
  const as = (suspicion: Suspicion) => (file: T) => ({ file, suspicion });
  return [
    ...before.map(as('unreadable-before')),
    ...lately.map(as('changed-lately')),
    ...[...large].map(as('large')),
    ...rest.filter((f) => !large.has(f)).map(as('used')),
  ];
}

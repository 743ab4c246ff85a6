/** So long an answer is waited for; if changes cannot be heard of, what there is shall be seen all the same. */
const longestMs = 2000;

let heard: Promise<unknown> = Promise.resolve();

/**
 * Nothing is asked before it is heard of changes: what changed after an answer was made, and before the first change
 * that is heard of, nobody would be told.
 */
export const untilHeard = (): Promise<unknown> => heard;

/** `begun` is over when changes are heard of, or cannot be; `tooLate` is run where it was not waited for so long. */
export function hearFirst(begun: Promise<void>, tooLate: () => void): void {
  const patience = new Promise<'over'>((resolve) => setTimeout(() => resolve('over'), longestMs));
  heard = Promise.race([begun, patience]).then((first) => {
    if (first === 'over') void begun.then(tooLate);
  });
}

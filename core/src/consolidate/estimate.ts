/** What was written of a handoff, and how long that took. */
export type MeasuredRun = { readonly files: number; readonly bytes: number; readonly ms: number };

/**
 * How many seconds so many files of so many bytes will take, by runs that were measured onto the same drive: each file
 * costs something, and each byte. The two are fitted by least squares of the relative error, neither below zero. Null
 * where nothing was measured.
 */
export function estimateSeconds(
  runs: readonly MeasuredRun[],
  { files, bytes }: Pick<MeasuredRun, 'files' | 'bytes'>,
): number | null {
  const measured = runs.filter((r) => r.ms > 0 && r.files > 0 && r.bytes > 0);
  if (measured.length === 0) return null;
  const sum = (of: (r: MeasuredRun) => number) => measured.reduce((all, r) => all + of(r) / r.ms ** 2, 0);
  const [ff, fb, bb] = [sum((r) => r.files ** 2), sum((r) => r.files * r.bytes), sum((r) => r.bytes ** 2)];
  const [fm, bm] = [sum((r) => r.files * r.ms), sum((r) => r.bytes * r.ms)];
  const determinant = ff * bb - fb * fb;
  // Runs of one mix say nothing of files and bytes apart.
  const isTold = determinant > 1e-6 * ff * bb;
  const [perFile, perByte] = isTold
    ? [(fm * bb - bm * fb) / determinant, (bm * ff - fm * fb) / determinant]
    : [0, bm / bb];
  const ms = perFile < 0 ? (bm / bb) * bytes : perByte < 0 ? (fm / ff) * files : perFile * files + perByte * bytes;
  return ms / 1000;
}

import { writeCsv } from '@legame/core/formats';
import type { OpeningView } from '@legame/core/contract';
import { openingWords, outcomeWords, saidOf } from '@legame/words/storage';

/** The read log as a table to take away. */
export const logAsCsv = (entries: readonly OpeningView[]): string =>
  writeCsv(
    ['What', 'Path', 'Files', 'Begun', 'Ended', 'Seconds', 'Outcome', 'Detail', 'By'],
    entries.map((e) => [
      openingWords[e.what],
      e.path,
      e.files,
      e.begunAt,
      e.endedAt ?? '',
      e.endedAt ? secondsBetween(e.begunAt, e.endedAt).toFixed(2) : '',
      e.outcome ? outcomeWords[e.outcome] : 'open',
      saidOf(e),
      e.worker,
    ]),
  );

export const secondsBetween = (begunAt: string, endedAt: string): number =>
  (new Date(endedAt).getTime() - new Date(begunAt).getTime()) / 1000;

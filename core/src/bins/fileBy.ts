import type { MediaKind } from '../model/edit.ts';
import type { BinPath } from './noted.ts';

/** In which order clips are put into bins by themselves. */
export const fileRules = ['by-card', 'by-day', 'by-reel', 'by-kind'] as const;
export type FileRule = (typeof fileRules)[number];

/** What tells the bin of a clip. Folders are those of its file, else those that the edit remembers, outermost first. */
export type ToFile = {
  readonly kind: MediaKind | null;
  readonly reel: string | null;
  readonly folders: readonly string[];
  /** When its file was last written, in milliseconds since 1970; null where there is none. */
  readonly writtenMs: number | null;
};

/** Folders that cameras and recorders make on every card: they name no card. */
const onEveryCard =
  /^(clips?|contents?|video|audio|stream|media|private|sub|takes?|dcim|\d{3}[a-z_]{5}|rushes|footage)$/i;
const day = /(?:^|\D)((?:19|20)\d{2})[-_. ]?(0[1-9]|1[0-2])[-_. ]?(0[1-9]|[12]\d|3[01])(?:\D|$)/;
const dayNumber = /^(?:shoot[-_. ]*)?day[-_. ]*(\d{1,3})\b/i;

/**
 * The bin a clip belongs in by a rule; null where nothing tells. A card is the innermost folder that is not found on
 * every card; a day is one that a folder names, as a date (ISO 8601, also without dashes) or by its number, else the day
 * (UTC) on which the file was written.
 */
export function binBy(rule: FileRule, { kind, reel, folders, writtenMs }: ToFile): BinPath | null {
  switch (rule) {
    case 'by-card': {
      const card = folders.findLast((name) => !onEveryCard.test(name));
      return card === undefined ? null : [card];
    }
    case 'by-day': {
      const named = folders.map(dayOf).findLast((found) => found !== null);
      if (named) return [named];
      return writtenMs === null ? null : [isoDay.format(writtenMs)];
    }
    case 'by-reel':
      return reel === null || reel.trim() === '' ? null : [reel];
    case 'by-kind':
      return kind === null ? null : [kindBins[kind]];
  }
}

/** Sweden writes dates as ISO 8601 does. */
const isoDay = new Intl.DateTimeFormat('sv-SE', { timeZone: 'UTC' });

const kindBins: Readonly<Record<MediaKind, string>> = {
  picture: 'Picture',
  sound: 'Sound',
  still: 'Stills',
  sequence: 'Stills',
};

function dayOf(folder: string): string | null {
  const date = day.exec(folder);
  if (date) return `${date[1]}-${date[2]}-${date[3]}`;
  const number = dayNumber.exec(folder);
  return number ? `Day ${Number(number[1])}` : null;
}

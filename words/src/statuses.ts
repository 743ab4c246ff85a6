import type { Attribute, Verdict, Why } from '@legame/core/match';
import type { Status, StatusName } from '@legame/core/state';
import type { Verb } from '@legame/core/contract';
import { count } from './numbers.ts';
import { unreadableWords } from './storage.ts';

export const statusWords: Readonly<Record<StatusName, string>> = {
  linked: 'Linked',
  missing: 'Missing',
  changed: 'Changed',
  unreadable: 'Unreadable',
  short: 'Short',
  parked: 'Parked',
  waived: 'Waived',
  unshown: 'Not shown',
};

export const attributeWords: Readonly<Record<Attribute, string>> = {
  name: 'name',
  folder: 'folder',
  reel: 'reel',
  timecode: 'timecode',
  length: 'length',
  rate: 'rate',
  raster: 'raster',
  content: 'content',
  kind: 'kind',
  codec: 'codec',
  sound: 'sound',
  size: 'size',
  date: 'date',
};
export const verdictWords: Readonly<Record<Verdict, string>> = {
  agrees: 'agrees',
  nearly: 'nearly agrees',
  differs: 'differs',
  unknown: 'not known',
};

export const listWords = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

/** What a status means for this clip, and what can be done. */
export function statusSentence(status: Status): string {
  switch (status.status) {
    case 'linked':
      return 'The expected file is there and covers all that is used.';
    case 'missing':
      switch (status.because) {
        case 'nothing-there':
          return 'Nothing lies where the edit says.';
        case 'place-away':
          return 'Its drive is not plugged in. It comes back by itself when the drive does.';
        case 'file-gone':
          return 'The file it was linked to is not there any more.';
        case 'not-read-yet':
          return 'A file is there and is being read.';
        case 'taken-offline':
          return 'Taken offline on purpose. It comes back when you link it, or by Undo.';
        default:
          return status.because satisfies never;
      }
    case 'changed':
      return status.differs.length
        ? `A file is there, but it is not the one remembered: ${listWords(status.differs)} ${status.differs.length === 1 ? 'differs' : 'differ'}.`
        : 'The file has been replaced since it was linked.';
    case 'unreadable':
      return `A file is there, but cannot be used: ${unreadableWords(status.reason)}`;
    case 'short':
      return `The right file, but ${count(status.uncoveredInFrames, 'used frame')} ${status.uncoveredInFrames === 1 ? 'lies' : 'lie'} outside it.`;
    case 'parked':
      return 'Set aside for later; it stays in the to-do count.';
    case 'waived':
      return status.reason ? `Needs no media: ${status.reason}` : 'Needs no media.';
    case 'unshown':
      return 'Stands in a nest, outside of all that is shown of it: needs no media.';
    default:
      return status satisfies never;
  }
}

/** Why a clip is dark, in one line. */
export function whySentence(why: Why): string {
  switch (why.code) {
    case 'place-away':
      return `${why.placeName} is not plugged in`;
    case 'moved':
      return `moved: ${why.from || '/'} → ${why.to}`;
    case 'renamed':
      return `renamed to ${why.to}`;
    case 'moved-and-renamed':
      return `moved and renamed: now ${why.name} in ${why.to}`;
    case 'found':
      return `found in ${why.to}`;
    case 'several':
      return `${why.count} candidates are equally good: choose one`;
    case 'versions':
      return `${why.count} files agree in all that identifies: two takes, grades or versions, and nothing tells which is meant. Choose`;
    case 'too-many':
      return `${why.name} fits, but more files of its name are about than could be held against it: look`;
    case 'unreadable':
      return `${why.name} lies in ${why.folder} and cannot be read`;
    case 'taken-offline':
      return 'taken offline on purpose: it comes back when you link it, or by Undo';
    case 'contested':
      return `another recording has as good a claim to ${why.name}: choose`;
    case 'still-reading':
      return 'a candidate is still being read';
    case 'other-content':
      return `${why.name} in ${why.folder} is another recording: ${listWords(why.differs)} ${why.differs.length === 1 ? 'differs' : 'differ'}`;
    case 'volume-unknown':
      return `nothing found; “${why.volume}” is no known place. Add it, or say which place it is`;
    case 'gone':
      return why.namesakes
        ? `nothing found in any place; ${count(why.namesakes, 'file')} of its name ${why.namesakes === 1 ? 'is another recording' : 'are other recordings'}`
        : 'nothing found in any place: no name, reel or timecode fits';
    default:
      return why satisfies never;
  }
}

/** The kind of reason that it is, in words that many clips share. */
export function reasonText(why: Why): string {
  switch (why.code) {
    case 'place-away':
      return `${why.placeName} is not plugged in`;
    case 'moved':
      return `Moved: ${why.from || '/'} → ${why.to}`;
    case 'found':
      return `Found in ${why.to}`;
    case 'renamed':
      return 'Renamed';
    case 'moved-and-renamed':
      return `Moved and renamed, into ${why.to}`;
    case 'several':
    case 'versions':
    case 'contested':
      return 'More than one could be it: choose';
    case 'too-many':
      return 'Too many namesakes to be sure';
    case 'unreadable':
      return 'Cannot be read';
    case 'taken-offline':
      return 'Taken offline on purpose';
    case 'still-reading':
      return 'Still being read';
    case 'other-content':
      return `Another recording: ${listWords(why.differs)} ${why.differs.length === 1 ? 'differs' : 'differ'}`;
    case 'volume-unknown':
      return `“${why.volume}” is no known place`;
    case 'gone':
      return 'Nothing found in any place';
    default:
      return why satisfies never;
  }
}

const verbSentences: Readonly<Record<Verb, (n: string) => string>> = {
  link: (n) => `Linked ${n} by hand`,
  'link-by-rule': (n) => `Linked ${n} by rule`,
  carry: (n) => `Carried over to ${n}`,
  mend: (n) => `Mended a cause: linked ${n}`,
  swap: (n) => `Swapped ${n} to other content`,
  'change-folder': (n) => `Changed a folder: linked ${n}`,
  'switch-form': (n) => `Switched ${n} to another form`,
  follow: (n) => `Followed files that were renamed or moved: ${n}`,
  rename: () => 'Renamed files',
  'bring-home': (n) => `Brought the files of ${n} home`,
  'put-back': (n) => `Put ${n} back where the edit expects it`,
  pin: (n) => `Pinned ${n}`,
  unpin: (n) => `Unpinned ${n}`,
  interpret: (n) => `Counted the timecode of ${n} otherwise`,
  return: (n) => `Returned to a checkpoint: ${n} changed`,
  unlink: (n) => `Took ${n} offline`,
  park: (n) => `Parked ${n}`,
  waive: (n) => `Waived ${n}`,
  'take-up': (n) => `Took up ${n} again`,
  decline: () => 'Declined a candidate',
  file: (n) => `Put ${n} into bins`,
  label: (n) => `Labelled ${n} otherwise`,
  note: (n) => `Wrote into columns of ${n}`,
  'edit-bins': (n) => (n.startsWith('0') ? 'Changed the bins' : `Changed the bins, with ${n}`),
  'edit-labels': () => 'Changed the labels',
  'set-folders': () => 'Changed the folders of the project',
  'set-home': () => 'Set the home of the project',
  accept: () => 'Accepted what a check of health found',
  'accept-no-more': () => 'Took back what was accepted of health',
  'mark-pulls': () => 'Said what came of the pull list',
};
export const actSentence = (verb: Verb, clips: number): string => verbSentences[verb](count(clips, 'clip'));

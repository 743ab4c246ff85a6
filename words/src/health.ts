import type { NotBroughtHome } from '@legame/core/contract';
import type { HealthCheck, HealthSubject, NameFault } from '@legame/core/health';
import { formatRate } from '@legame/core/time';
import { bytes, count } from './numbers.ts';
import { refusedThing } from './storage.ts';

type Words = {
  /** What is checked, in two or three words. */
  readonly title: string;
  /** What was found; `n` is how many. */
  readonly found: (n: number) => string;
  readonly risk: string;
  readonly remedy: string;
};

const lie = (n: number) => (n === 1 ? 'lies' : 'lie');
const are = (n: number) => (n === 1 ? 'is' : 'are');

/** Every check: what it found, what may come of it, what to do about it. */
export const healthWords: Readonly<Record<HealthCheck, Words>> = {
  'outside-home': {
    title: 'Outside home',
    found: (n) => `${count(n, 'file')} in use ${lie(n)} outside the home folder`,
    risk: 'Whoever moves or backs up the home folder leaves them behind.',
    remedy: 'Copy them home; links move to the copies, and the originals stay.',
  },
  'in-passing': {
    title: 'Put down in passing',
    found: (n) => `${count(n, 'file')} in use ${lie(n)} on a desktop or among downloads`,
    risk: 'Such folders are tidied up by people and by machines.',
    remedy: 'Copy them home; links move to the copies.',
  },
  'on-card': {
    title: 'On a card or a removable drive',
    found: (n) => `${count(n, 'file')} in use ${lie(n)} on a card or a removable drive`,
    risk: 'A card is formatted for the next day; a removable drive leaves with its owner.',
    remedy: 'Copy them home; links move to the copies.',
  },
  'only-copy': {
    title: 'Only copy',
    found: (n) => `${count(n, 'file')} in use ${lie(n)} in one place alone`,
    risk: 'When that drive fails, they are gone.',
    remedy: 'Hand them off to a second drive, proven there.',
  },
  headroom: {
    title: 'Drives nearly full',
    found: (n) => `${count(n, 'place')} ${n === 1 ? 'has' : 'have'} less room left than a drive should`,
    risk: 'Drives become slow when they are nearly full, and what is written then may be cut short.',
    remedy: 'See what takes up room, and clear what nobody uses.',
  },
  'same-name': {
    title: 'Same name twice',
    found: (n) => `${count(n, 'name')} ${n === 1 ? 'is' : 'are'} borne by several recordings in use`,
    risk: 'Whoever goes by names alone takes one for the other.',
    remedy: 'Hand off under other names, by a pattern with reel or start.',
  },
  'unsafe-name': {
    title: 'Unsafe names',
    found: (n) => `${count(n, 'file')} in use ${n === 1 ? 'has a name' : 'have names'} that some systems do not take`,
    risk: 'Copied to another system, they are renamed or left out, and go dark there.',
    remedy: 'A handoff writes safe names into set and edit.',
  },
  'case-twins': {
    title: 'Names alike but for case',
    found: (n) => `${count(n, 'pair', 'pairs')} of names in one folder differ in case or spelling of accents alone`,
    risk: 'On a drive that folds case, one is written over the other.',
    remedy: 'A handoff keeps them apart.',
  },
  'reel-missing': {
    title: 'No reel',
    found: (n) => `${count(n, 'clip')} with timecode ${n === 1 ? 'has' : 'have'} no reel`,
    risk: 'No list finds them by reel and timecode.',
    remedy: 'See them in their bins, and note the reel there.',
  },
  'reel-overlaps': {
    title: 'Timecode twice on a reel',
    found: (n) => `On ${count(n, 'reel')}, recordings overlap in timecode`,
    risk: 'Reel and timecode mean two pictures there: a list that knows no more takes either.',
    remedy: 'See them in their bins: a reel is called wrongly, or a clock was set back.',
  },
  'other-rate': {
    title: 'Other rates',
    found: (n) => `${count(n, 'file')} of picture ${n === 1 ? 'has' : 'have'} a rate that no timeline has`,
    risk: 'Frames are dropped or doubled, and timecode does not count as the cut does.',
    remedy: 'See them in the ledger, and decide how each is read.',
  },
  'not-accepted': {
    title: 'Not accepted',
    found: (n) => `${count(n, 'file')} in use ${are(n)} not what the project accepts`,
    risk: 'The next program refuses them, or plays them badly.',
    remedy: 'See them in the ledger; make copies that are accepted.',
  },
  'never-tried': {
    title: 'Never read to the end',
    found: (n) => `${count(n, 'file')} in use ${n === 1 ? 'was' : 'were'} never decoded from end to end`,
    risk: 'A file can be broken where nobody has looked yet.',
    remedy: 'Read them once from end to end, in the background.',
  },
  unused: {
    title: 'Used by nobody',
    found: (n) => `${count(n, 'folder')} ${n === 1 ? 'holds' : 'hold'} media that no project uses`,
    risk: 'They take up room, and are rivals whenever something is looked for by name.',
    remedy: 'See them on the map of the place; what is cleared there can be brought back.',
  },
  'left-aside': {
    title: 'Left aside',
    found: (n) => `${count(n, 'clip')} ${n === 1 ? 'was' : 'were'} set aside more than a week ago`,
    risk: 'What was to be done later is forgotten.',
    remedy: 'Take them up again, or accept that they stay as they are.',
  },
};

export const whyNotHomeWords: Readonly<Record<NotBroughtHome, string>> = {
  'place-away': 'the drive it lies on is not there',
  'not-read': 'it was not read yet',
  sequence: 'it is a sequence of many files; hand it off instead',
};

const nameFaultWords: Readonly<Record<NameFault, string>> = {
  characters: 'holds characters that some systems forbid',
  ending: 'ends with a dot or a space',
  device: 'is the name of a device on some systems',
  length: 'is too long for some systems',
  form: 'has its accents written apart, which some systems change',
};

/** What a finding is about. */
export function subjectText(subject: HealthSubject): string {
  switch (subject.what) {
    case 'file':
    case 'name':
    case 'rate':
    case 'refused':
    case 'folder':
      return subject.path;
    case 'files':
    case 'clip':
    case 'place':
    case 'left':
      return subject.name;
    case 'reel':
      return subject.reel;
  }
}

/** What is to be said of it besides; empty where nothing is. */
export function subjectDetail(subject: HealthSubject): string {
  switch (subject.what) {
    case 'file':
    case 'clip':
      return '';
    case 'files':
      return subject.paths.join(' · ');
    case 'name':
      return `“${subject.part}” ${nameFaultWords[subject.fault]}; “${subject.safe}” is safe`;
    case 'reel':
      return subject.names.join(', ');
    case 'rate':
      return `${formatRate(subject.rate)}, where timelines have ${formatRate(subject.usual)}`;
    case 'refused':
      return `its ${refusedThing[subject.refusal.what]} is ${subject.refusal.found}; accepted is ${subject.refusal.accepted}`;
    case 'place':
      return `${bytes(subject.freeInBytes)} free, ${bytes(subject.wantedInBytes)} should be`;
    case 'folder':
      return count(subject.files, 'file');
    case 'left':
      return `${subject.as} ${count(subject.days, 'day')} ago${subject.reason ? `: ${subject.reason}` : ''}`;
  }
}

import type { Doing, Job } from '@legame/core/contract';
import { count, group } from './numbers.ts';

/** What a job is, in short. */
export function jobTitle({ kind, about, payload }: Pick<Job, 'kind' | 'about' | 'payload'>): string {
  switch (kind) {
    case 'index-place':
      return `Index ${about}`;
    case 'match-project':
      return `Match ${about}`;
    case 'run-handoff':
      return `Gather ${about}`;
    case 'unpack-bundle':
      return `Unpack ${about}`;
    case 'trial-read':
      return 'scope' in payload && payload.scope === 'culprit' ? 'Find the culprit' : `Trial read of ${about}`;
    case 'accepted-copy':
      return `Make an accepted copy of ${about}`;
    case 'fetch-shelved':
      return `Fetch ${about}`;
    case 'hash-files':
      return `Hash ${about}`;
    case 'put-back':
      return `Put back ${about}`;
    case 'bring-home':
      return `Bring home ${about}`;
    case 'check-set':
      return `Check ${about}`;
    case 'open-set':
      return `Open ${about}`;
  }
}

/** What a job is doing now, as it goes beside a bar. */
export function doingText(doing: Doing): string {
  switch (doing.code) {
    case 'listing':
      return `listing ${doing.folder}`;
    case 'reading':
      return `reading ${doing.file}`;
    case 'read':
      return 'read';
    case 'weighing':
      return `weighing ${count(doing.files, 'file')} for ${count(doing.clips, 'clip')}`;
    case 'matched':
      return 'matched';
    case 'hashing':
      return `hashing ${doing.file}`;
    case 'decoding':
      return `decoding ${doing.file}`;
    case 'tried':
      return 'tried';
    case 'copying':
      return `copying ${doing.file}`;
    case 'writing':
      return `writing ${doing.file}`;
    case 'finishing':
      return 'writing documents and hash list';
    case 'fetching':
      return doing.shelf === 'vault' ? `the vault loads ${doing.file}` : `taking out ${doing.file}`;
    case 'making-copy':
      return `writing ${doing.file} as ${doing.codec}`;
    case 'unpacking':
      return `unpacking ${doing.file}`;
    case 'waiting-for':
      return doing.what === 'index' ? 'waiting until its files are read' : 'waiting until its clips are matched';
  }
}

/** How far it is, where that is known. */
export function progressText({ progress }: Pick<Job, 'progress'>): string {
  if (!progress?.of) return '';
  return progress.unit === 'bytes'
    ? `${Math.floor((100 * progress.done) / progress.of)} %`
    : `${group(progress.done)} of ${group(progress.of)}`;
}

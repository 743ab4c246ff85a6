import { detailWords } from './details.ts';
import type { Doubt, Refusal, Unreadable } from '@legame/core/model';
import type { MediaUse, OpeningView, PlaceView, TrialView } from '@legame/core/contract';
import { capital, group } from './numbers.ts';

export const refusedThing: Readonly<Record<Refusal['what'], string>> = {
  container: 'container',
  codec: 'codec',
  'bit-depth': 'depth',
  chroma: 'chroma sampling',
  raster: 'raster',
  rate: 'frame rate',
};

/** Why a file cannot be used, with where it fails. */
export function unreadableWords(reason: Unreadable): string {
  switch (reason.code) {
    case 'file-empty':
      return 'it is empty: 0 bytes.';
    case 'truncated': {
      const { presentInFrames: present, expectedInFrames: expected, unit } = reason;
      if (present === null || expected === null) return 'it is cut off: it ends before its header says it does.';
      return `it is cut off: ${group(present)} of ${group(expected)} ${unit} are there, the end is missing.`;
    }
    case 'damaged': {
      const of = reason.ofFrames === null ? '' : ` of ${group(reason.ofFrames)}`;
      return reason.atFrame === null
        ? `it opens, but decoding stumbles: ${detailWords(reason.detail)}.`
        : `it opens, but stops at frame ${group(reason.atFrame)}${of}: ${detailWords(reason.detail)}.`;
    }
    case 'header-broken':
      return `its header is broken: ${detailWords(reason.detail)}.`;
    case 'not-media':
      return `it is no media, whatever its name says: ${detailWords(reason.detail)}.`;
    case 'name-misleads':
      return `it is called ${reason.named}, but holds ${reason.content}.`;
    case 'refers-elsewhere':
      return 'its media lie in another file, which is not opened on its word.';
    case 'growing':
      return 'it is still being written.';
    case 'decoder-gave-up':
      return `the decoder gave up: ${detailWords(reason.detail)}.`;
    case 'decoder-too-slow':
      return `decoding took over ${reason.seconds} s and was stopped.`;
    case 'too-large-to-decode':
      return `it unpacks to more than is safe to decode: ${detailWords(reason.detail)}.`;
    case 'no-answer':
      return `the storage gave no answer for ${reason.seconds} s while it was being read.`;
    case 'no-permission':
      return 'there is no permission to read it.';
    case 'outside-place':
      return 'it is a link that leads out of its place, so it is not opened.';
    case 'not-accepted':
      return `the project does not take its ${refusedThing[reason.refusal.what]}: ${reason.refusal.found}; accepted is ${reason.refusal.accepted}.`;
    default:
      return reason satisfies never;
  }
}

/** What can be done about it. */
export function remedyWords(reason: Unreadable): string {
  switch (reason.code) {
    case 'file-empty':
    case 'truncated':
    case 'header-broken':
    case 'damaged':
      return 'Look for another copy, or copy it again from the card.';
    case 'not-media':
      return 'Point to the right file; leave this kind out of the place with a pattern.';
    case 'name-misleads':
      return 'Point to the right file, or give a copy of this one the name that fits.';
    case 'refers-elsewhere':
      return 'Ask for a self-contained file.';
    case 'growing':
      return 'It is looked at again by itself until its size stays.';
    case 'decoder-gave-up':
    case 'decoder-too-slow':
    case 'too-large-to-decode':
      return 'It is not opened again until you have it read again. Look for another copy.';
    case 'no-answer':
      return 'Check the drive or the share, then read it again.';
    case 'no-permission':
      return 'Change the file’s permissions, then read it again.';
    case 'outside-place':
      return 'Add the folder it leads to as a place.';
    case 'not-accepted':
      return 'Make an accepted copy, or change what the project accepts.';
    default:
      return reason satisfies never;
  }
}

/** Why it could not be read, and what to do about it; or what the reader said. */
export const saidOf = ({ reason, detail }: Pick<OpeningView, 'reason' | 'detail'>): string =>
  reason ? capital(`${unreadableWords(reason)} ${remedyWords(reason)}`) : detail === null ? '' : detailWords(detail);

export const doubtWords: Readonly<Record<Doubt, string>> = {
  'rate-guessed': 'its rate is worked out, not stated',
  'rate-varies': 'its frames are not equally long',
  'timecode-missing': 'it carries no timecode, so it counts from zero',
  'length-estimated': 'its length is worked out from time, not counted',
  'name-misleads': 'its name promises another container',
};

/** The state of a place in a word or two. */
export function placeState(place: PlaceView): string {
  if (place.silent) return 'no answer yet';
  if (place.there) return [place.slow ? 'slow' : 'there', ...(place.readOnly ? ['read-only'] : [])].join(', ');
  switch (place.awayBecause) {
    case 'no-answer':
      return 'does not answer';
    case 'another-drive':
      return 'another drive lies there';
    case 'not-plugged-in':
    case null:
      return 'not plugged in';
  }
}

/** What that means, and what can be done. */
export function placeSentence(place: PlaceView): string | null {
  if (place.silent)
    return 'It was asked and has not answered yet. Until it does, or is given up, its clips stay as they are.';
  if (place.there) {
    if (place.slow) return 'It answers slowly. It is read last, and holds nobody else up.';
    return place.readOnly ? 'Nothing can be written here; it can be searched and linked like any other.' : null;
  }
  switch (place.awayBecause) {
    case 'no-answer':
      return 'It was given up for now, so that nothing waits for it. Its clips come back when it answers.';
    case 'another-drive':
      return 'What lies at this path is not what was indexed here. Its clips wait for the right drive.';
    case 'not-plugged-in':
    case null:
      return 'What is known of it stays. Clips that lie here come back by themselves when it does, under any path.';
  }
}

export const useWords: Readonly<Record<MediaUse, string>> = {
  'this-project': 'used here',
  'other-projects': 'used by other projects',
  wanted: 'a dark clip may need it',
  duplicate: 'a copy of another file',
  unused: 'not used',
  holding: 'in the holding folder',
  cache: 'Legame’s cache',
  other: 'no media',
};

export const openingWords: Readonly<Record<OpeningView['what'], string>> = {
  list: 'listing',
  facts: 'header',
  decoder: 'decoder',
  picture: 'picture',
  preview: 'preview',
  trial: 'trial read',
  hash: 'hash',
  copy: 'copy',
};
export const outcomeWords: Readonly<Record<NonNullable<OpeningView['outcome']>, string>> = {
  ok: 'read',
  unreadable: 'cannot be used',
  'no-answer': 'got no answer',
  'too-slow': 'took too long, stopped',
  stopped: 'stopped',
  failed: 'failed',
  lost: 'the reading process ended',
};

export const suspicionWords: Readonly<Record<TrialView['files'][number]['suspicion'], string>> = {
  'unreadable-before': 'failed before',
  'changed-lately': 'changed last',
  large: 'large',
  used: 'in use',
  chosen: 'chosen',
};

/** "12 skipped: 10 hidden, 2 links": what a walk passed over. */
export function skippedWords(skipped: NonNullable<PlaceView['skipped']>): string[] {
  return [
    [skipped.hidden, 'hidden or system'],
    [skipped.excluded, 'left out by a pattern'],
    [skipped.links, skipped.links === 1 ? 'link, not followed' : 'links, not followed'],
    [skipped.special, 'neither file nor folder'],
    [
      skipped.unlisted.length,
      skipped.unlisted.length === 1 ? 'folder without permission' : 'folders without permission',
    ],
    [skipped.unnameable.length, 'with names that are no text'],
  ].flatMap(([n, what]) => (n === 0 ? [] : [`${group(Number(n))} ${what}`]));
}

import type { Attribute, CauseKind, Form, TimecodeCause, TimecodeDisplacement } from '@legame/core/match';
import type { Interpretation } from '@legame/core/model';
import type { Renaming } from '@legame/core/paths';
import { formatRate, formatTimecode, type Rate } from '@legame/core/time';
import type { About, CauseView } from '@legame/core/contract';
import { capital, count } from './numbers.ts';
import { attributeWords, listWords } from './statuses.ts';

type Displaced = Extract<CauseKind, { code: 'displaced' }>;

/** What happened, as one sentence that stands over a cause. */
export function causeSentence(kind: CauseKind, clips: number): string {
  switch (kind.code) {
    case 'displaced':
      return displacedSentence(kind, clips);
    case 'place-away':
      return `${kind.placeName} is not plugged in`;
    case 'volume-unknown':
      return `Nothing was found, and no place is known as “${kind.volume}”`;
    case 'choice':
      return clips === 1 ? 'Several files are equally good' : 'These may lie in either of several folders';
    case 'alone':
      return 'Each of these has a file that may be it, and nothing bears it out';
    case 'replaced':
      return 'Another recording lies where the edit says';
    case 'taken-offline':
      return 'Taken offline on purpose';
    case 'unreadable':
      return `${clips === 1 ? 'A file' : `${count(clips, 'file')}`} cannot be read`;
    case 'short':
      return 'The right file is there, but does not cover all that is used';
    case 'being-read':
      return 'Files are still being read';
    case 'gone':
      return 'Nothing was found in any place';
    default:
      return kind satisfies never;
  }
}

/** A cause in few words, where several of a kind stand together: what moved whereto, else what happened. */
export const causeName = ({ kind, clipIds }: Pick<CauseView, 'kind' | 'clipIds'>): string =>
  kind.code === 'displaced' && kind.folder?.from
    ? `${kind.folder.from} → ${kind.folder.to}`
    : causeSentence(kind, clipIds.length);

function displacedSentence({ folder, name, timecode, rate, isOtherRaster }: Displaced, clips: number): string {
  const parts = [
    folder && folderWords(folder, clips),
    name && (name === 'afresh' ? 'files were named afresh' : renamedWords(name)),
    timecode && timecodeCauseWords(timecode),
    rate && `the rate is ${formatRate(rate.file)} and not ${formatRate(rate.edit)}`,
    isOtherRaster && 'only another size of the picture is there',
  ].filter((part) => part !== null && part !== false);
  const sentence = listWords(parts) || 'Files were found again';
  return sentence[0]!.toUpperCase() + sentence.slice(1);
}

function folderWords({ from, how }: NonNullable<Displaced['folder']>, clips: number): string {
  if (from !== '' && clips === 1) return 'one file lies elsewhere';
  if (how === 'drive') return 'a drive has another name here';
  if (how === 'gathered') return 'several folders were put together in one';
  return from === '' ? 'the edit knows no path, the files were found' : 'a folder lies elsewhere';
}

/** What was done to names, in words that hold for all of them. */
export function renamedWords({ stem, extension }: Renaming): string {
  const ending = extension === null ? '' : `the ending is “${extension}” now`;
  const change = stemWords(stem);
  return [change && `names have ${change}`, ending].filter(Boolean).join(', ');
}

function stemWords(stem: Renaming['stem']): string {
  switch (stem.kind) {
    case 'same':
      return '';
    case 'added':
      return listWords(
        [stem.before && `“${stem.before}” in front`, stem.after && `“${stem.after}” behind`].filter(Boolean),
      );
    case 'removed':
      return `lost ${listWords([stem.before, stem.after].filter(Boolean).map((t) => `“${t}”`))}`;
    case 'inserted':
      return `“${stem.text}” put in`;
    case 'replaced':
      return `“${stem.to}” for “${stem.from}”`;
    case 'renumbered':
      return `numbers ${Math.abs(stem.by)} ${stem.by > 0 ? 'higher' : 'lower'}`;
  }
}

function timecodeCauseWords(cause: TimecodeCause): string {
  switch (cause.kind) {
    case 'from-zero':
      return 'the edit counts each clip from zero, the files carry their own time';
    case 'shifted':
      return cause.inHours !== null
        ? `the timecode is ${count(Math.abs(cause.inHours), 'hour')} apart`
        : 'the timecode is a constant apart';
    case 'shifted-per-reel':
      return 'the timecode is a constant apart on each reel';
    case 'other-rate':
      return `the timecode was counted at ${formatRate(cause.from)}, the files count at ${formatRate(cause.to)}`;
  }
}

/** A number of frames as a signed timecode. */
export const shiftWords = (frames: number, rate: Rate): string =>
  `${frames < 0 ? '−' : '+'}${formatTimecode(Math.abs(frames), rate)}`;

/** The figures of a timecode cause, one a reel where they differ. */
export function shiftsOf(cause: TimecodeCause): { readonly label: string; readonly shift: string }[] {
  switch (cause.kind) {
    case 'shifted':
      return [{ label: '', shift: shiftWords(cause.byFrames, cause.rate) }];
    case 'shifted-per-reel':
      return cause.reels.map((r) => ({ label: r.reel, shift: shiftWords(r.byFrames, r.rate) }));
    default:
      return [];
  }
}

/** What holds for all members, under a cause's path. */
export function supportWords({
  kind,
  links,
  clipIds,
  agreeing,
  certainty,
  apart,
  wanting,
  witnesses,
}: CauseView): string {
  switch (kind.code) {
    case 'displaced': {
      if (links === 0)
        return clipIds.length === 1
          ? 'One alone could be chance. Look at it in the ledger.'
          : 'Too little bears this out to link any of it. Look at a few, then say so for all.';
      const agree = agreeing.filter((a) => a !== 'folder').map((a: Attribute) => attributeWords[a]);
      const rest = apart > 0 ? ` ${count(apart, 'clip')} would not fit.` : '';
      const all = agree.length ? ` agree${links === 1 ? 's' : ''} in ${listWords(agree)}` : ' found';
      if (certainty === 'certain') return `${links} of ${clipIds.length}${all} · certain.${rest}`;
      const proof = wanting.length
        ? ` ${capital(listWords(wanting.map((a) => attributeWords[a])))} would prove it: nobody states ${wanting.length === 1 ? 'it' : 'them'}.`
        : ' Look at one to be sure.';
      return `${links} of ${clipIds.length}${all} · only likely: ${count(witnesses, 'recording')} ${witnesses === 1 ? 'bears it out' : 'bear it out alike'}.${proof}${rest}`;
    }
    case 'place-away':
      return 'They come back by themselves when it does.';
    case 'volume-unknown':
      return 'Add the place that it is, or say which of the known ones; else ask for the media with a pull list.';
    case 'choice':
      return 'What is known of them is the same in all. Only a person can say which.';
    case 'alone':
      return 'No two of them are explained alike, so no decision on one tells of another. By folder, in the ledger.';
    case 'taken-offline':
      return 'They come back when they are linked by hand, or by Undo.';
    case 'replaced':
      return 'Nothing is linked by a rule where timecode or length speak against it.';
    case 'unreadable':
      return 'Look for copies, read them again, or ask for them with a pull list.';
    case 'short':
      return 'Choose a longer one, or ask for what is missing with a pull list.';
    case 'being-read':
      return 'This settles by itself.';
    case 'gone':
      return 'No name, reel or timecode fits. Ask for them with a pull list, or waive what needs no media.';
    default:
      return kind satisfies never;
  }
}

/** What the remedy's button says. */
export function mendWords({ kind, links }: Pick<CauseView, 'kind' | 'links'>): string {
  const timecode = kind.code === 'displaced' ? kind.timecode : null;
  if (timecode === null) return `Link ${links}`;
  return timecode.kind === 'other-rate'
    ? `Count at ${formatRate(timecode.to)}, link ${links}`
    : `Apply offset, link ${links}`;
}

export const formWords: Readonly<Record<Form, string>> = {
  original: 'camera original',
  small: 'small copy',
  accepted: 'accepted copy',
  other: 'another container or codec',
};

/** How a clip is read, said shortly. */
export function interpretationWords({ countedAt, shiftInFrames }: Interpretation, rate: Rate): string {
  return [
    countedAt && `counted at ${formatRate(countedAt)}`,
    shiftInFrames !== 0 && shiftWords(shiftInFrames, countedAt ?? rate),
  ]
    .filter(Boolean)
    .join(', ');
}

/** How an edit and a file stand apart, for one clip. */
export function displacementWords(apart: TimecodeDisplacement, rate: Rate): string {
  switch (apart.kind) {
    case 'from-zero':
    case 'shifted':
      return shiftWords(apart.byFrames, rate);
    case 'other-rate':
      return `${formatRate(apart.from)} for ${formatRate(apart.to)}`;
  }
}

/** What an act followed from. */
export function aboutWords(about: About | null): string {
  switch (about?.code) {
    case undefined:
      return '';
    case 'cause':
      return causeSentence(about.kind, 2);
    case 'folder':
    case 'carry':
      return `${about.from || '/'} → ${about.to}`;
    case 'form':
      return formWords[about.form];
    case 'checkpoint':
      return `“${about.name}”`;
    case 'reason':
      return about.text;
    case 'files':
      return count(about.files, 'file');
  }
}

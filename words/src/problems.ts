import { binFaultWords, binText } from './bins.ts';
import { detailWords } from './details.ts';
import type { NotCleared, NotPutBack, Problem, Wanted, WhySkipped } from '@legame/core/contract';
import type { PackageFault } from '@legame/core/project';
import { listed } from './handoffs.ts';
import { whyNotHomeWords } from './health.ts';
import { listFaultText } from './sets.ts';
import { renameFaultWords } from './naming.ts';
import { bytes, count } from './numbers.ts';
import { readFaultSentence } from './remarks.ts';
import { refusedThing } from './storage.ts';

/** What went wrong: what, where, what is allowed and what to do. */
export function problemText(problem: Problem): string {
  switch (problem.code) {
    case 'not-found':
      return wantedText(problem.what);
    case 'request-not-understood':
      return `This request was not understood. ${problem.said.join('; ')}.`;
    case 'too-large':
      return `This document is larger than ${Math.round(problem.limitInBytes / 1_048_576)} MB, the most that is taken in one piece.`;
    case 'no-session':
      return 'This page is not known to Legame any more, or was opened by another user of this machine. Load it anew; programs show what the file "token" in the data folder says.';
    case 'foreign-origin':
      return 'Legame answers only pages of its own, opened on this machine.';
    case 'internal':
      return problem.detail === null
        ? 'Legame itself failed at this. Nothing was changed by it; the server log has the details.'
        : `Legame itself failed at this (${problem.detail}). Try again; the server log has the details.`;
    case 'document-overwhelms':
      return `"${problem.name}" could not be read: it takes more ${problem.by === 'time' ? `than ${problem.seconds} seconds` : 'memory than a document may take'}. Nothing was kept of it. Export it in parts, or with less in it; LEGAME_DOCUMENT_SECONDS allows more time.`;
    case 'document-not-read':
    case 'rate-needed':
    case 'columns-needed':
      return `"${problem.name}" was not read. ${readFaultSentence(problem.fault)}`;
    case 'document-known-already':
      return `"${problem.name}" is in this project already. Bring it in as a newer version, which keeps links and decisions, or beside it.`;
    case 'project-not-read':
      return `"${problem.name}" was not read as a project: ${packageText(problem.fault)}.`;
    case 'no-such-timeline':
      return `"${problem.document}" has no such timeline any more. Choose another.`;
    case 'no-timeline':
      return `"${problem.document}" holds no timeline, so there is no list to make of it.`;
    case 'folder-wanted-for-relative-paths':
      return 'For relative paths say the folder in which the document will lie, from the root down.';
    case 'no-bundle':
      return problem.place === null
        ? `"${problem.path}" is no bundle: it holds no ${problem.lacks}.`
        : `The folder "${problem.path}" of "${problem.place}" is no bundle: it holds no ${problem.lacks}. Choose a document in it instead.`;
    case 'zip-broken':
      return `"${problem.name}" is no whole zip. Copy it again.`;
    case 'part-damaged':
      return `"${problem.name}" in the bundle is damaged (${detailWords(problem.detail)}). Copy the bundle again from where it comes from.`;
    case 'outside-roots':
      return `"${problem.path}" is outside the folders Legame may use: ${problem.roots.join(', ')}. Choose a folder in there, or start Legame with LEGAME_ROOTS naming its parent.`;
    case 'outside-folder':
      return `"${problem.path}" would lie outside the folder ${problem.folder}.`;
    case 'link-leads-out':
      return `A link leads out of ${problem.folder} at "${problem.path}".`;
    case 'in-no-place':
      return `"${problem.path}" is in no known place any more.`;
    case 'folder-not-there':
      return problem.for === 'use'
        ? `There is no folder "${problem.path}". Check the path, or plug the drive in.`
        : problem.for === 'writing'
          ? `The folder for "${problem.path}" is not there any more. Plug the drive in and continue.`
          : `"${problem.path}" is not there. Check that the drive is plugged in.`;
    case 'not-a-folder':
      return `"${problem.path}" is a file, not a folder. Choose the folder it lies in.`;
    case 'not-a-file':
      return `"${problem.path}" is no ordinary file, so it is not opened.`;
    case 'another-folder-there':
      return `Another folder than before lies at "${problem.path}": another drive, or the drive is not plugged in. Nothing was read or written there. Plug the right drive in and continue.`;
    case 'folder-closed':
      return problem.place === null
        ? `"${problem.path}" cannot be listed: Legame has no permission to read it.`
        : `The folder ${problem.path} cannot be listed. Check its permissions, then index "${problem.place}" again.`;
    case 'place-known-already':
      return `"${problem.path}" ${lies[problem.how]} the place "${problem.place}" (${problem.placePath}). Each file belongs to one place, so use that one.`;
    case 'place-away':
      return placeAwayText(problem);
    case 'place-stalls':
      return `"${problem.place}" stopped answering while it was being ${problem.doing === 'listing' ? 'listed' : 'read'}. What is known of it stays, other places are not held up, and it goes on by itself when the place answers again.`;
    case 'file-stalls':
      return `"${problem.path}" does not answer: its drive or share stalls. What was verified stays; continue when it answers again.`;
    case 'file-away':
      return problem.for === 'picture'
        ? `"${problem.file}" is not there now, so there is no picture of it.`
        : `"${problem.file}" is not there any more. Plug "${problem.place}" in and try again.`;
    case 'not-in-place':
      return `"${problem.path}" is not in "${problem.place}". Check that the drive is plugged in, and choose again.`;
    case 'not-hashed':
      return `"${problem.file}" could not be read to the end, so it has no hash. Check "${problem.place}" and try again.`;
    case 'sequence-has-no-hash':
      return `"${problem.file}" is a sequence: many files, which have no one hash.`;
    case 'no-drive-bay':
      return 'There is no drive bay here: Legame was started without its demo.';
    case 'no-such-drive':
      return `There is no drive "${problem.drive}" in the bay.`;
    case 'not-on-shelf':
      return `"${problem.path}" is not on that shelf (any more).`;
    case 'target-not-writable':
      return problem.why === 'read-only'
        ? `"${problem.path}" is on a read-only drive. Choose a folder on a drive that can be written to.`
        : `Legame has no permission to write to "${problem.path}". Change the folder's permissions, or choose another.`;
    case 'target-exists':
      return `"${problem.path}" ${existsText[problem.when]}`;
    case 'name-not-possible':
      return problem.why === 'too-long'
        ? `"${shortened(problem.path)}" is a longer name than its drive can hold. Give it a shorter one.`
        : `"${shortened(problem.path)}" has characters that its drive cannot hold. Give it another name.`;
    case 'drive-failed':
      return driveFailedText[problem.why](problem.path);
    case 'drive-full':
      return `The drive is full: "${problem.path}" could not be written to the end. What was verified stays; make room and continue.`;
    case 'no-room':
      return `${roomFor[problem.for]} ${bytes(problem.neededInBytes)}, but ${problem.folder} has only ${bytes(problem.usableInBytes)} free beside its headroom. Make room, or choose another drive.`;
    case 'reads-back-differently':
      return problem.inside === null
        ? `What was written for "${problem.path}" reads back differently. The target drive or its cable is failing; the copy was thrown away.`
        : `"${problem.path}" reads back differently from what was written into "${problem.inside}". The target drive or its cable is failing; the bundle was thrown away.`;
    case 'trim-not-proven':
      return `The part cut out of "${problem.path}" could not be proven: ${detailWords(problem.detail)}. It was thrown away; take the recording whole.`;
    case 'source-unreadable':
      return `"${problem.path}" cannot be read any more. Check the drive it lies on.`;
    case 'source-changed':
      return problem.since === 'planned'
        ? `"${problem.path}" is no longer what it was when this was planned: its size, time or content is another. Index its place again, look at it, and plan anew.`
        : `"${problem.path}" changed while it was being copied. Wait until nothing writes to it, then continue.`;
    case 'copy-changed':
      return `"${problem.path}" was copied and verified, and something changed or removed it since. Nothing was written over it; move it away and continue to have it copied again.`;
    case 'folder-claimed':
      return `The folder "${problem.path}" belongs to another handoff that is not finished. Go on with that one, or choose another name.`;
    case 'nothing-to-gather':
      return problem.leftOut === 0
        ? 'What is chosen shows nothing that has media, so there is nothing to gather. Choose another stretch, or other timelines or clips.'
        : `Nothing of what is chosen can come along: ${count(problem.leftOut, 'clip')} ${problem.leftOut === 1 ? 'is' : 'are'} left out, because no file can be had or because it was said so. Link clips first, or say otherwise what comes along.`;
    case 'handoff-finished':
      return 'This handoff is finished. Plan another one to gather again.';
    case 'handoff-running':
      return 'This handoff is running already.';
    case 'handoff-not-running':
      return 'This handoff is not running, so there is nothing to stop.';
    case 'job-given-up':
      return 'What carried this out ended each of the five times it was tried. Start it again; if that happens once more, the read log tells which file was being read.';
    case 'files-not-copied':
      return `${problem.failed} of ${count(problem.of, 'file')} could not be copied: ${problem.first ? problemText(problem.first) : ''} The others are verified. Mend this and continue.`;
    case 'no-hash-list':
      return `"${problem.folder}" holds no hash list, so nothing can be proven of it: there is no folder "ascmhl" in it and no .mhl file. Choose the folder that was handed over, as it was handed over.`;
    case 'hash-list-broken':
      return `The hash list "${problem.path}" cannot be read: ${listFaultText(problem.fault)}. Have the set sent again, its list first.`;
    case 'hash-chain-broken':
      return `"${problem.path}" is no chain of hash lists, so no generation was added to it. What was found of the files stands.`;
    case 'set-has-no-timeline':
      return `No timeline lies in "${problem.folder}" itself. Add the folder as a place in a project, and bring a timeline in from there.`;
    case 'nothing-to-undo':
      return 'There is nothing to undo: no link was changed in this project.';
    case 'nothing-to-redo':
      return 'There is nothing to do again: the last thing done was not an undo.';
    case 'undo-overtaken':
      return 'This cannot be undone: the place that held the files of before was forgotten. Add the place again and link by rule.';
    case 'rename-refused':
      return `"${problem.name}" cannot be called "${problem.to}": ${renameFaultWords[problem.why]}. Nothing was renamed.`;
    case 'rename-overtaken':
      return `"${problem.name}" is not there under this name any more. Nothing was renamed: look at the names as they are now.`;
    case 'rename-of-others':
      return `${count(problem.files, 'file')} of these ${problem.files === 1 ? 'is' : 'are'} used by ${listed(problem.by)} as well. Nothing was renamed: say that they are to be renamed all the same, or leave them out.`;
    case 'restored-already':
      return `"${problem.path}" was restored already.`;
    case 'cause-gone':
      return 'This cause is not there any more: something changed since it was shown. Look at the causes as they are now.';
    case 'cause-needs-a-person':
      return 'Nothing here can be linked by one decision: a person has to look at each.';
    case 'bin-refused':
      return `The bin "${binText(problem.bin)}" cannot be: ${binFaultWords[problem.why]}.`;
    case 'label-unknown':
      return 'There is no such label any more. Choose another, or make it anew.';
    case 'nothing-to-put-back':
      return `Nothing was put back: ${problem.why ? notPutBackText(problem.why) : 'no clip was chosen'}.`;
    case 'no-home':
      return 'This project has no home folder. Say at Health (g e) which it is.';
    case 'home-read-only':
      return `Nothing can be written to ${problem.place}. Choose a folder on another drive, or free this one for writing.`;
    case 'nothing-to-bring-home':
      return `Nothing was brought home: ${problem.why ? whyNotHomeWords[problem.why] : 'everything lies there already'}.`;
    case 'no-room-at-home':
      return `${problem.place} has no room for it: ${bytes(problem.wantedInBytes)} are to be copied, ${bytes(problem.usableInBytes)} can be used with headroom kept. Clear something there, or make another folder home.`;
    case 'not-all-brought-home':
      return `${problem.files} of ${problem.of} files were not brought home, "${problem.path}" first. ${problemText(problem.because)} Links of the others were moved; look at Health again, and bring home what is left.`;
    case 'put-back-not-indexed':
      return `"${problem.file}" was copied, but could not be indexed. Index ${problem.place}; the clip finds it then by itself.`;
    case 'nothing-to-try':
      return problem.scope === 'chosen'
        ? 'None of these clips has a file to try. Link them first.'
        : 'Nothing that the timelines use has a file to try. Link clips first.';
    case 'picture-not-made':
      return pictureText(problem);
    case 'targets-alike':
      return `"${problem.path}" is chosen twice. A second copy belongs on another drive: choose another folder for it, or write the set once.`;
    case 'not-a-film':
      return `"${problem.file}" is no film that can be read, so no copy can be made of it.`;
    case 'copy-not-accepted':
      return `The project would not accept this copy either: its ${refusedThing[problem.refusal.what]} would be ${problem.refusal.found}, accepted is ${problem.refusal.accepted}. Choose another form, or change what the project accepts.`;
    case 'copy-in-no-place':
      return `"${problem.folder}" lies in no place, so a copy there could not be linked. Choose a folder of a place, or add this one as a place first.`;
    case 'copy-not-made':
      return `No copy of "${problem.file}" could be made: ${detailWords(problem.detail)}.`;
    case 'copy-not-indexed':
      return `The copy ${problem.path} was made, but could not be indexed. Index "${problem.place}" and link it by hand.`;
  }
}

const wanted: Readonly<Record<Wanted, string>> = {
  act: 'act',
  address: 'address',
  bundle: 'bundle',
  checkpoint: 'checkpoint',
  'cleared-file': 'cleared file',
  clip: 'clip',
  copy: 'copy',
  document: 'document',
  file: 'file',
  'former-version': 'former version',
  handoff: 'handoff',
  index: 'index',
  job: 'job',
  'kept-picture': 'kept picture',
  'media-file': 'media file',
  place: 'place',
  project: 'project',
  'replaced-document': 'document',
  'set-check': 'check',
  timeline: 'timeline',
  'trial-read': 'trial read',
};

const wantedText = (what: Wanted): string =>
  what === 'replaced-document'
    ? 'The document that this should replace is not in this project any more.'
    : `This ${wanted[what]} is not there (any more). Go back and choose another.`;

const lies = { same: 'is', inside: 'lies inside', around: 'contains' } as const;

const existsText: Readonly<Record<Extract<Problem, { code: 'target-exists' }>['when'], string>> = {
  planned: 'exists already, and nothing is ever written over. Choose another name for the handoff.',
  written: 'exists already, and nothing is ever written over.',
  running: 'appeared while the handoff ran, and nothing is ever written over. Move it away and continue.',
  copied: "is in the handoff's folder already, with other content. It was left as it is; move it away and continue.",
};

const shortened = (path: string): string => (path.length > 120 ? `${path.slice(0, 80)}…${path.slice(-30)}` : path);

const driveFailedText = {
  'not-answering': (path: string) =>
    `The drive failed at "${path}": it answers with errors, or not at all. What was verified stays; check it and its cable, then continue.`,
  'file-too-large': (path: string) =>
    `"${path}" would be larger than its drive's file system allows. Choose a drive with another file system.`,
  'too-many-open': (path: string) =>
    `"${path}" could not be opened: too many files are open on this machine. Close other programs and continue.`,
} as const;

const roomFor = {
  copy: 'The copy may need',
  bundle: 'Unpacking needs',
  handoff: 'The handoff needs',
} as const;

function placeAwayText({ place, path, for: purpose }: Extract<Problem, { code: 'place-away' }>): string {
  const where = path === null ? '' : ` (${path})`;
  switch (purpose) {
    case 'use':
      return `"${place}" is not there now. Plug it in and try again.`;
    case 'index':
      return `"${place}" is not there${where}, so it cannot be indexed. Plug it in and try again; what is known of it stays.`;
    case 'index-later':
      return `"${place}" is not there${where}. It is indexed when it comes back; what is known of it stays.`;
    case 'unpack':
      return `"${place}" is not there any more. Plug it in and unpack again.`;
  }
}

function pictureText({ file, what, why, detail }: Extract<Problem, { code: 'picture-not-made' }>): string {
  switch (why) {
    case 'set-apart':
      return `"${file}" made a decoder hang or fail before, so it is not opened. Read it again to try once more.`;
    case 'not-read':
      return `"${file}" has not been read, or cannot be read, so there is no picture of it.`;
    case 'not-decoded':
      return `No ${what} of "${file}": ${detail === null ? 'it could not be decoded' : detailWords(detail)}.`;
  }
}

function packageText(fault: PackageFault): string {
  switch (fault.code) {
    case 'not-text':
      return 'it is not a text file';
    case 'broken':
      return 'it is no whole JSON document; it may have been cut off';
    case 'no-project':
      return 'it is no project of Legame; bring timelines and logs into a project instead';
    case 'not-understood':
      return `its "legame" metadata is not understood at ${fault.at}: ${fault.detail}`;
    case 'document-missing':
      return `the document "${fault.name}" is missing from it`;
  }
}

/** Why a file is not put back, as the rest of a sentence. */
export function notPutBackText(why: NotPutBack): string {
  switch (why.code) {
    case 'clip-gone':
      return 'the clip is not there any more';
    case 'not-tied':
      return `"${why.clip}" is tied to no file yet; link it first`;
    case 'lies-there':
      return `"${why.clip}" lies where the edit expects it`;
    case 'unreadable':
      return `the file of "${why.clip}" cannot be read now`;
    case 'sequence':
      return `"${why.file}" is an image sequence; only single files are put back`;
    case 'no-path':
      return `the edit remembers no path for "${why.clip}"`;
    case 'no-place':
      return `"${why.path}" lies in no place that is known here; add the place, or say which it is`;
    case 'place-away':
      return `${why.place} is not plugged in`;
    case 'place-read-only':
      return `${why.place} cannot be written to`;
    case 'taken':
      return `"${why.name}" lies in ${why.folder} already, and nothing is ever written over`;
  }
}

/** Why a file is left where it is, as the rest of a sentence. */
export function notClearedText(why: NotCleared): string {
  switch (why.code) {
    case 'not-there':
      return 'it is not there';
    case 'used':
      return `${why.by.join(', ')} uses it`;
    case 'wanted':
      return `a dark clip of ${why.by.join(', ')} may need it`;
    case 'sequence':
      return 'image sequences stay together where they are';
    case 'problem':
      return problemText(why.problem);
  }
}

/** Why an act left a clip as it was, as the rest of a sentence. */
export const skippedText: Readonly<Record<WhySkipped, string>> = {
  pinned: 'it is pinned',
  'decided-since': 'something else was decided of it meanwhile',
  'not-certain': 'it is not certain any more',
  differs: 'the file differs in what must agree',
  'file-gone': 'the file is not there any more',
  contested: 'different recordings would get the same file',
};

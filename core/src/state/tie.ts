import type { Marks } from '../match/marks.ts';
import { prepareClip, prepareFile, type MatchClip } from '../match/prepare.ts';
import { weigh } from '../match/weigh.ts';
import { refusalOf, type AcceptanceProfile } from '../model/acceptance.ts';
import type { MediaFileId } from '../model/ids.ts';
import { readAs, type Counted, type Interpretation } from '../model/interpretation.ts';
import type { Known } from '../model/known.ts';
import type { MediaFile, Unreadable } from '../model/media.ts';
import { deriveStatus, type Status, type StatusInput } from './status.ts';

/** What was measured of a file when a link to it was made: it is recognised by this wherever it turns up later. */
export type Seen = Known & {
  readonly sizeInBytes: number;
  readonly start: number | null;
  readonly length: number | null;
};

export const seenOf = (file: MediaFile): Seen => ({
  sizeInBytes: file.sizeInBytes,
  start: file.facts?.start ?? null,
  length: file.facts?.length ?? null,
  writtenMs: file.modifiedMs,
  fingerprint: file.fingerprint,
  fullHash: file.fullHash,
  codec: file.facts?.codec ?? null,
  channels: file.facts?.channels ?? null,
  sampleRate: file.facts?.sampleRate ?? null,
});

/** Another file took the place of the one that was linked. Of the same content, a length may have been corrected since. */
export function wasReplaced(seen: Seen, file: MediaFile): boolean {
  const now = seenOf(file);
  const isSame = seen.fingerprint && now.fingerprint ? seen.fingerprint === now.fingerprint : null;
  if (isSame === false) return true;
  if (file.facts === null || seen.length === null) return false;
  return now.start !== seen.start || (isSame === null && now.length !== seen.length);
}

/** What people decided of a clip, and what matching found to lie where the edit says. */
export type Ties = {
  readonly link: { readonly mediaFileId: MediaFileId; readonly seen: Seen } | null;
  /** Untied on purpose: what merely lies where the edit says ties it no more. */
  readonly takenOffline: boolean;
  readonly whereRemembered: MediaFileId | null;
};

/** The file that a clip is tied to: by its link, else the one that lies where the edit says. */
export const tiedTo = ({ link, takenOffline, whereRemembered }: Ties): MediaFileId | null =>
  link?.mediaFileId ?? (takenOffline ? null : whereRemembered);

/** The tied file as it is now. */
export type TiedFile = {
  readonly file: MediaFile;
  readonly gone: boolean;
  readonly place: { readonly name: string; readonly there: boolean };
};

export type Judged = { readonly status: Status; readonly marks: Marks | null };
type ClipToJudge = StatusInput['clip'] & Pick<Ties, 'link' | 'takenOffline'> & Pick<StatusInput, 'setAside'>;

/**
 * The status of a clip that is tied to `tied`, with the evidence it rests on. `matched` is the clip as matching saw it,
 * logs included. `unusable`: why what was found in place of a tie cannot be used.
 */
export function judge(
  clip: ClipToJudge,
  matched: MatchClip,
  tied: TiedFile | null,
  { acceptance, unusable }: { readonly acceptance: AcceptanceProfile | null; readonly unusable: Unreadable | null },
): Judged {
  const { setAside, takenOffline } = clip;
  if (!tied) return { status: deriveStatus({ clip, tied: null, takenOffline, unusable, setAside }), marks: null };
  const { marks } = weigh(prepareClip(matched), prepareFile(tied.file, tied.place.name));
  const tie = tieOf(clip.link?.seen ?? null, tied, marks, acceptance);
  return { status: deriveStatus({ clip, tied: tie, takenOffline, setAside }), marks };
}

/** The status that a clip will have once it is linked to this file, read so: what a preview promises. */
export function judgeOnceLinked(
  clip: StatusInput['clip'] & Counted,
  matched: MatchClip,
  tied: TiedFile,
  { acceptance, interpretation }: { acceptance: AcceptanceProfile | null; interpretation: Interpretation | null },
): Status {
  const { rate, counting, available, used } = clip;
  const read = readAs({ rate, counting, available, used }, interpretation);
  const { marks } = weigh(prepareClip({ ...matched, ...read }), prepareFile(tied.file, tied.place.name));
  const tie = tieOf(seenOf(tied.file), tied, marks, acceptance);
  return deriveStatus({ clip: { ...clip, ...read }, tied: tie, setAside: null });
}

const tieOf = (
  seen: Seen | null,
  { file, gone, place }: TiedFile,
  marks: Marks,
  acceptance: AcceptanceProfile | null,
): NonNullable<StatusInput['tied']> => ({
  file,
  placeThere: place.there,
  gone,
  marks,
  chosen: seen !== null,
  refusal: acceptance && file.facts ? refusalOf(file.facts, acceptance) : null,
  replaced: seen !== null && wasReplaced(seen, file),
});

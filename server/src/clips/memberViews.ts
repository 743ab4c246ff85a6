import { type Marks, verdictsIn } from '@legame/core/match';
import type { MediaFileView, Member } from '@legame/core/contract';
import type { ClipState } from './state.ts';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';
import type { PlaceRecord } from '../stores/places.ts';

/** Changes when a file changes or is read anew, and its pictures with it. */
export const versionOf = (file: MediaFileRecord): string => `${file.modifiedMs}-${file.readAt ?? 0}`;

export const found = (file: MediaFileRecord, place: PlaceRecord | undefined) => ({
  mediaFileId: file.id,
  version: versionOf(file),
  name: file.name,
  placeName: place?.name ?? '',
  folder: file.folder,
});

export function viewMediaFile(file: MediaFileRecord, place: PlaceRecord | undefined): MediaFileView {
  return {
    id: file.id,
    placeId: file.placeId,
    placeName: place?.name ?? '',
    placeThere: place?.there ?? false,
    folder: file.folder,
    name: file.name,
    sizeInBytes: file.sizeInBytes,
    facts: file.facts,
    unreadable: file.unreadable,
    sequence: file.sequence,
    gone: file.gone,
    version: versionOf(file),
    quarantined: file.quarantined,
    fingerprint: file.fingerprint,
    fullHash: file.fullHash,
    trial: file.trial && { state: file.trial.state, at: file.trial.at },
  };
}

/** One clip of a preview: the file it would get, with the evidence in short. */
export function member(
  { clip }: Pick<ClipState, 'clip'>,
  screenSeconds: number,
  file: MediaFileRecord | null,
  place: PlaceRecord | undefined,
  more: Partial<Omit<Member, 'clipId' | 'clipName' | 'screenSeconds' | 'file' | 'verdicts'>> & {
    readonly marks?: Marks;
  },
): Member {
  const { marks, ...rest } = more;
  return {
    clipId: clip.id,
    clipName: clip.name,
    screenSeconds,
    file: file && found(file, place),
    verdicts: marks === undefined ? null : verdictsIn(marks),
    fits: false,
    certain: false,
    differs: [],
    interpretation: null,
    after: null,
    leftOut: null,
    offset: null,
    ...rest,
  };
}

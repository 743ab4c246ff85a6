import type { MediaFileId } from '../model/ids.ts';
import type { MediaFile } from '../model/media.ts';
import { PlaceDirectory, type Place } from '../model/place.ts';
import { isTakenAsRemembered, whereRemembered } from './arrive.ts';
import { decide, inOrderOfCloseness, type Decided } from './decide.ts';
import { enrichFromLogs } from './enrich.ts';
import { contradicts, explain, type Why } from './explain.ts';
import type { Form } from './forms.ts';
import { withNeighbours } from './neighbours.ts';
import {
  FilePreparer,
  prepareClip,
  withStanding,
  type MatchClip,
  type PreparedClip,
  type PreparedFile,
} from './prepare.ts';
import { CandidateIndex } from './retrieve.ts';
import { withForms } from './renditions.ts';
import type { MatchRules } from './rules.ts';
import { weigh } from './weigh.ts';

const noneAccepted: ReadonlySet<MediaFileId> = new Set();

export type MatchInput = {
  readonly clips: readonly (MatchClip & {
    readonly linkedTo: MediaFileId | null;
    /** Files that a person said are not the one. */
    readonly declined: readonly MediaFileId[];
  })[];
  /** Files of places that are there, and of those that are away too: they are rivals, and answer for where a clip lies. */
  readonly files: readonly MediaFile[];
  readonly places: readonly Place[];
  readonly rules: MatchRules;
  /** The form of a recording that the project works with, where several are here. */
  readonly preferredForm?: Form | undefined;
  /** Accepted copies that Legame made. */
  readonly accepted?: ReadonlySet<MediaFileId> | undefined;
};

export type MatchResult = Decided<PreparedClip, PreparedFile> & {
  /** The file that lies exactly where the edit says, be it the right one or not. */
  readonly whereRemembered: MediaFileId | null;
  readonly why: Why;
};

/**
 * The whole of matching over all clips: retrieve → weigh → decide → explain. Time grows with clips plus files, never
 * with their product. Only files of places that are there are ever proposed; those that are away are rivals.
 */
export function match({ clips, files, places, rules, preferredForm, accepted }: MatchInput): MatchResult[] {
  const preparedFiles = prepareFiles(files, places);
  const directory = new PlaceDirectory(places);
  const prepared = enrichFromLogs(clips).map((clip) => ({ clip, prepared: prepareClip(clip) }));
  const index = new CandidateIndex(
    preparedFiles,
    prepared.map((p) => p.prepared),
  );
  const retrieved = prepared.map(({ clip, prepared: p }) => {
    const declined = clip.declined.length > 0 ? new Set(clip.declined) : null;
    const found = index.candidatesOf(p);
    const candidates = (declined ? found.files.filter((f) => !declined.has(f.id)) : found.files).map((f) =>
      weigh(p, f),
    );
    const spot = whereRemembered(p, directory, index);
    return { clip: withStanding(p, found), candidates, linkedTo: clip.linkedTo, declined, spot };
  });
  const inCompany = withNeighbours(retrieved, preparedFiles);
  const weighed = inCompany.map(({ clip, candidates }, i) => {
    const { declined } = retrieved[i]!;
    const allowed = declined ? candidates.filter((c) => !declined.has(c.file.id)) : candidates;
    return { clip, candidates: withForms(inOrderOfCloseness(allowed), accepted ?? noneAccepted) };
  });
  const spots = retrieved.map(({ clip, spot, declined }) => {
    if (!spot || declined?.has(spot.file.id)) return null;
    return isTakenAsRemembered(clip, spot, rules) ? spot.file : null;
  });
  const claims = retrieved.flatMap(({ clip, linkedTo }, i) => {
    if (linkedTo) return [{ clip, mediaFileId: linkedTo }];
    const spot = spots[i];
    return spot && contradicts(weigh(clip, spot).marks).length === 0 ? [{ clip, mediaFileId: spot.id }] : [];
  });
  return decide(weighed, rules, claims, preferredForm).map((decided, i) => ({
    ...decided,
    whereRemembered: spots[i]?.id ?? null,
    why: explain(decided, directory),
  }));
}

export function prepareFiles(
  files: readonly MediaFile[],
  places: readonly (Pick<Place, 'id' | 'name'> & Partial<Pick<Place, 'there'>>)[],
): PreparedFile[] {
  const byId = new Map(places.map((p) => [p.id, p]));
  const preparer = new FilePreparer();
  return files.map((file) => {
    const place = byId.get(file.placeId);
    return preparer.prepare(file, place?.name ?? '', place?.there ?? true);
  });
}

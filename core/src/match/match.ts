import type { MediaFileId } from '../model/ids.ts';
import type { MediaFile } from '../model/media.ts';
import { placeNames, type Place } from '../model/place.ts';
import { whereRemembered } from './arrive.ts';
import { decide, inOrderOfCloseness, type Decided } from './decide.ts';
import { contradicts, explain, type Why } from './explain.ts';
import type { Form } from './forms.ts';
import { FilePreparer, prepareClip, type MatchClip, type PreparedClip, type PreparedFile } from './prepare.ts';
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
  /** Files of places that are there, and of those that are away too: they answer for where a clip lies. */
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
 * with their product. Only files of places that are there become candidates.
 */
export function match({ clips, files, places, rules, preferredForm, accepted }: MatchInput): MatchResult[] {
  const preparedFiles = prepareFiles(files, places);
  const names = places.map(placeNames);
  const there = new Set(places.filter((p) => p.there).map((p) => p.id));
  const prepared = clips.map((clip) => ({ clip, prepared: prepareClip(clip) }));
  const index = new CandidateIndex(
    preparedFiles,
    prepared.map((p) => p.prepared),
  );
  const spots = new Map(prepared.map(({ prepared: p }) => [p, whereRemembered(p, names, index.named(p.nameKey))]));
  const claims = prepared.flatMap(({ clip, prepared: p }) => {
    if (clip.linkedTo) return [{ clip: p, mediaFileId: clip.linkedTo }];
    const spot = spots.get(p) ?? null;
    return spot && contradicts(weigh(p, spot).marks).length === 0 ? [{ clip: p, mediaFileId: spot.id }] : [];
  });
  const weighed = prepared.map(({ clip, prepared: p }) => {
    const declined = new Set(clip.declined);
    return {
      clip: p,
      candidates: withForms(
        inOrderOfCloseness(
          index
            .candidatesOf(p)
            .filter((f) => there.has(f.placeId) && !declined.has(f.id))
            .map((f) => weigh(p, f)),
        ),
        accepted ?? noneAccepted,
      ),
    };
  });
  return decide(weighed, rules, claims, preferredForm).map((decided) => ({
    ...decided,
    whereRemembered: spots.get(decided.clip)?.id ?? null,
    why: explain(decided, names),
  }));
}

export function prepareFiles(
  files: readonly MediaFile[],
  places: readonly Pick<Place, 'id' | 'name'>[],
): PreparedFile[] {
  const names = new Map(places.map((p) => [p.id, p.name]));
  const preparer = new FilePreparer();
  return files.map((file) => preparer.prepare(file, names.get(file.placeId) ?? ''));
}

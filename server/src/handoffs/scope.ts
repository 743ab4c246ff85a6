import { isWithin, pathsOfBins, type BinPath } from '@legame/core/bins';
import {
  planHandoff,
  type Choices,
  type ConsolidatePlan,
  type LeftOutReason,
  type PlanFile,
  type PlanInput,
  type Sidecar,
} from '@legame/core/consolidate';
import type { FolderTemplate } from '@legame/core/folders';
import { acceptsAll, rangeReadAs, type ClipId, type MediaFileId, type Timeline } from '@legame/core/model';
import { clipsInScope, unitsInFile } from '@legame/core/state';
import { formatTimecode, type FrameRange } from '@legame/core/time';
import type { HandoffScope } from '@legame/core/contract';
import { ratesOf, useKey, withRates } from '../clips/screenTime.ts';
import { stateOf, type ClipState, type ProjectState } from '../clips/state.ts';
import type { Cuttable } from '../stores/cuttings.ts';
import type { DocumentRecord } from '../stores/documents.ts';

/** One event that reads a clip, with all that the scope shows of it. */
export type UseInScope = {
  /** Where the event stands in its document. */
  readonly address: string;
  /** Frames at the clip's rate, as the document states them. */
  readonly stated: FrameRange;
  /** The same in the file that the clip is tied to, in its units from its first; null where that is not known. */
  readonly units: FrameRange | null;
};

/** What the scope takes of a clip: the top timelines that show it, and the events that read it. */
export type ScopeOfClip = { readonly timelines: readonly string[]; readonly uses: readonly UseInScope[] };

/**
 * The clips that the timelines in scope show, through nests as far as windows show them, and of those the chosen ones. A
 * clip that was chosen, or lies in a chosen bin, and that none of them shows is in scope without a use.
 */
export function clipsOfScope(
  project: ProjectState,
  { timelines, ranges, clips, bins }: HandoffScope,
): ReadonlyMap<ClipId, ScopeOfClip> {
  const { documents, states } = project;
  const rates = ratesOf(states.map((s) => s.clip));
  const byKey = new Map(states.map((s) => [useKey(s.clip.documentId, s.clip.key), s]));
  const chosen = clips && new Set(clips);
  const found = new Map<ClipId, ScopeOfClip>((clips ?? []).map((id) => [id, { timelines: [], uses: [] }]));
  for (const document of documents) {
    const names = new Map(document.timelines.map((t) => [t.key, t.name]));
    const wanted = document.timelines.filter((t) => t.top && timelines?.includes(timelineId(document, t)));
    const keys = timelines && new Set(wanted.map((t) => t.key));
    const windows = new Map(
      document.timelines.flatMap((t) => {
        const range = ranges.find((r) => r.timeline === timelineId(document, t));
        return range ? [[t.key, range] as const] : [];
      }),
    );
    for (const [clipKey, { timelineKeys, reads }] of clipsInScope(withRates(document, rates), keys, windows)) {
      const state = byKey.get(useKey(document.id, clipKey));
      if (!state || (chosen && !chosen.has(state.clip.id))) continue;
      const uses = [...reads].map(([address, stated]) => ({ address, stated, units: unitsOf(state, stated) }));
      found.set(state.clip.id, { timelines: [...timelineKeys].map((key) => names.get(key)!), uses });
    }
  }
  if (bins.length > 0) {
    const binOf = binsOf(project);
    for (const { clip } of states)
      if (!found.has(clip.id) && bins.some((bin) => isWithin(binOf(clip), bin)))
        found.set(clip.id, { timelines: [], uses: [] });
  }
  return found;
}

/** The bin that a clip lies in: where somebody put it, else where its document has it. */
function binsOf({ documents }: Pick<ProjectState, 'documents'>): (clip: ClipState['clip']) => BinPath {
  const said = new Map(
    documents.flatMap((d) => [...pathsOfBins(d.bins)].map(([key, path]) => [useKey(d.id, key), path] as const)),
  );
  return ({ noted, documentId, binKey }) => noted?.bin ?? said.get(useKey(documentId, binKey ?? '')) ?? [];
}

function unitsOf({ clip, tied }: ClipState, stated: FrameRange): FrameRange | null {
  if (!tied) return null;
  const how = clip.interpretation;
  const read = how ? rangeReadAs(stated, { ...clip, ...clip.asStated }, how) : stated;
  return unitsInFile(read, clip, tied.file);
}

/** What was found out about files: where they can be cut, and what lies beside them under their name. */
export type KnownOfFiles = {
  readonly cuttings: ReadonlyMap<MediaFileId, Cuttable>;
  readonly sidecars: ReadonlyMap<MediaFileId, readonly Sidecar[]>;
};

/** What becomes of the media that the chosen timelines use; of every clip's where nothing is cut yet. */
export function planOf(
  project: ProjectState,
  scope: ReadonlyMap<ClipId, ScopeOfClip>,
  choices: Choices,
  { cuttings, sidecars }: KnownOfFiles,
  template: FolderTemplate,
): ConsolidatePlan {
  const isNarrowed = scope.size > 0 || project.documents.some((d) => d.timelines.length > 0);
  const binOf = binsOf(project);
  const inputs = project.states.flatMap((state): PlanInput[] => {
    const { clip } = state;
    const inScope = scope.get(clip.id);
    if (isNarrowed && !inScope) return [];
    const reason = leftOutFor(project, state);
    return [
      {
        clipId: clip.id,
        clipName: clip.name,
        usedBy: inScope?.timelines ?? [],
        bin: binOf(clip),
        scene: saidOf(clip, 'scene'),
        take: saidOf(clip, 'take'),
        rate: clip.rate,
        counting: clip.counting,
        statedStart: clip.available?.start ?? null,
        file: reason === null ? fileOf(project, state, { cuttings, sidecars }) : null,
        reason,
        uses: inScope?.uses.map((u) => u.units) ?? [],
      },
    ];
  });
  return planHandoff(inputs, choices, { accepts: project.acceptance ?? acceptsAll, template });
}

/** The file that comes along for a clip; null where none can. */
export const comingFile = (project: ProjectState, state: ClipState) =>
  leftOutFor(project, state) === null && state.tied ? (project.files.get(state.tied.file.id) ?? null) : null;

function fileOf(project: ProjectState, state: ClipState, { cuttings, sidecars }: KnownOfFiles): PlanFile | null {
  const file = comingFile(project, state);
  return (
    file && {
      id: file.id,
      placeName: project.places.get(file.placeId)?.name ?? '',
      folder: file.folder,
      name: file.name,
      sizeInBytes: file.sizeInBytes,
      sequence: file.sequence,
      facts: file.facts,
      cutting: cuttings.get(file.id)?.cutting ?? { can: 'nowhere', because: 'unreadable-index' },
      otherTracks: cuttings.get(file.id)?.streams?.others ?? 0,
      sidecars: sidecars.get(file.id) ?? [],
    }
  );
}

/** What a document says of a clip under a heading, however that is written. */
const saidOf = ({ metadata }: ClipState['clip'], what: string): string | null =>
  Object.entries(metadata).find(([key]) => key.toLowerCase() === what)?.[1] ?? null;

/** The project does not accept films of its kind, but it can be read. */
const isRefused = ({ status }: ClipState): boolean =>
  status.status === 'unreadable' && status.reason.code === 'not-accepted';

/** What keeps the file of a clip from coming along. One that the project refuses may come in another coding. */
function leftOutFor({ files, places }: ProjectState, state: ClipState): LeftOutReason | null {
  const { status } = isRefused(state) ? stateOf(state.clip, files, places, null, state.matched) : state;
  switch (status.status) {
    case 'linked':
    case 'short':
      return null;
    case 'missing':
      return status.because === 'place-away' ? 'place-away' : 'missing';
    // A file that is not the one remembered must not go out as if it were.
    case 'changed':
      return 'missing';
    case 'unreadable':
    case 'waived':
    case 'parked':
      return status.status;
    // No timeline reaches it: somebody chose it by hand, and there is no file of it that could come.
    case 'unshown':
      return 'missing';
  }
}

const timelineId = (document: DocumentRecord, timeline: Timeline) => `${document.id}/${timeline.key}`;

/** Documents with a timeline in scope, and with a chosen clip where clips are chosen. */
export function documentsInScope(
  { documents, states }: Pick<ProjectState, 'documents' | 'states'>,
  { timelines, clips }: HandoffScope,
): DocumentRecord[] {
  const chosen = clips && new Set(clips);
  const having = chosen && new Set(states.flatMap((s) => (chosen.has(s.clip.id) ? [s.clip.documentId] : [])));
  return documents.filter(
    (d) =>
      (!timelines || d.timelines.some((t) => timelines.includes(timelineId(d, t)))) && (!having || having.has(d.id)),
  );
}

/** The stretches that were chosen, as people say them. */
export const rangesSaid = ({ documents }: Pick<ProjectState, 'documents'>, { ranges }: HandoffScope) =>
  documents.flatMap((d) =>
    d.timelines.flatMap((t) =>
      ranges
        .filter((r) => r.timeline === timelineId(d, t))
        .map(({ start, end }) => ({
          timeline: t.name,
          from: formatTimecode(start, t.rate, t.counting),
          to: formatTimecode(end, t.rate, t.counting),
        })),
    ),
  );

import type { Looking } from '../context.ts';
import { verdictsIn } from '@legame/core/match';
import type { ProjectId } from '@legame/core/model';
import { parseRememberedPath, type RememberedPath } from '@legame/core/paths';
import type { ClipRow } from '@legame/core/contract';
import { found } from './memberViews.ts';
import { countUses, ratesOf, type UseCounts, useKey } from './screenTime.ts';
import { certainFile, type ClipState, decidedFile, loadProject, type ProjectState } from './state.ts';
import type { DocumentRecord } from '../stores/documents.ts';

/** Names of bins by document and key. */
export const binsOf = (documents: readonly DocumentRecord[]): Map<string, string> =>
  new Map(documents.flatMap(({ id, bins }) => bins.map((b) => [useKey(id, b.key), b.name] as const)));

/** From its volume down; from the root, where it knows no volume. */
const folderAsWritten = ({ form, volume, folders }: RememberedPath): string =>
  `${form === 'rooted' ? '/' : ''}${[...(volume === null ? [] : [volume]), ...folders].join('/')}`;

/** One row of the ledger. */
export function clipRow(
  state: ClipState,
  project: Pick<ProjectState, 'files' | 'places'> & { readonly bins: ReadonlyMap<string, string> },
  uses: UseCounts,
): ClipRow {
  const { clip, status, tied } = state;
  const path = clip.remembered ? parseRememberedPath(clip.remembered) : null;
  const decision = clip.proposal?.decision ?? null;
  const wanted = decidedFile(clip);
  const shown = wanted && clip.proposal?.candidates.find((c) => c.mediaFileId === wanted);
  const best = shown && project.files.get(shown.mediaFileId);
  const marks = tied?.marks ?? shown?.marks ?? null;
  const use = uses.get(useKey(clip.documentId, clip.key));
  return {
    id: clip.id,
    documentId: clip.documentId,
    name: clip.name,
    fileName: path?.name ?? clip.name,
    folder: path ? folderAsWritten(path) : '',
    remembered: clip.remembered,
    reel: clip.reel,
    bin: project.bins.get(useKey(clip.documentId, clip.binKey ?? '')) ?? null,
    kind: clip.kind,
    status,
    why:
      status.status === 'missing' || status.status === 'changed' || status.status === 'parked'
        ? clip.takenOffline && clip.link === null
          ? { code: 'taken-offline' }
          : (clip.proposal?.why ?? null)
        : null,
    decision: decision?.kind ?? 'not-matched-yet',
    certainty: decision?.kind === 'certain' ? 'certain' : decision?.kind === 'ask' ? decision.certainty : null,
    certainNow: certainFile(state) !== null,
    tied: tied ? { ...found(tied.file, tied.place), by: tied.by } : null,
    candidate: best ? found(best, project.places.get(best.placeId)) : null,
    candidates: clip.proposal?.candidates.length ?? 0,
    pinned: clip.pinned,
    interpreted: clip.interpretation !== null,
    verdicts: marks === null ? null : verdictsIn(marks),
    uses: use?.count ?? 0,
    usedSeconds: use?.seconds ?? 0,
  };
}

export async function listClipRows({ db }: Looking, projectId: ProjectId): Promise<ClipRow[]> {
  const project = await loadProject(db, projectId);
  const uses = countUses(project.documents, ratesOf(project.states.map((s) => s.clip)));
  const shown = { ...project, bins: binsOf(project.documents) };
  return project.states.map((state) => clipRow(state, shown, uses));
}

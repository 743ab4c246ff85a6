import { verdictsIn } from '@legame/core/match';
import { parseRememberedPath, type RememberedPath } from '@legame/core/paths';
import type { ClipRow } from '@legame/core/contract';
import type { Used } from '../stores/clipRows.ts';
import { found } from './memberViews.ts';
import { certainFile, type ClipState, decidedFile, type ProjectState } from './state.ts';

/** From its volume down; from the root, where it knows no volume. */
const folderAsWritten = ({ form, volume, folders }: RememberedPath): string =>
  `${form === 'rooted' ? '/' : ''}${[...(volume === null ? [] : [volume]), ...folders].join('/')}`;

/** What of a row turns with the place of its file. */
export function turning(
  state: Pick<ClipState, 'clip' | 'status' | 'tied'>,
): Pick<ClipRow, 'status' | 'why' | 'certainNow'> {
  const { clip, status } = state;
  const isOpen = status.status === 'missing' || status.status === 'changed' || status.status === 'parked';
  const why = clip.takenOffline && clip.link === null ? ({ code: 'taken-offline' } as const) : clip.proposal?.why;
  return { status, why: (isOpen && why) || null, certainNow: certainFile(state) !== null };
}

/** One row of the ledger. */
export function clipRow(
  state: ClipState,
  { files, places }: Pick<ProjectState, 'files' | 'places'>,
  used: Used,
): ClipRow {
  const { clip, tied } = state;
  const path = clip.remembered ? parseRememberedPath(clip.remembered) : null;
  const decision = clip.proposal?.decision ?? null;
  const wanted = decidedFile(clip);
  const shown = wanted && clip.proposal?.candidates.find((c) => c.mediaFileId === wanted);
  const best = shown && files.get(shown.mediaFileId);
  const marks = tied?.marks ?? shown?.marks ?? null;
  const { status, why, certainNow } = turning(state);
  return {
    id: clip.id,
    documentId: clip.documentId,
    name: clip.name,
    fileName: path?.name ?? clip.name,
    folder: path ? folderAsWritten(path) : '',
    remembered: clip.remembered,
    reel: clip.reel,
    bin: clip.noted?.bin ?? used.bin,
    label: clip.noted?.label ?? null,
    kind: clip.kind,
    status,
    why,
    certainNow,
    decision: decision?.kind ?? 'not-matched-yet',
    certainty: decision?.kind === 'certain' ? 'certain' : decision?.kind === 'ask' ? decision.certainty : null,
    tied: tied ? { ...found(tied.file, tied.place), by: tied.by } : null,
    candidate: best ? found(best, places.get(best.placeId)) : null,
    candidates: clip.proposal?.candidates.length ?? 0,
    pinned: clip.pinned,
    interpreted: clip.interpretation !== null,
    verdicts: marks === null ? null : verdictsIn(marks),
    uses: used.uses,
    usedSeconds: used.usedSeconds,
  };
}

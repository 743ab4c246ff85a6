import type { ClipId, Interpretation, MediaFileId, ProjectId } from '@legame/core/model';
import type { Act } from '@legame/core/contract';
import type { Context } from '../context.ts';
import { act } from '../history/act.ts';
import { clipKeyStore } from '../stores/clipKeys.ts';
import { clipStore } from '../stores/clips.ts';
import type { ClipChange } from '../stores/journal.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { projectStore } from '../stores/projects.ts';

/** Sets clips aside (for later, or for good), or takes them up again. */
export async function setAside(
  { db }: Context,
  projectId: ProjectId,
  clipIds: readonly ClipId[],
  as: 'parked' | 'waived' | null,
  reason: string,
): Promise<Act> {
  return projectStore.inTurn(db, projectId, async (trx) => {
    const clips = await clipKeyStore.listDecided(trx, projectId, clipIds);
    const changes = clips.map((clip): ClipChange => ({
      what: 'set-aside',
      clipId: clip.id,
      before: clip.setAside,
      after: as ? { as, reason } : null,
    }));
    const verb = as === 'parked' ? 'park' : as === 'waived' ? 'waive' : 'take-up';
    return act(trx, projectId, verb, changes, { about: reason ? { code: 'reason', text: reason } : null });
  });
}

/** Protects links from every rule, carry and cause, or frees them again. */
export async function setPinned(
  { db }: Context,
  projectId: ProjectId,
  clipIds: readonly ClipId[],
  pinned: boolean,
): Promise<Act> {
  return projectStore.inTurn(db, projectId, async (trx) => {
    const clips = (await clipKeyStore.listDecided(trx, projectId, clipIds)).filter((c) => c.pinned !== pinned);
    const changes = clips.map((c): ClipChange => ({ what: 'pin', clipId: c.id, before: c.pinned, after: pinned }));
    return act(trx, projectId, pinned ? 'pin' : 'unpin', changes);
  });
}

/** Says how clips are read where the edit counts otherwise than their files. Neither edit nor files change. */
export async function interpretClips(
  { db }: Context,
  projectId: ProjectId,
  wanted: readonly { readonly clipId: ClipId; readonly interpretation: Interpretation | null }[],
): Promise<Act> {
  return projectStore.inTurn(db, projectId, async (trx) => {
    const after = new Map(wanted.map((w) => [w.clipId, w.interpretation]));
    const clips = await clipKeyStore.listDecided(trx, projectId, [...after.keys()]);
    const changes = clips.flatMap((c): ClipChange[] => {
      const then = after.get(c.id) ?? null;
      const isSame = JSON.stringify(c.interpretation) === JSON.stringify(then);
      return isSame ? [] : [{ what: 'interpret', clipId: c.id, before: c.interpretation, after: then }];
    });
    return act(trx, projectId, 'interpret', changes);
  });
}

/** Remembers that this file is not the one for this clip; it is no candidate of it any more. */
export async function declineCandidate({ db }: Context, clipId: ClipId, mediaFileId: MediaFileId): Promise<Act> {
  const clip = await clipStore.getClip(db, clipId);
  await mediaFileStore.getMediaFile(db, mediaFileId);
  return projectStore.inTurn(db, clip.projectId, (trx) =>
    act(trx, clip.projectId, 'decline', [{ what: 'decline', clipId, mediaFileId }]),
  );
}

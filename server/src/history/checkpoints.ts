import type { ClipId, ProjectId } from '@legame/core/model';
import type { Act, ComparedStates, History } from '@legame/core/contract';
import type { Context, Looking } from '../context.ts';
import { tell } from '../events/tell.ts';
import { act } from './act.ts';
import { history, tellChanges } from './views.ts';
import { notFound } from '../problems.ts';
import { type ClipRecord, clipStore } from '../stores/clips.ts';
import { type ClipChange, type DecidedThen, journalStore } from '../stores/journal.ts';
import { projectStore } from '../stores/projects.ts';

/** Gives the present state of a project's links a name, to return to. */
export async function setCheckpoint({ db }: Pick<Context, 'db'>, projectId: ProjectId, name: string): Promise<History> {
  await projectStore.inTurn(db, projectId, async (trx) => {
    await journalStore.keepState(trx, projectId, { name, before: null });
    await tell(trx, 'project', projectId);
  });
  return history({ db }, projectId);
}

const decidedNow = (clip: ClipRecord): DecidedThen => ({
  clipId: clip.id,
  link: clip.link,
  setAside: clip.setAside,
  pinned: clip.pinned,
  interpretation: clip.interpretation,
  declined: clip.declined,
  takenOffline: clip.takenOffline,
  noted: clip.noted,
});

/** Puts every clip back to what it was at a checkpoint, as one act that can be undone like any other. */
export async function returnToCheckpoint(
  { db }: Pick<Context, 'db'>,
  projectId: ProjectId,
  checkpointId: number,
): Promise<Act> {
  return projectStore.inTurn(db, projectId, async (trx) => {
    const checkpoint = await journalStore.findCheckpoint(trx, projectId, checkpointId);
    if (!checkpoint) throw notFound('checkpoint');
    const then = new Map(checkpoint.state.map((s) => [s.clipId, s]));
    const clips = await clipStore.listClips(trx, projectId);
    const changes = clips.flatMap((clip) => differences(decidedNow(clip), then.get(clip.id) ?? untouched(clip.id)));
    return act(trx, projectId, 'return', changes, { about: { code: 'checkpoint', name: checkpoint.name } });
  });
}

/** What is otherwise in a later state than it was at a checkpoint: at another one, or now. */
export async function compareCheckpoints(
  { db }: Looking,
  projectId: ProjectId,
  checkpointId: number,
  otherId?: number,
): Promise<ComparedStates> {
  const stateAt = async (id: number) => {
    const checkpoint = await journalStore.findCheckpoint(db, projectId, id);
    if (!checkpoint) throw notFound('checkpoint');
    return checkpoint.state;
  };
  const [order, then, other] = await Promise.all([
    clipStore.listVersions(db, projectId),
    stateAt(checkpointId),
    otherId === undefined
      ? clipStore.listClips(db, projectId).then((clips) => clips.map(decidedNow))
      : stateAt(otherId),
  ]);
  const before = new Map(then.map((s) => [s.clipId, s]));
  const after = new Map(other.map((s) => [s.clipId, s]));
  // In the order of the edit; what is in it no more comes last.
  const ids = new Set([...order.map((clip) => clip.id), ...before.keys(), ...after.keys()]);
  const changes = [...ids].flatMap((id) =>
    differences(before.get(id) ?? untouched(id), after.get(id) ?? untouched(id)),
  );
  return { count: changes.length, changes: await tellChanges(db, projectId, changes) };
}

/** A clip of which nothing had been decided, or that came into the project later. */
const untouched = (clipId: ClipId): DecidedThen => ({
  clipId,
  link: null,
  setAside: null,
  pinned: false,
  interpretation: null,
  declined: [],
  noted: null,
});

function differences(now: DecidedThen, then: DecidedThen): ClipChange[] {
  const { clipId } = now;
  const differ = (a: unknown, b: unknown) => JSON.stringify(a) !== JSON.stringify(b);
  const changes: ClipChange[] = [];
  if (now.link?.mediaFileId !== then.link?.mediaFileId || now.link?.by !== then.link?.by)
    changes.push({ what: 'link', clipId, before: now.link, after: then.link });
  const [offlineNow, offlineThen] = [now.takenOffline ?? false, then.takenOffline ?? false];
  if (offlineNow !== offlineThen) changes.push({ what: 'offline', clipId, before: offlineNow, after: offlineThen });
  if (differ(now.setAside, then.setAside))
    changes.push({ what: 'set-aside', clipId, before: now.setAside, after: then.setAside });
  if (now.pinned !== then.pinned) changes.push({ what: 'pin', clipId, before: now.pinned, after: then.pinned });
  if (differ(now.interpretation, then.interpretation))
    changes.push({ what: 'interpret', clipId, before: now.interpretation, after: then.interpretation });
  if (then.noted !== undefined && differ(now.noted, then.noted))
    changes.push({ what: 'note', clipId, before: now.noted ?? null, after: then.noted });
  for (const mediaFileId of then.declined)
    if (!now.declined.includes(mediaFileId)) changes.push({ what: 'decline', clipId, mediaFileId });
  for (const mediaFileId of now.declined)
    if (!then.declined.includes(mediaFileId)) changes.push({ what: 'decline', clipId, mediaFileId, back: true });
  return changes;
}

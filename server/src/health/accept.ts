import type { AcceptFindings, Act, Health } from '@legame/core/contract';
import type { Home } from '@legame/core/health';
import type { ProjectId } from '@legame/core/model';
import type { Context } from '../context.ts';
import { tell } from '../events/tell.ts';
import { act } from '../history/act.ts';
import { findingKey, healthStore } from '../stores/health.ts';
import type { AcceptChange } from '../stores/journal.ts';
import { placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { lookAtHealth } from './look.ts';
import { viewHealth } from './views.ts';

/** Says where a project's media should lie, or that nobody says it. */
export async function setHome({ db }: Context, projectId: ProjectId, home: Home | null): Promise<Act> {
  if (home) await placeStore.getPlace(db, home.placeId);
  return projectStore.inTurn(db, projectId, async (trx) => {
    const { home: before } = await projectStore.getProject(trx, projectId);
    const isSame = before?.placeId === home?.placeId && before?.folder === home?.folder;
    return act(trx, projectId, 'set-home', isSame ? [] : [{ what: 'home', before, after: home }]);
  });
}

/** Accepts what a check found, or takes that back; what it does not find any more is passed over. */
export async function acceptFindings(
  context: Context,
  projectId: ProjectId,
  { check, keys, note }: AcceptFindings,
): Promise<Act> {
  // Outside of the turn, where the project as it was looked at last is at hand.
  const { findings } = await lookAtHealth(context, projectId);
  const chosen = keys && new Set(keys);
  const found = findings.filter((f) => f.check === check && (chosen?.has(f.key) ?? true));
  return projectStore.inTurn(context.db, projectId, async (trx) => {
    const accepted = await healthStore.listAccepted(trx, projectId);
    const after = note === null ? null : { note, at: new Date().toISOString() };
    const changes = found.flatMap(({ key, subject }): AcceptChange[] => {
      const before = accepted.get(findingKey({ check, key })) ?? null;
      // All that is open, and none of those that somebody accepted with another note.
      const isMeant = note === null ? before !== null : before === null || (keys !== null && before.note !== note);
      return isMeant ? [{ what: 'accept', check, key, subject, before, after }] : [];
    });
    return act(trx, projectId, note === null ? 'accept-no-more' : 'accept', changes);
  });
}

/** Keeps what is found now, to tell the next time what is new and what is gone. */
export async function keepHealth(context: Context, projectId: ProjectId): Promise<Health> {
  const { findings } = await lookAtHealth(context, projectId);
  await projectStore.inTurn(context.db, projectId, async (trx) => {
    await healthStore.keep(trx, projectId, findings);
    await tell(trx, 'project', projectId);
  });
  return viewHealth(context, projectId);
}

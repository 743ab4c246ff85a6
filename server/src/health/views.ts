import { healthChecks, type HealthCheck, type HealthFinding } from '@legame/core/health';
import type { Checked, Health } from '@legame/core/contract';
import type { ClipId, ProjectId } from '@legame/core/model';
import type { Looking } from '../context.ts';
import { findingKey, healthStore } from '../stores/health.ts';
import { lookAtHealth, lookAtOpen } from './look.ts';

/** Findings of one check that are shown; all of them count, and are acted upon. */
const mostShown = 300;

const clipsOf = (findings: readonly HealthFinding[]): ClipId[] => [...new Set(findings.flatMap((f) => f.clipIds))];

/** The clips that a check found something of which nobody accepted, in the order of the list. */
export async function listHealthClips(context: Looking, projectId: ProjectId, check: HealthCheck): Promise<ClipId[]> {
  return clipsOf((await lookAtOpen(context, projectId, check)).findings);
}

/** A project's health: what each check finds, what of it is accepted, and what is new since it was kept last. */
export async function viewHealth(context: Looking, projectId: ProjectId): Promise<Health> {
  const [looked, accepted, kept] = await Promise.all([
    lookAtHealth(context, projectId),
    healthStore.listAccepted(context.db, projectId),
    healthStore.listKept(context.db, projectId),
  ]);
  const then = kept.at && new Set(kept.findings.map(findingKey));
  const isNew = (finding: HealthFinding) => then !== null && !then.has(findingKey(finding));
  const found = new Map(healthChecks.map((check): [HealthCheck, HealthFinding[]] => [check, []]));
  for (const finding of looked.findings) found.get(finding.check)!.push(finding);
  const checks = healthChecks.map((check): Checked => {
    const all = found.get(check)!;
    const now = new Set(then && all.map((f) => f.key));
    const open = all.filter((f) => !accepted.has(findingKey(f)));
    const closed = all.filter((f) => accepted.has(findingKey(f)));
    return {
      check,
      isAsked: !looked.notAsked.includes(check),
      open: open.length,
      accepted: closed.length,
      added: open.filter(isNew).length,
      gone: kept.findings.filter((f) => f.check === check && !now.has(f.key)).length,
      sizeInBytes: open.reduce((sum, f) => sum + f.sizeInBytes, 0),
      clips: clipsOf(open).length,
      findings: open
        .concat(closed)
        .slice(0, mostShown)
        .map((f) => ({
          key: f.key,
          subject: f.subject,
          placeId: f.placeId,
          sizeInBytes: f.sizeInBytes,
          accepted: accepted.get(findingKey(f)) ?? null,
          isNew: isNew(f),
        })),
    };
  });
  const { home, proposedHome, files, clips } = looked;
  return { home, proposedHome, files, clips, keptAt: kept.at?.toISOString() ?? null, checks };
}

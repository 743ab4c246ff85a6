import { type ClipId, usesOf } from '@legame/core/model';
import { inOrderOfSuspicion } from '@legame/core/report';
import type { Reach } from '@legame/core/contract';
import type { ProjectState } from '../clips/state.ts';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';
import type { TrialFile, TrialScope } from '../stores/trials.ts';

const mostWaysTold = 8;

type Wanted = { readonly file: MediaFileRecord; readonly reachedBy: readonly Reach[] };

type ToTry = Pick<TrialFile, 'mediaFileId' | 'suspicion' | 'reachedBy'>;

export function inOrder(wanted: readonly Wanted[], scope: TrialScope): ToTry[] {
  const entry = ({ file, reachedBy }: Wanted, suspicion: TrialFile['suspicion']): ToTry => ({
    mediaFileId: file.id,
    suspicion,
    reachedBy: reachedBy.slice(0, mostWaysTold),
  });
  if (scope !== 'culprit') return wanted.map((w) => entry(w, scope));
  const suspects = wanted.map((w) => ({
    ...w,
    modifiedMs: w.file.modifiedMs,
    sizeInBytes: w.file.sizeInBytes,
    failedBefore: w.file.unreadable !== null || w.file.trial?.state === 'fails',
  }));
  return inOrderOfSuspicion(suspects).map(({ file, suspicion }) => entry(file, suspicion));
}

/** Every way by which the timelines reach each clip, nests included. */
export function reachesOf({ documents, states }: ProjectState): Map<ClipId, Reach[]> {
  const reaches = new Map<ClipId, Reach[]>();
  for (const document of documents) {
    const clips = states.map((s) => s.clip).filter((c) => c.documentId === document.id);
    const byKey = new Map(clips.map((c) => [c.key, c]));
    const timelines = new Map(document.timelines.map((t) => [t.key, t]));
    for (const { clipKey, steps, record } of usesOf({ timelines: document.timelines, clips })) {
      const clip = byKey.get(clipKey);
      if (!clip) continue;
      const top = timelines.get(steps[0]!.timelineKey)!;
      const reach: Reach = {
        clipId: clip.id,
        clipName: clip.name,
        steps: steps.map(({ timelineKey, event }) => ({
          timeline: timelines.get(timelineKey)!.name,
          track: event.track,
          event: event.number,
        })),
        record,
        rate: top.rate,
        counting: top.counting,
      };
      const known = reaches.get(clip.id);
      if (known) known.push(reach);
      else reaches.set(clip.id, [reach]);
    }
  }
  return reaches;
}

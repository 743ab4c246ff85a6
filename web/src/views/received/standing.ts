import type { SetCheck } from '@legame/core/contract';

/** States in which a file is not what was handed over; one that lies elsewhere in the set, or is new, harms nothing. */
export const harmful = ['changed', 'missing', 'unreadable', 'unproven'] as const;

export const isUnderWay = ({ job }: SetCheck): boolean => job?.state === 'queued' || job?.state === 'running';

/** Whether the hash lists themselves are in doubt. */
export const isDoubted = ({ lists, listsGone, handoff }: SetCheck): boolean =>
  (lists ?? []).some((list) => list.fault !== null || list.chain === 'other') ||
  listsGone.length > 0 ||
  (handoff?.listedOtherwise ?? 0) > 0;

/** How a check stands, in a word or two. */
export function standingOf(check: SetCheck): { text: string; tone: string } {
  const { job, counts } = check;
  if (isUnderWay(check)) return { text: 'being read…', tone: 'text-quiet' };
  if (job?.state === 'failed') return { text: 'could not be checked', tone: 'text-missing' };
  const harmed = harmful.reduce((sum, state) => sum + counts[state].files, 0);
  if (harmed > 0) return { text: `${harmed} not as handed over`, tone: 'text-missing' };
  if (counts.waiting.files > 0 || job?.state !== 'done') return { text: 'stopped', tone: 'text-changed' };
  if (isDoubted(check)) return { text: 'its lists are in doubt', tone: 'text-changed' };
  return { text: 'verified', tone: 'text-linked' };
}

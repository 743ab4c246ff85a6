import { harmfulStates } from '@legame/core/mhl';
import type { SetCheck } from '@legame/core/contract';
import { areListsDoubted } from '@legame/words/sets';

export const isUnderWay = ({ job }: SetCheck): boolean => job?.state === 'queued' || job?.state === 'running';

/** How a check stands, in a word or two. */
export function standingOf(check: SetCheck): { text: string; tone: string } {
  const { job, counts } = check;
  if (isUnderWay(check)) return { text: 'being read…', tone: 'text-quiet' };
  if (job?.state === 'failed') return { text: 'could not be checked', tone: 'text-missing' };
  const harmed = harmfulStates.reduce((sum, state) => sum + counts[state].files, 0);
  if (harmed > 0) return { text: `${harmed} not as handed over`, tone: 'text-missing' };
  if (counts.waiting.files > 0 || job?.state !== 'done') return { text: 'stopped', tone: 'text-changed' };
  if (areListsDoubted(check)) return { text: 'its lists are in doubt', tone: 'text-changed' };
  return { text: 'verified', tone: 'text-linked' };
}

import type { WouldChange } from '@legame/core/contract';
import { count } from './numbers.ts';

/** What bringing a newer version in would change, in a sentence or two. */
export function changesText({ timelines, kept, fresh, gone }: WouldChange): string {
  const sum = (pick: (timeline: WouldChange['timelines'][number]) => number) =>
    timelines.reduce((total, timeline) => total + pick(timeline), 0);
  const parts = [
    [sum((t) => t.added), 'added'],
    [sum((t) => t.removed), 'removed'],
    [sum((t) => t.moved), 'moved'],
    [sum((t) => t.trimmed), 'trimmed'],
    [sum((t) => t.reSourced), 'with another source'],
  ] as const;
  const told = parts
    .filter(([n]) => n > 0)
    .map(([n, what], i) => (i === 0 ? `${count(n, 'event')} ${what}` : `${n} ${what}`));
  const events = told.length === 0 ? 'No event is different' : told.join(', ');
  const clips = [`${count(kept, 'clip')} ${kept === 1 ? 'keeps its link' : 'keep their links'} and decisions`];
  if (fresh > 0) clips.push(`${fresh} ${fresh === 1 ? 'is' : 'are'} new`);
  if (gone > 0) clips.push(`${gone} ${gone === 1 ? 'is' : 'are'} used no more`);
  return `${events}. ${clips.join(', ')}.`;
}

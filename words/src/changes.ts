import type { Rate } from '@legame/core/time';
import type { Comparison } from '@legame/core/contract';
import { count, timecode } from './numbers.ts';

type Change = Comparison['timelines'][number]['changes'][number];

/** What became of an event from one version to the next; `kept`: nothing. */
export const markWords: Readonly<Record<Change['kind'] | 'kept', string>> = {
  kept: 'kept',
  added: 'added',
  removed: 'removed',
  moved: 'moved',
  trimmed: 'trimmed',
  're-sourced': 'with another source',
};

const signed = (frames: number): string => `${frames > 0 ? '+' : '−'}${count(Math.abs(frames), 'frame')}`;

/** One difference between two versions of a timeline, in a line. */
export function changeWords({ kind, event, before, byFrames, headFrames, tailFrames }: Change, rate: Rate): string {
  const name = (event ?? before)?.name ?? '';
  switch (kind) {
    case 'added':
      return `${name} added`;
    case 'removed':
      return `${name} removed`;
    case 'moved': {
      const track = event && before && event.track !== before.track ? ` from ${before.track}` : '';
      if (!byFrames) return `${name} moved${track}`;
      return `${name} moved${track} by ${byFrames > 0 ? '+' : '−'}${timecode(Math.abs(byFrames), rate, 'non-drop')}`;
    }
    case 'trimmed': {
      const parts = [
        ...(headFrames ? [`${signed(headFrames)} at its start`] : []),
        ...(tailFrames ? [`${signed(tailFrames)} at its end`] : []),
      ];
      return `${name} trimmed: ${parts.join(', ') || 'another speed'}`;
    }
    case 're-sourced':
      return `${before?.name ?? ''} replaced by ${name}`;
    default:
      return kind satisfies never;
  }
}

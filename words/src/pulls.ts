import { count } from './numbers.ts';
import type { DeskState, PullMark, PullRequest } from '@legame/core/report';

/** How a source on the pull list stands. */
export const deskStateWords: Readonly<Record<DeskState, string>> = {
  wanted: 'wanted',
  asked: 'asked for',
  arrived: 'arrived',
  'not-to-be-had': 'not to be had',
  'no-longer-wanted': 'no longer wanted',
};

const markSentences: Readonly<Record<PullMark, (holder: string) => string>> = {
  asked: (holder) => (holder ? `asked of ${holder}` : 'asked for'),
  arrived: (holder) => (holder ? `arrived from ${holder}` : 'arrived'),
  'not-to-be-had': (holder) => (holder ? `not to be had from ${holder}` : 'not to be had'),
};

/** What was said of a source, in a line: the mark, of whom, and why. */
export function requestText({ mark, holder, note, isUnknownToVault }: PullRequest): string {
  const why = isUnknownToVault ? 'it holds no file of that name' : '';
  return [markSentences[mark](holder), why, note].filter(Boolean).join(': ');
}

/** What is counted: how sources stand, and of the wanted ones those of which a file waits for a decision. */
export const pullCounts = ['wanted', 'to-decide', 'asked', 'arrived', 'not-to-be-had', 'no-longer-wanted'] as const;
export type PullCount = (typeof pullCounts)[number];
export const pullCountWords: Readonly<Record<PullCount, string>> = {
  ...deskStateWords,
  wanted: 'nothing here',
  'to-decide': 'a file waits',
};

/** What the pull list comes to, in a sentence. */
export function deskVerdict(counts: Readonly<Record<PullCount, number>>): string {
  if (Object.values(counts).every((n) => n === 0)) return 'Nothing has to be fetched.';
  const { wanted, asked, arrived } = counts;
  const decide = counts['to-decide'];
  const parts = [
    wanted > 0 && `${count(wanted, 'source')} to ask for`,
    asked > 0 && `${asked} asked for`,
    arrived > 0 && `${arrived} arrived`,
    counts['not-to-be-had'] > 0 && `${counts['not-to-be-had']} not to be had`,
    counts['no-longer-wanted'] > 0 && `${counts['no-longer-wanted']} to call off`,
  ].filter((part) => part !== false);
  const waiting = decide > 0 ? [`${count(decide, 'source')} may be here: decide first, at Causes.`] : [];
  return [...(parts.length > 0 ? [`${parts.join(', ')}.`] : []), ...waiting].join(' ');
}

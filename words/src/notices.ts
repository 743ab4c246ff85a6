import type { Job, Problem } from '@legame/core/contract';
import { jobTitle } from './jobs.ts';
import { problemText } from './problems.ts';

/** Something that happened by itself, or came to its end, while somebody did something else. */
export type Notice = {
  readonly id: string;
  /** ISO 8601, UTC. */
  readonly at: string;
} & (
  | {
      readonly code: 'done' | 'failed';
      readonly job: Pick<Job, 'kind' | 'about' | 'payload'>;
      readonly problem: Problem | null;
    }
  | { readonly code: 'place-away' | 'place-back'; readonly name: string }
  | { readonly code: 'newer'; readonly name: string; readonly replaces: string }
);

/** What happened, in a sentence. */
export function noticeText(notice: Notice): string {
  switch (notice.code) {
    case 'done':
      return `${jobTitle(notice.job)}: done.`;
    case 'failed':
      return [`${jobTitle(notice.job)} failed.`, notice.problem ? problemText(notice.problem) : ''].join(' ').trim();
    case 'place-away':
      return `${notice.name} went away.`;
    case 'place-back':
      return `${notice.name} is back.`;
    case 'newer':
      return `${notice.name} lies in the watched folder: newer than ${notice.replaces}.`;
  }
}

import type { Part } from '../media/readerTalk.ts';
import type { Unanswered } from '../media/readerProcess.ts';
import { UserProblem } from '../problems.ts';

/** What a question to the storage that was not answered means for whoever asked. */
export function unansweredOf(end: Part | Unanswered, path: string): Error {
  if (end.part === 'aborted') return new DOMException('Aborted', 'AbortError');
  if (end.part === 'failed' && end.problem) return new UserProblem(end.problem);
  return new UserProblem(
    end.part === 'no-answer' ? { code: 'file-stalls', path } : { code: 'source-unreadable', path },
  );
}

import type { NextFunction, Request, Response } from 'express';
import type { BaseLogger } from 'pino';
import type { Problem, ProblemDetails } from '@legame/core/contract';
import { problemText } from '@legame/words/problems';
import { UserProblem } from '../problems.ts';
import { statusOf } from './statuses.ts';

/** The most that is taken in one piece, as `app.ts` sets it. */
const largestBodyInBytes = 256 * 1024 * 1024;

/** Every failure of a request as RFC 9457 problem details, in this one place. */
export function answerProblems(log: BaseLogger) {
  return (error: unknown, request: Request, response: Response, next: NextFunction): void => {
    if (response.headersSent) return next(error);
    // Whoever asked went away, and what was broken off for that is nobody's failure.
    if (response.destroyed) return;
    const problem = toProblem(error);
    if (problem.code === 'internal') log.error({ err: error, path: request.path }, 'request failed');
    const { code } = problem;
    const status = statusOf[code];
    const details: ProblemDetails = {
      ...problem,
      type: `urn:legame:problem:${code}`,
      title: code.replaceAll('-', ' '),
      status,
      code,
      detail: problemText(problem),
    };
    response.status(status).type('application/problem+json').json(details);
  };
}

function toProblem(error: unknown): Problem {
  if (error instanceof UserProblem) return error.problem;
  if (isHttpError(error))
    return error.status === 413
      ? { code: 'too-large', limitInBytes: largestBodyInBytes }
      : { code: 'request-not-understood', said: [error.message] };
  // What it was stays in the log: it may say more than a page should know.
  return { code: 'internal', detail: null };
}

function isHttpError(error: unknown): error is { status: number; message: string } {
  const { status, message } = (error ?? {}) as { status?: unknown; message?: unknown };
  return typeof status === 'number' && status >= 400 && status < 500 && typeof message === 'string';
}

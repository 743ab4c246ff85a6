import type { NextFunction, Request, Response } from 'express';
import type { BaseLogger } from 'pino';
import { ZodError } from 'zod';
import { UserProblem } from '../problems.ts';

/** Every failure of a request as RFC 9457 problem details, in this one place. */
export function answerProblems(log: BaseLogger) {
  return (error: unknown, request: Request, response: Response, next: NextFunction): void => {
    if (response.headersSent) return next(error);
    const problem = toProblem(error);
    if (!problem) log.error({ err: error, path: request.path }, 'request failed');
    const { status, code, detail, fields } = problem ?? {
      status: 500,
      code: 'internal',
      detail: 'Legame itself failed at this. Nothing was changed by it; the server log has the details.',
      fields: {},
    };
    response
      .status(status)
      .type('application/problem+json')
      .json({ ...fields, type: `urn:legame:problem:${code}`, title: code.replaceAll('-', ' '), status, code, detail });
  };
}

function toProblem(error: unknown): (Pick<UserProblem, 'status' | 'code' | 'fields'> & { detail: string }) | null {
  if (error instanceof UserProblem)
    return { status: error.status, code: error.code, detail: error.message, fields: error.fields };
  if (error instanceof ZodError) {
    const said = error.issues.slice(0, 5).map((issue) => `${issue.path.join('.') || 'the request'}: ${issue.message}`);
    return {
      status: 400,
      code: 'request-not-understood',
      detail: `This request was not understood. ${said.join('; ')}.`,
      fields: {},
    };
  }
  if (isHttpError(error)) {
    if (error.status === 413)
      return {
        status: 413,
        code: 'too-large',
        detail: 'This document is larger than 256 MB, the most that is taken in one piece.',
        fields: {},
      };
    return {
      status: error.status,
      code: 'request-not-understood',
      detail: `This request was not understood: ${error.message}.`,
      fields: {},
    };
  }
  return null;
}

function isHttpError(error: unknown): error is { status: number; message: string } {
  const { status, message } = (error ?? {}) as { status?: unknown; message?: unknown };
  return typeof status === 'number' && status >= 400 && status < 500 && typeof message === 'string';
}

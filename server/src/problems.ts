import type { Problem, ProblemCode, Wanted } from '@legame/core/contract';

/** Something that went wrong through a user's doing or through storage. Words are made at the edge. */
export class UserProblem extends Error {
  readonly problem: Problem;

  constructor(problem: Problem, cause?: unknown) {
    super(problem.code, { cause });
    this.problem = problem;
  }

  get code(): ProblemCode {
    return this.problem.code;
  }
}

export const notFound = (what: Wanted): UserProblem => new UserProblem({ code: 'not-found', what });

/** What is kept of a failure for people: a problem as it is, or that the fault is Legame's own. */
export const problemFor = (error: unknown): Problem =>
  error instanceof UserProblem
    ? error.problem
    : { code: 'internal', detail: error instanceof Error ? error.message : String(error) };

/**
 * What can go wrong through a user's doing or through storage, by stable code. `status` is the HTTP status; `detail`
 * says what, where, what is allowed and what to do. Anything else that is thrown is a fault of ours.
 */
export type ProblemCode =
  | 'not-found'
  | 'request-not-understood'
  | 'document-not-read'
  | 'rate-needed'
  | 'columns-needed'
  | 'document-known-already'
  | 'project-not-read'
  | 'outside-roots'
  | 'folder-not-there'
  | 'place-known-already'
  | 'place-away'
  | 'target-not-writable'
  | 'target-exists'
  | 'no-room'
  | 'nothing-to-gather'
  | 'nothing-to-undo'
  | 'nothing-to-redo'
  | 'undo-overtaken'
  | 'cause-gone'
  | 'nothing-to-put-back'
  | 'job-not-running'
  | 'picture-not-made'
  | 'nothing-to-try'
  | 'copy-not-possible'
  | 'too-large'
  | 'foreign-origin'
  | 'busy';

export class UserProblem extends Error {
  readonly code: ProblemCode;
  readonly status: number;
  readonly fields: Readonly<Record<string, unknown>>;

  constructor(
    code: ProblemCode,
    status: number,
    detail: string,
    fields: Readonly<Record<string, unknown>> = {},
    cause?: unknown,
  ) {
    super(detail, { cause });
    this.code = code;
    this.status = status;
    this.fields = fields;
  }
}

export const notFound = (what: string): UserProblem =>
  new UserProblem('not-found', 404, `This ${what} is not there (any more). Go back and choose another.`);

import type { Request, Response, Router } from 'express';
import type { z } from 'zod';
import type { ProjectId } from '@legame/core/model';
import { type StampPart, stampsOf } from '../clips/project.ts';
import type { Context } from '../context.ts';
import { UserProblem } from '../problems.ts';
import type { KeptAnswers } from './kept.ts';

type Shape = z.ZodType | undefined;
type Out<S extends Shape> = S extends z.ZodType ? z.output<S> : undefined;

/** One route: what it takes and gives as schemas, from which both its checks and its OpenAPI description come. */
export type Route<
  P extends Shape = Shape,
  Q extends Shape = Shape,
  B extends Shape = Shape,
  A extends Shape = Shape,
> = {
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** Express path under /api, such as /projects/:projectId. */
  readonly path: string;
  readonly summary: string;
  readonly params?: P;
  readonly query?: Q;
  readonly body?: B;
  /** The answer's schema; absent where the answer is a file, a stream or nothing. */
  readonly answer?: A;
  readonly answerType?: string;
  readonly status?: number;
  /** The request body is bytes, not JSON. */
  readonly takesBytes?: boolean;
  /**
   * All that the answer is made of, for a view of the project in the path: where none of it changed, the answer given
   * last is given again. Absent, it is made anew each time.
   */
  readonly restsOn?: readonly StampPart[];
  readonly handle: (
    input: { params: Out<P>; query: Out<Q>; body: Out<B>; bytes: Uint8Array },
    context: Context,
    response: Response,
    request: Request,
  ) => Promise<A extends z.ZodType ? z.input<A> | Json<z.input<A>> : void>;
};

/** An answer that is JSON already. */
export class Json<T> {
  declare readonly of: T;
  readonly text: string;
  constructor(text: string) {
    this.text = text;
  }
}
export const asJson = <T>(text: string): Json<T> => new Json<T>(text);
const jsonOf = (answer: unknown): string => (answer instanceof Json ? answer.text : JSON.stringify(answer));

/** Keeps the types of one route together while it stands in a list of many. */
export function route<
  P extends Shape = undefined,
  Q extends Shape = undefined,
  B extends Shape = undefined,
  A extends Shape = undefined,
>(definition: Route<P, Q, B, A>): Route {
  return definition;
}

/** Mounts routes: parse, call the action, answer. */
export function mount(router: Router, routes: readonly Route[], context: Context, kept: KeptAnswers): void {
  for (const r of routes) {
    router[r.method](r.path, async (request: Request, response: Response) => {
      for (const part of [request.params, request.query, request.body as unknown]) refuseUnsayable(part);
      const input = {
        params: understood(r.params, request.params),
        query: understood(r.query, request.query),
        body: understood(r.body, request.body ?? {}),
        bytes: Buffer.isBuffer(request.body) ? request.body : new Uint8Array(),
      };
      const make = (): Promise<unknown> => r.handle(input, context, response, request);
      if (r.restsOn) {
        const { restsOn } = r;
        const projectId = request.params.projectId as ProjectId;
        const stamp = async () => Object.values(await stampsOf(context.db, projectId, restsOn)).join('/');
        return kept.send(request, response, { stamp, make: async () => jsonOf(await make()) });
      }
      const answer = await make();
      if (response.headersSent) return;
      if (r.answer)
        response
          .status(r.status ?? 200)
          .type('json')
          .send(jsonOf(answer));
      else response.status(r.status ?? 204).end();
    });
  }
}

/** What a request says, by its schema; a problem of whoever asked where it does not fit. */
function understood(schema: z.ZodType | undefined, said: unknown): undefined {
  const read = schema?.safeParse(said);
  if (!read || read.success) return read?.data as undefined;
  const issues = read.error.issues.slice(0, 5);
  throw new UserProblem({
    code: 'request-not-understood',
    said: issues.map((issue) => `${issue.path.join('.') || 'the request'}: ${issue.message}`),
  });
}

/**
 * No name, path or text holds a NUL or half a character: no file system and no database takes one, so it is refused
 * before either is asked. Without recursion, for a request may nest deeper than the stack goes.
 */
function refuseUnsayable(part: unknown): void {
  const left: unknown[] = [part];
  while (left.length > 0) {
    const value = left.pop();
    if (typeof value === 'string') {
      const what = value.includes('\0') ? 'a NUL character' : /\p{Surrogate}/u.test(value) ? 'half a character' : null;
      if (what) throw new UserProblem({ code: 'request-not-understood', said: [`a text in it holds ${what}`] });
    } else if (value !== null && typeof value === 'object' && !Buffer.isBuffer(value))
      for (const [name, inside] of Object.entries(value)) left.push(name, inside);
  }
}

/** Fires when whoever asked goes away before there is an answer. */
export function untilLeft(response: Response): AbortSignal {
  const left = new AbortController();
  response.on('close', () => left.abort());
  return left.signal;
}

import { jest } from '@jest/globals';

export type Asked = {
  readonly method: string;
  readonly url: URL;
  readonly body: string;
  /** Whether the page wants no answer any more. */
  readonly isBrokenOff: () => boolean;
};

/** Stands in for the server in tests of the interface: every request is noted and answered; give it back when done. */
export function standInServer(answer: (asked: Asked) => unknown): { asked: Asked[]; giveBack: () => void } {
  const [realFetch, RealRequest] = [globalThis.fetch, globalThis.Request];
  const asked: Asked[] = [];
  globalThis.fetch = jest.fn(async (input: Parameters<typeof fetch>[0]) => {
    const request = typeof input === 'string' ? new Request(input) : (input as Request);
    const body = request.method === 'GET' ? '' : await request.text();
    const isBrokenOff = () => request.signal.aborted;
    const one = { method: request.method, url: new URL(request.url), body, isBrokenOff };
    asked.push(one);
    const given = await asBlock(one, answer);
    return given instanceof Response ? given : Response.json(given);
  }) as typeof fetch;
  // A browser resolves addresses against its page; there is none here.
  globalThis.Request = class extends RealRequest {
    constructor(input: ConstructorParameters<typeof Request>[0], init?: RequestInit) {
      super(typeof input === 'string' ? new URL(input, 'http://localhost') : input, init);
    }
  } as typeof Request;
  return {
    asked,
    giveBack: () => {
      globalThis.fetch = realFetch;
      globalThis.Request = RealRequest;
    },
  };
}

/** A refusal as the server gives it. */
export const refused = (status: number, code: string, detail: string, fields: object = {}): Response =>
  Response.json({ type: 'x', title: 'x', status, code, detail, ...fields }, { status });

/** A stand-in says all rows of a list at once; here they are cut into blocks, as the server does it. */
async function asBlock(one: Asked, answer: (asked: Asked) => unknown): Promise<unknown> {
  const what = /\/clips\/(block|since)$/.exec(one.url.pathname)?.[1];
  if (!what) return answer(one);
  const url = new URL(one.url);
  url.pathname = url.pathname.slice(0, -what.length - 1);
  const rows = (await answer({ ...one, url })) as unknown[];
  const [from, limit] = [Number(url.searchParams.get('from')), Number(url.searchParams.get('limit'))];
  if (!Array.isArray(rows)) return rows;
  const known = { epoch: rows.length, version: 1, turned: 0, total: rows.length };
  return { ...known, rows: what === 'since' ? rows : rows.slice(from, from + limit) };
}

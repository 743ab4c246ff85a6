import { jest } from '@jest/globals';

export type Asked = { readonly method: string; readonly url: URL; readonly body: string };

/** Stands in for the server in tests of the interface: every request is noted and answered; give it back when done. */
export function standInServer(answer: (asked: Asked) => unknown): { asked: Asked[]; giveBack: () => void } {
  const [realFetch, RealRequest] = [globalThis.fetch, globalThis.Request];
  const asked: Asked[] = [];
  globalThis.fetch = jest.fn(async (input: Parameters<typeof fetch>[0]) => {
    const request = input as Request;
    const body = request.method === 'GET' ? '' : await request.text();
    const one = { method: request.method, url: new URL(request.url), body };
    asked.push(one);
    return Response.json(answer(one));
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

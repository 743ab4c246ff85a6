import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import request from 'supertest';
import type { ProblemDetails } from '@legame/core/contract';
import { openHouse, type House } from '../testing/house.ts';
import { routes } from './routes/index.ts';
import { statusOf } from './statuses.ts';

/** Every route, asked as nobody should: whatever comes, the answer is a problem with a sentence, and never a fault. */
let house: House;
let projectId: string;
beforeAll(async () => {
  house = await openHouse({ worker: false });
  projectId = (
    (await request(house.app).post('/api/projects').set('Host', 'localhost').send({ name: 'Swept' }).expect(201))
      .body as { id: string }
  ).id;
});
afterAll(() => house.close());

const asked = routes.filter((r) => r.path !== '/events');
const fill = (path: string, value: (name: string) => string) =>
  `/api${path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(value(name)))}`;
const send = (method: string, path: string, body?: unknown) => {
  const agent = request(house.app);
  const one = agent[method as 'post'](path).set('Host', 'localhost');
  return body === undefined ? one : one.send(body as object);
};

function expectProblem(answer: { status: number; body: unknown; type: string }, what: string) {
  expect([what, answer.status < 500 || answer.status === 504 || answer.status === 507]).toEqual([what, true]);
  if (answer.status < 400) return;
  const problem = answer.body as ProblemDetails;
  expect([what, answer.type]).toEqual([what, 'application/problem+json']);
  expect([what, problem.code in statusOf]).toEqual([what, true]);
  expect([what, problem.detail]).toEqual([what, expect.stringMatching(/^[A-Z"0-9].*[.]$/s)]);
  expect([what, /\[object|at .*\.ts:\d/.test(problem.detail)]).toEqual([what, false]);
}

// One of the routes deletes it.
beforeEach(async () => {
  await house.db('projects').update({ deleted_at: null });
});

describe('each route', () => {
  test.each(asked.map((r) => [`${r.method.toUpperCase()} ${r.path}`, r] as const))(
    '%s answers what is not there, and what makes no sense, with a problem',
    async (what, { method, path }) => {
      const nobody = await send(
        method,
        fill(path, (name) => (name === 'projectId' ? projectId : randomUUID())),
        {},
      );
      expectProblem(nobody, `${what} nobody`);
      for (const value of ['..', "'; drop table projects; --", '%00', '0', 'x'.repeat(3000)])
        if (path.includes(':'))
          expectProblem(
            await send(
              method,
              fill(path, () => value),
              {},
            ),
            `${what} ${value.slice(0, 30)}`,
          );
    },
  );

  test.each(asked.filter((r) => r.body).map((r) => [`${r.method.toUpperCase()} ${r.path}`, r] as const))(
    '%s refuses bodies that are no request of its own',
    async (what, { method, path }) => {
      const address = fill(path, (name) => (name === 'projectId' ? projectId : randomUUID()));
      const bodies: readonly unknown[] = [
        [],
        { clipIds: 'all' },
        { clipIds: [null] },
        { __proto__: null, constructor: { prototype: { polluted: true } } },
        { links: [{ clipId: '1', mediaFileId: 2 }], name: { toString: 'x' } },
        { path: '\u0000/etc/passwd', targetFolder: '\u0000', name: '\u0000' },
      ];
      for (const [i, body] of bodies.entries()) expectProblem(await send(method, address, body), `${what} body ${i}`);
      const broken = await send(method, address).set('Content-Type', 'application/json').send('{"a": ');
      expect([what, broken.status]).toEqual([what, 400]);
      expectProblem(broken, `${what} broken`);
      expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
    },
  );
});

test.each(asked.filter((r) => r.query).map((r) => [`${r.method.toUpperCase()} ${r.path}`, r] as const))(
  '%s refuses queries that are none of its own',
  async (what, { method, path }) => {
    const address = fill(path, (name) => (name === 'projectId' ? projectId : randomUUID()));
    for (const value of ['%00', '-1', '[]', '{"a":', 'x'.repeat(10_000), '..%2F..%2Fetc'])
      for (const name of ['text', 'folder', 'path', 'limit', 'reading', 'headers', 'handles', 'name', 'roots', 'frame'])
        expectProblem(await send(method, `${address}?${name}=${value}`), `${what} ?${name}=${value.slice(0, 20)}`);
  },
);

test('a body that nests deeper than any stack is no fault', async () => {
  const deep = `{"name": ${'['.repeat(200_000)}${']'.repeat(200_000)}}`;
  const answer = await send('post', '/api/projects').set('Content-Type', 'application/json').send(deep);
  expect([answer.status, (answer.body as ProblemDetails).code]).toEqual([400, 'request-not-understood']);
});

test('an address that is none says so, as a problem', async () => {
  const answer = await send('get', '/api/nothing/here');
  expect([answer.status, (answer.body as ProblemDetails).code]).toEqual([404, 'not-found']);
});

import { beforeEach, expect, test } from '@jest/globals';
import express, { type NextFunction, type Request, type Response } from 'express';
import request from 'supertest';
import { KeptAnswers } from './kept.ts';

const large = 'salt '.repeat(2000);
let stamp: string;
let made: number;
let kept: KeptAnswers;
/** What making waits for, and what comes of it. */
let make: () => Promise<string>;
const app = express()
  .get('/view', (asked, answer) =>
    kept.send(asked, answer, {
      stamp: () => Promise.resolve(stamp),
      make: () => {
        made += 1;
        return make();
      },
    }),
  )
  .use((error: Error, _: Request, answer: Response, __: NextFunction) => void answer.status(500).send(error.message));
const ask = (headers: Record<string, string> = {}, path = '/view') => request(app).get(path).set(headers);

beforeEach(() => {
  stamp = 'as it was';
  made = 0;
  kept = new KeptAnswers();
  make = () => Promise.resolve(JSON.stringify({ made, large }));
});

test('it is made once for all who ask at once, and for those who ask later while nothing changed', async () => {
  let go = () => {};
  make = () => new Promise((resolve) => (go = () => resolve('{"large":1}')));
  const asked = Array.from({ length: 5 }, () => ask().then(({ body }) => body as unknown));
  while (made === 0) await new Promise((resolve) => setTimeout(resolve, 5));
  await new Promise((resolve) => setTimeout(resolve, 50));
  go();
  expect(await Promise.all(asked)).toEqual(Array.from({ length: 5 }, () => ({ large: 1 })));
  await ask();
  expect(made).toBe(1);
});

test('who has it is told so; after a change it is made anew, and another address is another answer', async () => {
  const first = await ask().expect(200);
  const tag = first.headers.etag!;
  await ask({ 'if-none-match': tag, 'cache-control': 'max-age=0' }).expect(304);
  stamp = 'otherwise';
  const second = await ask({ 'if-none-match': tag, 'cache-control': 'max-age=0' }).expect(200);
  expect(second.body).toMatchObject({ made: 2 });
  expect((await ask({}, '/view?since=4').expect(200)).body).toMatchObject({ made: 3 });
  // Another Legame does not know what this one told.
  kept = new KeptAnswers();
  await ask({ 'if-none-match': second.headers.etag! }).expect(200);
});

test('what changes while it is made is not passed off as what was asked for after', async () => {
  let go = () => {};
  make = () => new Promise((resolve) => (go = () => resolve('"before"')));
  const before = ask().then(({ body }) => body as unknown);
  while (made === 0) await new Promise((resolve) => setTimeout(resolve, 5));
  stamp = 'otherwise';
  make = () => Promise.resolve('"after"');
  expect((await ask()).body).toBe('after');
  go();
  expect(await before).toBe('before');
  expect((await ask()).body).toBe('after');
  expect(made).toBe(2);
});

test('a failure reaches all who waited, bears no tag, and is not kept', async () => {
  make = () => Promise.reject(new Error('The database is away.'));
  const answer = await ask().expect(500);
  expect(answer.text).toBe('The database is away.');
  make = () => Promise.resolve('"there"');
  const there = await ask().expect(200);
  expect(there.body).toBe('there');
  expect(answer.headers.etag).not.toBe(there.headers.etag);
});

test('large ones go packed to those who take that, and as they are to others', async () => {
  const packed = await ask({ 'accept-encoding': 'gzip' }).expect(200);
  expect(packed.headers['content-encoding']).toBe('gzip');
  expect(Number(packed.headers['content-length'])).toBeLessThan(large.length / 10);
  const plain = await ask({ 'accept-encoding': 'identity' }).expect(200);
  expect(plain.headers['content-encoding']).toBeUndefined();
  expect(plain.body).toEqual(packed.body);
  expect(plain.headers.vary).toContain('Accept-Encoding');
  expect(made).toBe(1);
});

test('more than has room is let go, and made anew when it is asked for', async () => {
  kept = new KeptAnswers(60_000);
  // Random text does not pack well.
  make = () => Promise.resolve(JSON.stringify(Array.from({ length: 1000 }, () => Math.random().toString(36))));
  for (let n = 0; n < 20; n += 1) await ask({}, `/view?n=${n}`);
  await ask({}, '/view?n=19');
  expect(made).toBe(20);
  await ask({}, '/view?n=0');
  expect(made).toBe(21);
});

import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { once } from 'node:events';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import request from 'supertest';
import { makeApp } from './app.ts';
import { openHouse, type House } from '../testing/house.ts';

let house: House;
let app: ReturnType<typeof makeApp>;
const token = 'a-token-of-the-tests-own';
beforeAll(async () => {
  house = await openHouse({ worker: false });
  const webFolder = join(house.folder, 'web');
  mkdirSync(webFolder);
  writeFileSync(join(webFolder, 'index.html'), '<title>page</title>');
  const config = { ...house.config, webFolder };
  app = makeApp({ ...house, config }, { attach: (_, response) => Promise.resolve(void response.end()) }, { token });
});
afterAll(() => house.close());
const get = (path: string) => request(app).get(path).set('Host', 'localhost');

test('the interface answers this user’s programs, and nobody else', async () => {
  for (const path of ['/api/projects', '/api/events', '/api/openapi.json', '/api/nothing']) {
    const refused = await get(path).expect(401);
    expect(refused.body).toMatchObject({ code: 'no-session' });
  }
  await get('/api/projects').set('Authorization', 'Bearer wrong').expect(401);
  await get('/api/projects').set('Authorization', `Bearer ${token}x`).expect(401);
  await get('/api/projects').set('Authorization', `Bearer ${token}`).expect(200);
  await request(app).post('/api/projects').set('Host', 'localhost').send({ name: 'x' }).expect(401);
});

test('the page that Legame serves gets a cookie that no other site can use and no script can read', async () => {
  const server = app.listen(0, '127.0.0.1');
  await once(server, 'listening');
  try {
    const page = await request(server).get('/projects/1').set('Host', 'localhost').expect(200);
    const [cookie] = page.get('Set-Cookie') ?? [];
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/SameSite=Strict/);
    const shown = cookie!.split(';')[0]!;
    const ask = (text: string) =>
      request(server).get('/api/projects').set('Host', 'localhost').set('Cookie', `other=1; ${text}`);
    await ask(shown).expect(200);
    await ask(shown.replace(token, 'another')).expect(401);
  } finally {
    server.close();
  }
});

test('whoever shows the token in the address is let in, and the address forgets it', async () => {
  const answer = await get(`/ledger?key=${token}`).expect(302);
  expect(answer.headers.location).toBe('/ledger');
  expect(answer.get('Set-Cookie')?.[0]).toContain(token);
  expect((await get(`//elsewhere.example?key=${token}`)).headers.location).toBe('/elsewhere.example');
});

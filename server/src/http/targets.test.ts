import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Handoff, HandoffLayout, HandoffPreview, SetCheck } from '@legame/core/contract';
import { clientOf } from '../testing/client.ts';
import { openHouse, type House } from '../testing/house.ts';
import { kilnIn } from '../testing/kiln.ts';

/** One handoff onto two drives at once, and what may befall either. */
let house: House;
let projectId: string;
const { get, post } = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);

beforeEach(async () => {
  house = await openHouse();
  ({ projectId } = await kilnIn(house));
  for (const drive of ['OUT', 'SHUTTLE']) mkdirSync(at(drive), { recursive: true });
  await post(`/projects/${projectId}/links/certain`);
}, 120_000);
afterEach(() => house.close());

async function plan(name: string, more: object = {}): Promise<Handoff> {
  const asked = { targetFolder: at('OUT'), secondFolder: at('SHUTTLE'), name, ...more };
  return (await post(`/projects/${projectId}/handoffs`, asked).expect(201)).body as Handoff;
}
async function run({ id }: Handoff): Promise<Handoff> {
  await post(`/handoffs/${id}/run`).expect(202);
  await house.idle();
  return get<Handoff>(`/handoffs/${id}`);
}
const filesIn = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((name) => statSync(join(folder, name)).isFile())
    .sort();
/** All but what says when it was written there. */
const contentOf = (folder: string) =>
  filesIn(folder)
    .filter((name) => !name.startsWith('ascmhl/'))
    .map((name) => [name, readFileSync(join(folder, name)).toString('base64')]);

test.each([
  ['folder', { picture: 'whole' }],
  ['folder', { picture: 'trim', handlesInFrames: 1 }],
  ['folder', { picture: 'transcode', coding: 'h264', handlesInFrames: 1 }],
  ['otioz', { picture: 'trim', handlesInFrames: 1 }],
] as const)(
  'both hold the same and prove it, each by itself (%s, %j)',
  async (layout: HandoffLayout, choices) => {
    const planned = await plan('both', { layout, choices });
    expect(planned.plan.targets.map((t) => [t.folder, t.room.fits])).toEqual([
      [at('OUT/both'), true],
      [at('SHUTTLE/both'), true],
    ]);
    expect(await run(planned)).toMatchObject({ state: 'done', problem: null });
    // The next onto these drives is told how long it takes, by what this one took.
    const asked = { targetFolder: at('OUT'), secondFolder: at('SHUTTLE'), choices };
    const { body } = await post(`/projects/${projectId}/handoffs/preview`, asked).expect(200);
    const told = (body as HandoffPreview).targets.map((t) => t.seconds);
    expect([planned.plan.targets.map((t) => t.seconds), told]).toEqual([
      [null, null],
      [expect.any(Number), expect.any(Number)],
    ]);
    expect(Math.min(...(told as number[]))).toBeGreaterThan(0);
    expect(contentOf(at('SHUTTLE/both'))).toEqual(contentOf(at('OUT/both')));
    expect(contentOf(at('OUT/both')).length).toBeGreaterThan(2);
    for (const drive of ['OUT', 'SHUTTLE']) {
      const { id } = (await post('/set-checks', { folder: at(drive, 'both') }).expect(201)).body as SetCheck;
      await house.idle();
      const { counts, handoff } = await get<SetCheck>(`/set-checks/${id}`);
      const found = Object.entries(counts).flatMap(([state, { files }]) => (files > 0 ? [state] : []));
      expect([found, handoff?.id]).toEqual([['verified'], layout === 'otioz' ? undefined : planned.id]);
    }
  },
  120_000,
);

test('what was finished on one drive is not read from its source again, which may be away by then', async () => {
  const planned = await plan('again');
  expect(await run(planned)).toMatchObject({ state: 'done' });
  const kept = contentOf(at('OUT/again'));
  rmSync(at('SHUTTLE/again/media'), { recursive: true });
  mkdirSync(at('SHUTTLE/again/media'));
  await house.db('handoffs').update({ state: 'failed' });
  renameSync(at('KILN'), at('KILN unplugged'));
  expect(await run(planned)).toMatchObject({ state: 'done', problem: null });
  expect(contentOf(at('SHUTTLE/again'))).toEqual(kept);
});

test('a file of somebody’s that lies on the second stays, is said, and the first is as it was', async () => {
  const planned = await plan('theirs');
  await run(planned);
  const [film] = readdirSync(at('SHUTTLE/theirs/media'));
  await house.db('handoffs').update({ state: 'failed' });
  await house.db('handoff_files').update({ state: 'waiting' });
  writeFileSync(at('SHUTTLE/theirs/media', film!), 'theirs');
  const stopped = await run(planned);
  expect(stopped.state).toBe('failed');
  expect(stopped.copied.filter((f) => f.state === 'failed').map((f) => f.problem)).toEqual([
    { code: 'target-exists', path: at('SHUTTLE/theirs/media', film!), when: 'copied' },
  ]);
  expect(readFileSync(at('SHUTTLE/theirs/media', film!), 'utf8')).toBe('theirs');
  expect(readFileSync(at('OUT/theirs/media', film!)).length).toBeGreaterThan(100);
});

test('a second drive that is another by then, or away, gets nothing, and goes on when it is back', async () => {
  const planned = await plan('away');
  renameSync(at('SHUTTLE'), at('SHUTTLE away'));
  mkdirSync(at('SHUTTLE'));
  expect(await run(planned)).toMatchObject({ state: 'failed', problem: { code: 'another-folder-there' } });
  expect(readdirSync(at('SHUTTLE'))).toEqual([]);
  rmSync(at('SHUTTLE'), { recursive: true });
  expect((await post(`/handoffs/${planned.id}/run`)).status).toBeGreaterThanOrEqual(400);
  renameSync(at('SHUTTLE away'), at('SHUTTLE'));
  expect(await run(planned)).toMatchObject({ state: 'done' });
  expect(contentOf(at('SHUTTLE/away'))).toEqual(contentOf(at('OUT/away')));
});

test('one folder twice is refused, and so is a folder that another handoff writes into', async () => {
  const twice = { targetFolder: at('OUT'), secondFolder: at('OUT'), name: 'twice' };
  expect((await post(`/projects/${projectId}/handoffs`, twice).expect(400)).body).toMatchObject({
    code: 'targets-alike',
  });
  const first = await plan('claimed');
  await house.db('handoffs').where({ id: first.id }).update({ state: 'failed' });
  const other = { targetFolder: at('SHUTTLE'), name: 'claimed' };
  expect((await post(`/projects/${projectId}/handoffs`, other)).body).toMatchObject({ code: 'folder-claimed' });
  expect(existsSync(at('SHUTTLE/claimed'))).toBe(false);
});

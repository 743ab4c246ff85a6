import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Handoff, HandoffPreview, SetCheck } from '@legame/core/contract';
import { c4Of } from '@legame/core/mhl';
import { clientOf } from '../testing/client.ts';
import { pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { kilnIn } from '../testing/kiln.ts';
import { makeFilm } from '../testing/media.ts';

/** What goes with the media of a handoff: sidecars, shot logs, bins, and hashes that receivers ask for. */
let house: House;
let projectId: string;
const { api, get, post, send, bring, rows, row, index } = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);

const log = 'Name;In;Out\nspare.mov;04:00:00:00;04:00:01:00\n';
beforeAll(async () => {
  house = await openHouse();
  const made = await kilnIn(house);
  ({ projectId } = made);
  writeFileSync(at('KILN/day1/bowl.xml'), '<?xml version="1.0"?><camera lens="35"/>');
  writeFileSync(at('KILN/day1/Bowl.mov.txt'), 'focus is soft at the end\n');
  writeFileSync(at('KILN/day1/bowls.txt'), 'of another one\n');
  // Media that does not come, and its sidecar, which is none of what does.
  makeFilm(at('KILN/day1/bowl.v2.mov'), { timecode: '07:00:00:00' });
  writeFileSync(at('KILN/day1/bowl.v2.xml'), '<camera lens="50"/>');
  writeFileSync(at('KILN/day2/spare.txt'), 'the second furnace\n');
  await index(made.kiln);
  const columns = ['name', 'start', 'end'];
  await bring(projectId, log, 'day2.csv', { reading: { ...pal, columns } }).expect(201);
  await post(`/projects/${projectId}/links/certain`);
  const spare = await row(projectId, 'spare.mov');
  if (!spare.tied)
    await post(`/projects/${projectId}/links`, {
      by: 'hand',
      links: [
        { clipId: spare.id, mediaFileId: (await house.db('media_files').where({ name: 'spare.mov' }).first('id')).id },
      ],
    }).expect(200);
  await post(`/projects/${projectId}/bins/file`, { clipIds: [spare.id], bin: ['selects', 'furnace'] }).expect(200);
  await house.idle();
}, 120_000);
afterAll(() => house.close());

async function handOff(name: string, more: object): Promise<Handoff> {
  mkdirSync(at('OUT'), { recursive: true });
  const planned = await post(`/projects/${projectId}/handoffs`, { targetFolder: at('OUT'), name, ...more }).expect(201);
  const { id } = planned.body as Handoff;
  await post(`/handoffs/${id}/run`).expect(202);
  await house.idle();
  const done = await get<Handoff>(`/handoffs/${id}`);
  expect([done.state, done.problem]).toEqual(['done', null]);
  return done;
}
const filesIn = (folder: string) => readdirSync(folder, { recursive: true, encoding: 'utf8' });
const timelines = async () =>
  (await get<{ id: string; timelines: { key: string }[] }[]>(`/projects/${projectId}/documents`)).flatMap((d) =>
    d.timelines.map((t) => `${d.id}/${t.key}`),
  );

test('nothing goes along that was not asked for', async () => {
  const done = await handOff('plain', { timelines: await timelines() });
  expect(filesIn(join(done.folder, 'media')).sort()).toEqual(['bowl.mov', 'door.mov', 'pipe.mov']);
  expect(existsSync(join(done.folder, 'originals/day2.csv'))).toBe(false);
  expect(
    readFileSync(
      join(
        done.folder,
        'ascmhl',
        filesIn(join(done.folder, 'ascmhl')).find((n) => n.endsWith('.mhl'))!,
      ),
      'utf8',
    ),
  ).not.toMatch(/md5|sha1|<c4 action/);
});

test.each(['folder', 'otiod', 'otioz'])(
  'sidecars lie beside their recordings under their names, logs as they came in, and every hash is right (%s)',
  async (layout) => {
    const choices = {
      picture: 'trim',
      handlesInFrames: 0,
      sidecars: true,
      logs: true,
      alsoHashed: ['md5', 'sha1', 'c4'],
    };
    const done = await handOff(`along ${layout}`, { layout, choices, timelines: await timelines() });
    const bowl = done.plan.recordings.find((r) => r.source === 'day1/bowl.mov')!;
    const part = bowl.outs[0]!.target.replace(/\.mov$/, '');
    expect(bowl.sidecars.map((s) => s.target).sort()).toEqual([`${part}.mov.txt`, `${part}.xml`]);
    expect(done.plan.sizeInBytes - done.plan.recordings.reduce((sum, r) => sum + r.sizeInBytes, 0)).toBe(
      bowl.sidecars.reduce((sum, s) => sum + s.sizeInBytes, 0),
    );
    if (layout !== 'otioz') expect(readFileSync(join(done.folder, `${part}.xml`), 'utf8')).toContain('lens="35"');
    expect(readFileSync(join(done.folder, 'originals/day2.csv'), 'utf8')).toBe(log);
    expect(readFileSync(join(done.folder, 'report.csv'), 'utf8')).toContain(`${part}.xml`);

    // Each file of the list is hashed here anew, by other means than those that wrote it.
    const name = readdirSync(join(done.folder, 'ascmhl')).find((n) => n.endsWith('.mhl'))!;
    const list = readFileSync(join(done.folder, 'ascmhl', name), 'utf8');
    const listed = [...list.matchAll(/<hash>\s*<path[^>]*>([^<]*)<\/path>([\s\S]*?)<\/hash>/g)];
    expect(listed.length).toBeGreaterThan(layout === 'otioz' ? 3 : 7);
    for (const [, path, hashes] of listed) {
      const bytes = readFileSync(join(done.folder, path!.replaceAll('&amp;', '&')));
      const of = (algorithm: string) => createHash(algorithm).update(bytes);
      expect([path, hashes]).toEqual([path, expect.stringContaining(`>${of('md5').digest('hex')}</md5>`)]);
      expect(hashes).toContain(`>${of('sha1').digest('hex')}</sha1>`);
      expect(hashes).toContain(`>${c4Of(of('sha512').digest())}</c4>`);
    }
    const { id } = (await post('/set-checks', { folder: done.folder }).expect(201)).body as SetCheck;
    await house.idle();
    const { counts } = await get<SetCheck>(`/set-checks/${id}`);
    expect(Object.entries(counts).flatMap(([state, { files }]) => (files > 0 ? [state] : []))).toEqual(['verified']);
  },
  120_000,
);

test('all of a bin comes, whole where no timeline shows it, and a damaged sidecar is refused like any file', async () => {
  const asked = { timelines: await timelines(), choices: { picture: 'trim', handlesInFrames: 0, sidecars: true } };
  const preview = async (more: object) =>
    (await post(`/projects/${projectId}/handoffs/preview`, { ...asked, ...more }).expect(200)).body as HandoffPreview;
  const sources = ({ recordings }: HandoffPreview) => recordings.map((r) => r.source.split('/').at(-1));
  expect(sources(await preview({}))).not.toContain('spare.mov');
  expect(sources(await preview({ bins: [['selects', 'pots']] }))).not.toContain('spare.mov');
  for (const bin of [['selects'], ['selects', 'furnace'], []]) {
    const spare = (await preview({ bins: [bin] })).recordings.find((r) => r.source === 'day2/spare.mov');
    expect(spare).toMatchObject({ wholeBecause: 'not-used', outs: [{ target: 'media/spare.mov', range: null }] });
    expect(spare!.sidecars).toMatchObject([{ target: 'media/spare.txt' }]);
  }
  // A bin beside chosen clips adds to them.
  const [bowl] = (await rows(projectId)).filter((r) => r.name === 'bowl.mov');
  expect(sources(await preview({ clips: [bowl!.id], bins: [['selects']] })).sort()).toEqual(['bowl.mov', 'spare.mov']);

  const planned = (
    await post(`/projects/${projectId}/handoffs`, { ...asked, targetFolder: at('OUT'), name: 'changed' }).expect(201)
  ).body as Handoff;
  writeFileSync(at('KILN/day1/bowl.xml'), 'somebody wrote here since');
  await post(`/handoffs/${planned.id}/run`).expect(202);
  await house.idle();
  const stopped = await get<Handoff>(`/handoffs/${planned.id}`);
  expect(stopped.problem).toMatchObject({ code: 'files-not-copied', failed: 1, first: { code: 'source-changed' } });
  expect(readFileSync(join(stopped.folder, 'cut.edl'), 'utf8')).toContain('media/bowl');
}, 120_000);

test.each(['whole', 'trim'] as const)(
  'the project goes along, and opens elsewhere with every clip tied into the set (%s)',
  async (picture) => {
    const choices = { picture, handlesInFrames: 0, archive: true };
    const done = await handOff(`archive ${picture}`, { choices });
    const before = (await rows(projectId)).filter((r) => r.tied);
    expect(before.length).toBeGreaterThan(2);
    const [name] = readdirSync(join(done.folder, 'project'));
    const packed = readFileSync(join(done.folder, 'project', name!));
    const { id: place } = (await post('/places', { path: done.folder }).expect(201)).body as { id: string };
    await house.idle();
    const { body } = await api()
      .post(`/api/projects/import?name=${encodeURIComponent(name!)}`)
      .set('Host', 'localhost')
      .type('application/octet-stream')
      .send(packed)
      .expect(201);
    const opened = (body as { id: string }).id;
    await house.idle();
    const after = await rows(opened);
    const told = (some: typeof after) => some.map((r) => [r.name, r.bin.join('/')]).sort();
    expect(told(after)).toEqual(told(await rows(projectId)));
    const inSet = new Map(done.plan.recordings.map((r) => [r.mediaFileId, r.outs.length]));
    for (const was of before) {
      const is = after.find((r) => r.name === was.name)!;
      if (inSet.get(was.tied!.mediaFileId) !== 1) continue;
      expect([is.name, is.status.status, is.tied?.placeName]).toEqual([was.name, 'linked', `archive ${picture}`]);
    }
    await send('delete', `/projects/${opened}`).expect(204);
    await send('delete', `/places/${place}`).expect(204);
  },
  120_000,
);

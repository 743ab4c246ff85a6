import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Causes, ClipDetail, DocumentView, Handoff, ProblemDetails, ProjectSummary } from '@legame/core/contract';
import { readDocument } from '@legame/core/formats';
import { clientOf } from '../testing/client.ts';
import { cutOf, event, makeList, span } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { threeFilmsIn } from '../testing/kiln.ts';
import { makeFilm } from '../testing/media.ts';

let house: House;
let projectId: string;
let bay: string;
const { api, get, post, newProject, bring: bringInto, rows: rowsOf } = clientOf(() => house);
const bring = (content: string | Uint8Array, name: string, said: object = {}, into = projectId) =>
  bringInto(into, content, name, said);
const rows = (of = projectId) => rowsOf(of);
const download = async (path: string) => {
  const answer = await api()
    .get(`/api${path}`)
    .set('Host', 'localhost')
    .buffer(true)
    .parse((res, done) => {
      const parts: Buffer[] = [];
      res.on('data', (part: Buffer) => parts.push(part));
      res.on('end', () => done(null, Buffer.concat(parts)));
    });
  if (answer.status !== 200) throw new Error(`${path}: ${answer.status} ${String(answer.body)}`);
  return { text: (answer.body as Buffer).toString('utf8'), headers: answer.headers as Record<string, string> };
};

beforeAll(async () => {
  house = await openHouse();
  ({ projectId, bay } = await threeFilmsIn(house));
  const list = makeList([event('bowl.mov', '01:00:00:10', '01:00:01:05'), event('ember.mov'), event('gone.mov')]);
  await bring(list, 'reel v4.edl', { reading: { rate: { num: 25, den: 1 } } }).expect(201);
  await house.idle();
  const [bowl] = await rows();
  await post(`/projects/${projectId}/links`, {
    by: 'hand',
    links: [{ clipId: bowl!.id, mediaFileId: bowl!.candidate!.mediaFileId }],
  }).expect(200);
  const gone = (await rows()).find((r) => r.name === 'gone.mov')!;
  await post(`/projects/${projectId}/set-aside`, {
    clipIds: [gone.id],
    as: 'waived',
    reason: 'lost in the fire',
  }).expect(200);
  // A cut that lies beside its media, with relative references.
  mkdirSync(join(bay, 'cuts'), { recursive: true });
  writeFileSync(join(bay, 'cuts/cut.otio'), cutOf('../moved/bowl.mov', 'nowhere.mov'));
  const [place] = await get<{ id: string }[]>('/places');
  const relative = await newProject('Relative');
  await post(`/projects/${relative}/documents/from-place`, { placeId: place!.id, path: 'cuts/cut.otio' }).expect(201);
  await house.idle();
}, 120_000);
afterAll(() => house.close());

describe('ways out', () => {
  const documentOf = async (name: string, of = projectId) =>
    (await get<DocumentView[]>(`/projects/${of}/documents`)).find((d) => d.name === name)!;

  test('references are absolute, relative to a folder, or under the receiver’s roots; reels if asked for', async () => {
    const document = await documentOf('reel v4.edl');
    const places = await get<{ id: string }[]>('/places');
    const exported = (query: string) => download(`/documents/${document.id}/export?${query}`);
    const whole = await exported('');
    expect(whole.text).toContain(`* SOURCE FILE: ${join(bay, 'moved/bowl.mov')}`);
    expect(whole.headers).toMatchObject({ 'legame-relinked': '1', 'legame-reencoded': 'false' });
    const near = await exported(`paths=relative&folder=${encodeURIComponent(join(bay, 'cuts'))}`);
    expect(near.text).toContain('* SOURCE FILE: ../moved/bowl.mov');
    const roots = encodeURIComponent(JSON.stringify({ [places[0]!.id]: 'S:\\Saltglass' }));
    expect((await exported(`paths=place-roots&roots=${roots}`)).text).toContain(
      '* SOURCE FILE: S:/Saltglass/moved/bowl.mov',
    );
    expect((await exported('paths=place-roots')).text).toContain('* SOURCE FILE: /Volumes/KILN/moved/bowl.mov');
    const refused = await api()
      .get(`/api/documents/${document.id}/export?paths=relative`)
      .set('Host', 'localhost')
      .expect(400);
    expect((refused.body as ProblemDetails).detail).toMatch(/folder in which the document will lie/);
  });

  test('a timeline of OTIO goes out as an EDL of one track', async () => {
    const project = (await get<{ id: string; name: string }[]>('/projects')).find((p) => p.name === 'Relative')!;
    const document = await documentOf('cut.otio', project.id);
    expect(document.timelines[0]).toMatchObject({ key: 'timeline-1', tracks: ['V1'] });
    const { text, headers } = await download(
      `/documents/${document.id}/export?format=edl&timeline=timeline-1&track=V1`,
    );
    expect(headers['content-disposition']).toContain('cut_V1.edl');
    expect(text).toContain('001  AX       V     C        01:00:00:05 01:00:01:00 00:00:00:00 00:00:00:20');
    expect(text).toContain(`* SOURCE FILE: ${join(bay, 'moved/bowl.mov')}`);
  });

  test('used media and the pull list as CSV and EDL', async () => {
    const used = (await download(`/projects/${projectId}/used-media.csv`)).text;
    expect(used.split('\r\n')[1]).toMatch(
      /^bowl\.mov,linked,A001,bowl\.mov,\/Volumes\/KILN\/day1\/bowl\.mov,KILN\/moved\/bowl\.mov,\d+,1,01:00:00:10,01:00:01:05,20,25$/,
    );
    const pull = (await download(`/projects/${projectId}/pull-list.csv?handles=5&of=used`)).text;
    expect(pull).toContain('A001,ember.mov,ember.mov,01:00:00:00,01:00:01:10,00:00:01:10,35,25');
    const list = (await download(`/projects/${projectId}/pull-list.edl?of=dark`)).text;
    expect(list).toContain('001  A001     V     C        01:00:00:05 01:00:01:05 01:00:00:00 01:00:01:00');
  });

  test('a whole project goes out as one collection and opens as it was, links and waivers included', async () => {
    const { text } = await download(`/projects/${projectId}/export`);
    expect(readDocument(new TextEncoder().encode(text), { name: 'x.otio' })).toMatchObject({
      format: 'otio',
      result: { ok: true },
    });
    const imported = await api()
      .post('/api/projects/import')
      .set('Host', 'localhost')
      .query({ name: 'Saltglass.otio' })
      .type('application/octet-stream')
      .send(Buffer.from(text))
      .expect(201);
    const { id } = imported.body as { id: string };
    await house.idle();
    const told = async (of: string) =>
      (await rows(of)).map((r) => [r.name, r.status, r.tied && [r.tied.mediaFileId, r.tied.by], r.uses]);
    expect(await told(id)).toEqual(await told(projectId));
    const [mine, theirs] = await Promise.all([documentOf('reel v4.edl'), documentOf('reel v4.edl', id)]);
    expect((await download(`/documents/${theirs.id}/export`)).text).toBe(
      (await download(`/documents/${mine.id}/export`)).text,
    );
    const refused = await api()
      .post('/api/projects/import')
      .set('Host', 'localhost')
      .query({ name: 'cut.otio' })
      .type('application/octet-stream')
      .send(Buffer.from(cutOf('a.mov')))
      .expect(422);
    expect((refused.body as ProblemDetails).detail).toMatch(/no project of Legame/);
  });

  test('links of a project wait for a place that is not there yet, and are tied when it is indexed', async () => {
    const { text } = await download(`/projects/${projectId}/export`);
    const elsewhere = text.replaceAll('"name":"KILN","knownAs":[]', '"name":"FURNACE","knownAs":[]');
    expect(elsewhere).not.toBe(text);
    const { body } = await api()
      .post('/api/projects/import')
      .set('Host', 'localhost')
      .query({ name: 'x.otio' })
      .type('application/octet-stream')
      .send(Buffer.from(elsewhere))
      .expect(201);
    const { id } = body as { id: string };
    await house.idle();
    const bowl = async () => (await rows(id)).find((r) => r.name === 'bowl.mov')!;
    expect((await bowl()).tied).toBeNull();
    makeFilm(join(house.folder, 'FURNACE/moved/bowl.mov'));
    await post('/places', { path: join(house.folder, 'FURNACE') }).expect(201);
    await house.idle();
    expect((await bowl()).tied).toMatchObject({ placeName: 'FURNACE', by: 'hand' });
  });

  test('a clip tells every use with the way through the nests', async () => {
    const project = await newProject('Nests');
    const nest = JSON.parse(cutOf('bowl.mov')) as { tracks: object };
    const cut = JSON.parse(cutOf('door.mov')) as { tracks: { children: { children: object[] }[] } };
    cut.tracks.children[0]!.children.push({ ...nest.tracks, name: 'dream', source_range: span(5, 10) });
    await bring(JSON.stringify(cut), 'nested.otio', {}, project).expect(201);
    const bowl = (await rows(project)).find((r) => r.name === 'bowl.mov')!;
    expect(bowl).toMatchObject({ uses: 1, usedSeconds: 0.4 });
    const { usesInFull } = await get<ClipDetail>(`/clips/${bowl.id}`);
    expect(usesInFull).toMatchObject([
      {
        timeline: 'cut',
        record: { start: 20, end: 30 },
        source: { start: 90_010, end: 90_020 },
        steps: [
          { timeline: 'cut', event: { number: 2 } },
          { timeline: 'dream', event: { number: 1 } },
        ],
      },
    ]);
  });

  test('a handoff takes of a nest what its window shows, and nothing that it trims away', async () => {
    const project = await newProject('Trimmed nest');
    const nest = JSON.parse(cutOf('/Volumes/KILN/day1/bowl.mov', '/Volumes/KILN/day1/door.mov')) as { tracks: object };
    const cut = JSON.parse(cutOf()) as { tracks: { children: { children: object[] }[] } };
    // Each clip of the nest shows twenty frames: of the second nothing is seen.
    cut.tracks.children[0]!.children.push({ ...nest.tracks, name: 'dream', source_range: span(5, 10) });
    await bring(JSON.stringify(cut), 'nested.otio', {}, project).expect(201);
    await house.idle();
    expect((await rows(project)).map((r) => [r.name, r.uses])).toEqual([
      ['bowl.mov', 1],
      ['door.mov', 0],
    ]);
    // Nobody is asked to find what nobody sees: it is dark nowhere.
    expect((await rows(project)).map((r) => r.status.status)).toEqual(['missing', 'unshown']);
    const { toDo } = await get<ProjectSummary>(`/projects/${project}`);
    expect(toDo).toBe(1);
    const { causes, dark } = await get<Causes>(`/projects/${project}/causes`);
    expect([dark, causes.flatMap((c) => c.clipIds)]).toEqual([1, [(await rows(project))[0]!.id]]);
    const both = (await rows(project)).map((r) => ({ clipId: r.id, mediaFileId: r.candidate!.mediaFileId }));
    await post(`/projects/${project}/links`, { by: 'hand', links: both }).expect(200);
    mkdirSync(join(house.folder, 'OUT'), { recursive: true });
    const handoff = { targetFolder: join(house.folder, 'OUT'), name: 'nested' };
    const { plan } = (await post(`/projects/${project}/handoffs`, handoff).expect(201)).body as Handoff;
    expect([...plan.recordings.map((r) => r.source), ...plan.leftOut.map((l) => l.clipName)]).toEqual([
      expect.stringMatching(/bowl\.mov$/),
    ]);
  });
});

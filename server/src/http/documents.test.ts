import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Uint8ArrayReader, Uint8ArrayWriter, ZipReader, ZipWriter } from '@zip.js/zip.js';
import type { Comparison, DocumentView, Handoff, ProblemDetails } from '@legame/core/contract';
import { readDocument } from '@legame/core/formats';
import { isDark } from '@legame/core/state';
import { clientOf } from '../testing/client.ts';
import { cutOf, event, makeList, pal } from '../testing/edits.ts';
import { xxh64Of } from '../media/hashing.ts';
import { listedIn } from '../testing/set.ts';
import { openHouse, type House } from '../testing/house.ts';
import { threeFilmsIn } from '../testing/kiln.ts';

let house: House;
let projectId: string;
let bay: string;
const { api, get, post, newProject, bring: bringInto, rows: rowsOf } = clientOf(() => house);
const bring = (content: string | Uint8Array, name: string, said: object = {}, into = projectId) =>
  bringInto(into, content, name, said);
const rows = (of = projectId) => rowsOf(of);
/** What is likely and alone is linked by a person's word. */
const linkFound = async (of = projectId) => {
  const found = (await rows(of)).filter((r) => r.status.status === 'missing' && r.certainty === 'likely');
  const links = found.map((r) => ({ clipId: r.id, mediaFileId: r.candidate!.mediaFileId }));
  return post(`/projects/${of}/links`, { by: 'hand', links }).expect(200);
};

beforeAll(async () => {
  house = await openHouse();
  ({ projectId, bay } = await threeFilmsIn(house));
}, 120_000);
afterAll(() => house.close());

describe('a newer version of a document', () => {
  let documentId: string;

  test('is never guessed: the same name is asked about', async () => {
    const first = await bring(makeList([event('bowl.mov'), event('door.mov'), event('gone.mov')]), 'reel.edl', {
      reading: pal,
    }).expect(201);
    documentId = (first.body as DocumentView).id;
    await house.idle();
    await linkFound();
    const gone = (await rows()).find((r) => r.name === 'gone.mov')!;
    await post(`/projects/${projectId}/set-aside`, {
      clipIds: [gone.id],
      as: 'waived',
      reason: 'lost in the fire',
    }).expect(200);
    const again = await bring(makeList([event('bowl.mov')]), 'reel.edl', { reading: pal }).expect(409);
    expect(again.body).toMatchObject({ code: 'document-known-already', documentId });
  });

  test('keeps links and decisions of the clips that are still there, and those of others for when they come back', async () => {
    const before = new Map((await rows()).map((r) => [r.name, r]));
    const second = makeList([event('bowl.mov', '01:00:00:10', '01:00:01:05'), event('ember.mov'), event('gone.mov')]);
    const brought = await bring(second, 'reel v2.edl', { replaces: documentId }).expect(201);
    expect(brought.body).toMatchObject({ id: documentId, name: 'reel v2.edl', reading: pal, clips: 3 });
    const after = new Map((await rows()).map((r) => [r.name, r]));
    expect([...after.keys()]).toEqual(['bowl.mov', 'ember.mov', 'gone.mov']);
    expect(after.get('bowl.mov')).toMatchObject({ id: before.get('bowl.mov')!.id, status: { status: 'linked' } });
    expect(after.get('gone.mov')).toMatchObject({ status: { status: 'waived' } });
    expect(after.get('ember.mov')).toMatchObject({ status: { status: 'missing' } });

    const third = makeList([event('bowl.mov'), event('door.mov'), event('gone.mov')]);
    await bring(third, 'reel v3.edl', { replaces: documentId }).expect(201);
    const back = (await rows()).find((r) => r.name === 'door.mov')!;
    expect(back).toMatchObject({ id: before.get('door.mov')!.id, status: { status: 'linked' } });
    await bring(second, 'reel v4.edl', { replaces: documentId }).expect(201);
    await house.idle();
  });

  test('of a roll that many events are read from, each keeps its own: nothing goes over to its neighbour', async () => {
    const of = await newProject('Rolls');
    const line = (hour: number, seconds: number) =>
      `001  A009 V C 0${hour}:00:00:00 0${hour}:00:0${seconds}:00 10:00:00:00 10:00:0${seconds}:00`;
    const first = (await bring([line(1, 5), line(2, 5), line(3, 5)].join('\n'), 'roll.edl', { reading: pal }, of)).body;
    const before = (await rows(of)).map((r) => r.id);
    for (const [i, id] of before.entries())
      await post(`/projects/${of}/set-aside`, { clipIds: [id], as: 'waived', reason: `hour ${i + 1}` }).expect(200);
    const replaces = (first as DocumentView).id;
    await bring([line(3, 4), line(2, 6), line(4, 5)].join('\n'), 'roll.edl', { reading: pal, replaces }, of).expect(
      201,
    );
    const after = (await rows(of)).map((r) => [before.indexOf(r.id), r.status]);
    expect(after).toEqual([
      [2, { status: 'waived', reason: 'hour 3' }],
      [1, { status: 'waived', reason: 'hour 2' }],
      [-1, expect.objectContaining({ status: 'missing' })],
    ]);
  });

  test('says what was trimmed and re-sourced, and what of it is dark', async () => {
    const { former, timelines } = await get<Comparison>(`/documents/${documentId}/comparison`);
    expect(former.name).toBe('reel v3.edl');
    const brief = timelines[0]!.changes.map((c) => [c.kind, (c.event ?? c.before)!.name, c.headFrames, c.isDark]);
    expect(brief).toEqual([
      ['trimmed', 'bowl.mov', -5, false],
      ['re-sourced', 'ember.mov', null, true],
    ]);
    // What was kept is told as well, and whether it is dark: two versions can be laid one above the other.
    const [document] = (await get<DocumentView[]>(`/projects/${projectId}/documents`)).filter(
      (d) => d.id === documentId,
    );
    expect(timelines[0]!.key).toBe(document!.timelines[0]!.key);
    const all = await rows();
    expect(timelines[0]!.kept.length + brief.length).toBe(document!.timelines[0]!.events);
    for (const { name, clipId, ...kept } of timelines[0]!.kept) {
      const { status } = all.find((r) => r.id === clipId)!;
      expect([name, kept.trackKind, kept.isDark]).toEqual([name, 'picture', isDark(status.status)]);
    }
  });

  test('other decisions about the reading keep the links as well', async () => {
    const view = (
      await api()
        .put(`/api/documents/${documentId}/reading`)
        .set('Host', 'localhost')
        .send({ clipsBy: 'source-file' })
        .expect(200)
    ).body as DocumentView;
    expect(view).toMatchObject({ clips: 3, reading: { ...pal, clipsBy: 'source-file' } });
    expect(view.choices.clipsBy).toHaveLength(5);
    expect((await rows()).find((r) => r.name === 'bowl.mov')).toMatchObject({ status: { status: 'linked' } });
    await api()
      .put(`/api/documents/${documentId}/reading`)
      .set('Host', 'localhost')
      .send({ clipsBy: 'reel' })
      .expect(200);
    expect(await rows()).toHaveLength(1);
    await api()
      .put(`/api/documents/${documentId}/reading`)
      .set('Host', 'localhost')
      .send({ clipsBy: 'reel-and-name' })
      .expect(200);
    expect((await rows()).find((r) => r.name === 'bowl.mov')).toMatchObject({ status: { status: 'linked' } });
  });
});

describe('documents from a place, and bundles', () => {
  test('relative references are resolved against the folder the document lies in', async () => {
    const project = await newProject('Relative');
    mkdirSync(join(bay, 'cuts'), { recursive: true });
    writeFileSync(join(bay, 'cuts/cut.otio'), cutOf('../moved/bowl.mov', 'nowhere.mov'));
    const places = await get<{ id: string }[]>('/places');
    const from = (path: string) => post(`/projects/${project}/documents/from-place`, { placeId: places[0]!.id, path });
    const brought = (await from('cuts/cut.otio').expect(201)).body as DocumentView;
    expect(brought.folder).toBe(join(bay, 'cuts'));
    await house.idle();
    expect((await rows(project)).map((r) => [r.name, r.status.status])).toEqual([
      ['bowl.mov', 'linked'],
      ['nowhere.mov', 'missing'],
    ]);
    expect((await from('../../../etc/passwd').expect(400)).body).toMatchObject({ code: 'outside-folder' });
    expect((await from('cuts/none.otio').expect(404)).body).toMatchObject({ code: 'not-in-place' });
    expect((await from('cuts').expect(422)).body).toMatchObject({ code: 'no-bundle' });
  });

  test('of a zipped bundle the document comes in, with a count of the media inside; a broken one says so', async () => {
    const project = await newProject('Zipped');
    const zip = new ZipWriter(new Uint8ArrayWriter(), { level: 0, useWebWorkers: false });
    await zip.add('content.otio', new Uint8ArrayReader(new TextEncoder().encode(cutOf('media/bowl.mov'))));
    await zip.add('media/bowl.mov', new Uint8ArrayReader(new Uint8Array(1234)));
    const bytes = await zip.close();
    const brought = (await bring(bytes, 'cut.otioz', {}, project).expect(201)).body as DocumentView;
    expect(brought).toMatchObject({ format: 'otio', mediaInside: { files: 1, sizeInBytes: 1234 }, clips: 1 });
    const cut = await bring(bytes.slice(0, 200), 'half.otioz', {}, project).expect(422);
    expect((cut.body as ProblemDetails).detail).toMatch(/no whole bundle/);
  });

  test.each(['otiod', 'otioz'] as const)(
    'a handoff as %s is one document beside its media, each with its hash',
    async (layout) => {
      mkdirSync(join(house.folder, 'OUT'), { recursive: true });
      const planned = await post(`/projects/${projectId}/handoffs`, {
        targetFolder: join(house.folder, 'OUT'),
        name: `saltglass ${layout}`,
        layout,
      }).expect(201);
      const { id } = planned.body as Handoff;
      await post(`/handoffs/${id}/run`).expect(202);
      await house.idle();
      const done = await get<Handoff>(`/handoffs/${id}`);
      expect(done).toMatchObject({ state: 'done', layout, copied: [{ state: 'verified', target: 'media/bowl.mov' }] });
      const file = async (name: string): Promise<Uint8Array> => {
        if (layout === 'otiod') return readFileSync(join(done.folder, name));
        const zip = new ZipReader(new Uint8ArrayReader(readFileSync(join(done.folder, `saltglass ${layout}.otioz`))));
        const entry = (await zip.getEntries()).find((e) => e.filename === name);
        return !entry || entry.directory ? new Uint8Array() : entry.getData(new Uint8ArrayWriter());
      };
      expect(new TextDecoder().decode(await file('version.txt'))).toBe('1.0.0');
      const source = readFileSync(join(bay, 'moved/bowl.mov'));
      expect(Buffer.from(await file('media/bowl.mov')).equals(source)).toBe(true);
      const read = readDocument(await file('content.otio'), { name: 'content.otio' });
      if (read.format === null || !read.result.ok) throw new Error('the bundle’s document was not read');
      expect(read.result.edit.clips.map((c) => [c.name, c.remembered])).toContainEqual(['bowl.mov', 'media/bowl.mov']);
      expect(done.copied[0]!.xxh64).toBe(xxh64Of(source));
      for (const { path, hashes } of listedIn(done.folder).values())
        expect(hashes.xxh64).toBe(xxh64Of(readFileSync(join(done.folder, path))));
    },
  );
});

test('a zipped bundle is unpacked into a bundle folder, whose clips find their media; no name leads out of it', async () => {
  const zip = new ZipWriter(new Uint8ArrayWriter(), { level: 5, useWebWorkers: false });
  const film = readFileSync(join(bay, 'moved/door.mov'));
  await zip.add('content.otio', new Uint8ArrayReader(new TextEncoder().encode(cutOf('media/a/door.mov'))));
  await zip.add('media/a/door.mov', new Uint8ArrayReader(film));
  writeFileSync(join(bay, 'sent.otioz'), await zip.close());
  const places = await get<{ id: string; name: string }[]>('/places');
  const kiln = places.find((p) => p.name === 'KILN')!;
  const unpack = (path: string) => post('/bundles/unpack', { placeId: kiln.id, path, targetFolder: bay });
  await unpack('sent.otioz').expect(202);
  await house.idle();
  expect(readFileSync(join(bay, 'sent.otiod/media/a/door.mov')).equals(film)).toBe(true);
  const project = await newProject('Unpacked');
  await post(`/projects/${project}/documents/from-place`, { placeId: kiln.id, path: 'sent.otiod' }).expect(201);
  await house.idle();
  expect((await rows(project)).map((r) => [r.status.status, r.tied?.folder])).toEqual([
    ['linked', 'sent.otiod/media/a'],
  ]);

  const evil = new ZipWriter(new Uint8ArrayWriter(), { level: 0, useWebWorkers: false });
  await evil.add('content.otio', new Uint8ArrayReader(new TextEncoder().encode(cutOf('media/x.mov'))));
  await evil.add('media/../../../escaped.mov', new Uint8ArrayReader(new Uint8Array(10)));
  writeFileSync(join(bay, 'evil.otioz'), await evil.close());
  await unpack('evil.otioz').expect(422);
  expect(existsSync(join(bay, 'evil.otiod'))).toBe(false);
  expect(existsSync(join(house.folder, 'escaped.mov'))).toBe(false);
});

describe('shot logs', () => {
  test('columns that were mapped once are known the next time, and a log brought in again updates', async () => {
    const project = await newProject('Log');
    const log = 'Was;Von;Bis\nbowl;01:00:00:00;01:00:02:00\ndoor;01:00:10:00;01:00:12:00\n';
    const asked = await bring(log, 'day1.csv', { reading: pal }, project).expect(422);
    expect(asked.body).toMatchObject({
      code: 'columns-needed',
      fault: { columns: { headers: ['Was', 'Von', 'Bis'] } },
    });
    const columns = ['name', 'start', 'end'];
    const first = (await bring(log, 'day1.csv', { reading: { ...pal, columns } }, project).expect(201))
      .body as DocumentView;
    expect(first).toMatchObject({ format: 'log', clips: 2 });
    const kept = (await rows(project)).map((r) => r.id);
    const more = `${log}ember;01:00:20:00;01:00:22:00\nbroken;99:00:00:00;01:00:00:00\n`;
    const second = (await bring(more, 'day1.csv', { replaces: first.id }, project).expect(201)).body as DocumentView;
    expect(second).toMatchObject({ id: first.id, clips: 3, remarks: [{ at: { line: 5 }, code: 'row-skipped' }] });
    expect((await rows(project)).map((r) => r.id).slice(0, 2)).toEqual(kept);
    const other = await newProject('Log again');
    expect((await bring(log, 'day2.csv', { reading: pal }, other).expect(201)).body).toMatchObject({ clips: 2 });
  });
});

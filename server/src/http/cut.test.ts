import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Cut, CutRecording } from '@legame/core/contract';
import { clientOf } from '../testing/client.ts';
import { span } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';

/** What the screen of the cut is told: events with their speed, and the recordings under them. */
let house: House;
let projectId: string;
const client = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);

const hour = 90_000;
const clip = (name: string, reads: [number, number], speed: number | null = null) => ({
  OTIO_SCHEMA: 'Clip.2',
  name,
  source_range: span(...reads),
  effects: speed === null ? [] : [{ OTIO_SCHEMA: 'LinearTimeWarp.1', name: '', effect_name: '', time_scalar: speed }],
  media_references: {
    DEFAULT_MEDIA: {
      OTIO_SCHEMA: 'ExternalReference.1',
      target_url: `file:///Volumes/KILN/day1/${name}`,
      available_range: span(hour, 50),
    },
  },
  active_media_reference_key: 'DEFAULT_MEDIA',
});

beforeAll(async () => {
  house = await openHouse();
  mkdirSync(at('KILN/day1'), { recursive: true });
  makeFilm(at('KILN/day1/bowl.mov'), { timecode: '01:00:00:00', frames: 50 });
  projectId = await client.newProject('Saltglass');
  await client.post('/places', { path: at('KILN'), knownAs: ['/Volumes/KILN'] }).expect(201);
  await house.idle();
  const children = [
    clip('bowl.mov', [hour + 10, 20]),
    clip('gone.mov', [hour, 10]),
    clip('bowl.mov', [hour + 5, 10], -1),
  ];
  const marker = {
    OTIO_SCHEMA: 'Marker.2',
    name: 'the door',
    comment: 'wider',
    color: 'RED',
    marked_range: span(12, 5),
  };
  const timeline = {
    OTIO_SCHEMA: 'Timeline.1',
    name: 'cut',
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      markers: [marker],
      children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children }],
    },
  };
  await client.bring(projectId, JSON.stringify(timeline), 'cut.otio').expect(201);
  await house.idle();
}, 120_000);
afterAll(() => house.close());

const cut = async () => (await client.get<Cut>(`/projects/${projectId}/cut`))[0]!;
const recordings = async (clips: readonly (string | null)[]) =>
  (await client.post(`/projects/${projectId}/cut/recordings`, { clips }).expect(200)).body as CutRecording[];

test('marks and comments of the document come with it', async () => {
  expect((await cut()).markers).toEqual([
    { name: 'the door', comment: 'wider', color: 'RED', track: null, record: { start: 12, end: 17 } },
  ]);
});

test('an event says its speed where it is not that of the recording', async () => {
  expect((await cut()).events.map((e) => [e.name, e.speed])).toEqual([
    ['bowl.mov', null],
    ['gone.mov', null],
    ['bowl.mov', { num: -1, den: 1 }],
  ]);
});

test('a recording says what its file holds and which stretch each showing reads, counted in the edit and in the file', async () => {
  const { events, documentId, key, start } = await cut();
  const [gone, bowl] = await recordings([events[1]!.clipId, events[0]!.clipId]);
  expect(bowl).toMatchObject({
    fileName: 'bowl.mov',
    where: 'KILN/day1',
    status: { status: 'linked' },
    holds: { start: hour, end: hour + 50 },
    lengthInFile: 50,
  });
  const timeline = `${documentId}/${key}`;
  expect(bowl!.uses.map((u) => [u.timeline, u.record.start - start, u.source, u.firstFrameInFile, u.speed])).toEqual([
    [timeline, 0, { start: hour + 10, end: hour + 30 }, 10, null],
    [timeline, 30, expect.objectContaining({ end: expect.any(Number) }), expect.any(Number), { num: -1, den: 1 }],
  ]);
  expect(gone).toMatchObject({
    fileName: 'gone.mov',
    where: null,
    holds: null,
    media: null,
    expected: { start: hour, end: hour + 50 },
  });
});

test('what a nested timeline reads is told as it lies in there, beside where its window shows it', async () => {
  const nest = {
    OTIO_SCHEMA: 'Stack.1',
    name: 'furnace',
    source_range: span(4, 8),
    children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children: [clip('bowl.mov', [hour + 20, 16])] }],
  };
  const outer = {
    OTIO_SCHEMA: 'Timeline.1',
    name: 'outer',
    tracks: { OTIO_SCHEMA: 'Stack.1', children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children: [nest] }] },
  };
  const nests = await client.newProject('Nests');
  await client.bring(nests, JSON.stringify(outer), 'nests.otio').expect(201);
  await house.idle();
  const [row] = await client.rows(nests);
  const asked = await client.post(`/projects/${nests}/cut/recordings`, { clips: [row!.id] }).expect(200);
  const [{ uses }] = asked.body as [CutRecording];
  expect(uses.map((u) => [u.isTop, u.source.start - hour, u.source.end - u.source.start])).toEqual([
    [true, 24, 8],
    [false, 20, 16],
  ]);
});

test('of clips of another project nothing is told, and no more are asked for than a screen holds', async () => {
  const { events } = await cut();
  const other = await client.newProject('Other');
  const found = await client.post(`/projects/${other}/cut/recordings`, { clips: [events[0]!.clipId] }).expect(200);
  expect(found.body).toEqual([]);
  const many = Array.from({ length: 201 }, () => events[0]!.clipId);
  await client.post(`/projects/${projectId}/cut/recordings`, { clips: many }).expect(400);
});

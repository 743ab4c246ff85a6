import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { acceptsAll } from '@legame/core/model';
import type { ClipRow, Cut, Handoff, HandoffChoices, HandoffPreview, PlaceView } from '@legame/core/contract';
import { clientOf } from '../testing/client.ts';
import { event, makeList, pal, type span } from '../testing/edits.ts';
import { cutOfAll as cut, kiln } from '../testing/cutOfAll.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeSound } from '../testing/media.ts';

/** A handoff of parts of files, run, moved, and opened by somebody who has nothing else. */
let house: House;
let projectId: string;
const client = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);

const ffmpeg = (...args: string[]) =>
  execFileSync('ffmpeg', ['-v', 'error', '-nostdin', '-y', '-threads', '1', ...args], { maxBuffer: 1e9 });
/** Every frame another, so that a wrong one is noticed. */
const film = (path: string, timecode: string | null, codec: readonly string[], frames = 250) =>
  ffmpeg(
    ...['-f', 'lavfi', '-i', `testsrc2=s=256x144:r=25:d=${frames / 25}`, ...codec],
    ...(timecode ? ['-timecode', timecode] : []),
    ...['-metadata:s:v:0', 'reel_name=A001', path],
  );
const everyFrame = ['-c:v', 'mjpeg', '-q:v', '4', '-pix_fmt', 'yuvj422p'];
const inGroups = ['-c:v', 'libx264', '-preset', 'veryfast', '-g', '24', '-bf', '2'];

beforeAll(async () => {
  house = await openHouse();
  mkdirSync(at('KILN/day1'), { recursive: true });
  mkdirSync(at('KILN/titles'));
  film(at('KILN/day1/open.mov'), '01:00:00:00', everyFrame);
  film(at('KILN/day1/groups.mov'), '10:00:00:00', inGroups);
  film(at('KILN/day1/bare.mov'), null, everyFrame);
  makeSound(at('KILN/day1/voice.wav'), { seconds: 20, startSeconds: 3600 });
  ffmpeg('-f', 'lavfi', '-i', 'aevalsrc=random(0)*0.4|random(1)*0.4:d=10', '-b:a', '192k', at('KILN/day1/song.mp3'));
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=64x36:r=25:d=4', '-start_number', '1001', at('KILN/titles/title_%04d.png'));
  projectId = await client.newProject('Saltglass');
  await client.post('/places', { path: at('KILN'), knownAs: ['/Volumes/KILN'] }).expect(201);
  await house.idle();
  await client.bring(projectId, cut, 'cut.otio').expect(201);
  const list = makeList([
    event('open.mov', '01:00:01:00', '01:00:02:00'),
    event('open.mov', '01:00:08:10', '01:00:09:10'),
  ]);
  await client.bring(projectId, list, 'reel.edl', { reading: pal }).expect(201);
  await house.idle();
  await client.post(`/projects/${projectId}/links/certain`);
  expect((await client.rows(projectId)).map((r) => [r.name, r.status.status])).toEqual(
    expect.arrayContaining([
      ['titles', 'linked'],
      ['voice.wav', 'linked'],
      ['bare.mov', 'linked'],
      ['song.mp3', 'linked'],
    ]),
  );
}, 120_000);
afterAll(() => house.close());

async function handOff(name: string, choices: Partial<HandoffChoices>, more: object = {}): Promise<Handoff> {
  mkdirSync(at('OUT'), { recursive: true });
  const wanted = { targetFolder: at('OUT'), name, choices: { picture: 'trim', sound: 'trim', ...choices }, ...more };
  const planned = (await client.post(`/projects/${projectId}/handoffs`, wanted).expect(201)).body as Handoff;
  await client.post(`/handoffs/${planned.id}/run`).expect(202);
  await house.idle();
  const done = await client.get<Handoff>(`/handoffs/${planned.id}`);
  expect([done.state, done.problem]).toEqual(['done', null]);
  return done;
}

/** Opens a set as somebody who has nothing but it. */
async function openElsewhere(folder: string, documents: readonly string[]): Promise<{ id: string; rows: ClipRow[] }> {
  for (const { id } of await client.get<PlaceView[]>('/places')) await client.send('delete', `/places/${id}`, {});
  await client.post('/places', { path: folder }).expect(201);
  await house.idle();
  const id = await client.newProject('Elsewhere');
  for (const name of documents)
    await client
      .bring(id, readFileSync(join(folder, name)), name, name.endsWith('.edl') ? { reading: pal } : {})
      .expect(201);
  await house.idle();
  return { id, rows: await client.rows(id) };
}

/** What an event's first frame looks like, found by counting frames in the file. */
const frameOf = (path: string, frame: number): string =>
  ffmpeg('-i', path, '-vf', `select=eq(n\\,${frame})`, '-frames:v', '1', '-f', 'md5', '-').toString();

type Relinked = {
  tracks: {
    children: {
      children: {
        source_range: ReturnType<typeof span>;
        media_references: Record<string, { target_url?: string; available_range: ReturnType<typeof span> }>;
      }[];
    }[];
  };
};

/** Moves a set, opens it where nothing else is, and holds the first frame of every event against the original's. */
async function requireSameElsewhere(done: Handoff): Promise<void> {
  renameSync(done.folder, at('MOVED'));
  renameSync(at('KILN'), at('.KILN away'));
  const { rows } = await openElsewhere(at('MOVED'), ['cut.otio', 'reel.edl']);
  expect(rows.map((r) => [r.name, r.status])).toEqual(rows.map((r) => [r.name, { status: 'linked' }]));

  // By frame numbers alone: the set's reference says what its file's first frame is called.
  const relinked = JSON.parse(readFileSync(at('MOVED/cut.otio'), 'utf8')) as Relinked;
  const original = JSON.parse(cut) as Relinked;
  let compared = 0;
  original.tracks.children[0]!.children.forEach((before, i) => {
    const reference = before.media_references?.DEFAULT_MEDIA;
    const after = relinked.tracks.children[0]!.children[i]!;
    expect(after.source_range).toEqual(before.source_range);
    if (!reference?.target_url) return;
    const now = after.media_references.DEFAULT_MEDIA!;
    const [first, starts] = [before.source_range.start_time.value, now.available_range.start_time.value];
    expect(starts).toBeLessThanOrEqual(first);
    expect(frameOf(join(at('MOVED'), decodeURIComponent(now.target_url!)), first - starts)).toBe(
      frameOf(
        reference.target_url.replace('file:///Volumes/KILN', at('.KILN away')),
        first - reference.available_range.start_time.value,
      ),
    );
    compared += 1;
  });
  expect(compared).toBe(6);
  renameSync(at('.KILN away'), at('KILN'));
  await client.post('/places', { path: at('KILN'), knownAs: ['/Volumes/KILN'] }).expect(201);
  await house.idle();
  await client.post(`/projects/${projectId}/links/certain`);
  rmSync(at('MOVED'), { recursive: true });
}

test('a trimmed set opens elsewhere: nothing is dark, and every event begins with the frame that it began with', async () => {
  const done = await handOff('to colour', { handlesInFrames: 12 });
  expect(done.plan.sizeInBytes).toBeLessThan(done.plan.wholeInBytes);
  const outs = new Map(done.plan.recordings.map((r) => [r.source, r.outs.map((o) => o.range)]));
  expect(outs.get('day1/open.mov')).toEqual([
    { start: 0, end: 62 },
    { start: 88, end: 142 },
    { start: 188, end: 247 },
  ]);
  // What a dissolve reads beside its cuts counts as used. At key frames, all 24 frames; the reverse at double speed reads more than it shows.
  expect(outs.get('day1/groups.mov')).toEqual([
    { start: 24, end: 120 },
    { start: 168, end: 216 },
  ]);
  expect(outs.get('titles/title_####.png')).toEqual([{ start: 28, end: 72 }]);
  expect(outs.get('day1/voice.wav')).toEqual([{ start: 228 * 1920, end: 302 * 1920 }]);
  for (const file of done.copied) expect(readFileSync(join(done.folder, file.target)).length).toBe(file.sizeInBytes);
  await requireSameElsewhere(done);
}, 120_000);

test('a part that cannot be proven is none of the set: the whole file goes, once, and says why', async () => {
  // Where its frames are is told wrong by one: whatever is cut by that is another stretch than was meant.
  const shifted = (by: number) =>
    house.db.raw(
      `update cuttings set streams = jsonb_set(streams, '{picture,start}', to_jsonb((streams->'picture'->>'start')::bigint
         + ? * (streams->'picture'->'timeBase'->>'den')::bigint / 25 / (streams->'picture'->'timeBase'->>'num')::bigint))
       where media_file_id in (select id from media_files where name = 'open.mov')`,
      [by],
    );
  await handOff('before', { handlesInFrames: 12 });
  await shifted(1);
  const done = await handOff('unproven', { handlesInFrames: 12 });
  const open = done.plan.recordings.find((r) => r.source === 'day1/open.mov')!;
  expect(open).toMatchObject({ wholeBecause: 'not-proven', outs: [{ range: null, sizeInBytes: open.wholeInBytes }] });
  const copies = done.copied.filter((file) => file.target.includes('open'));
  expect(copies.map((file) => [file.state, file.sizeInBytes])).toEqual([['verified', open.wholeInBytes]]);
  expect(readFileSync(join(done.folder, copies[0]!.target))).toEqual(readFileSync(at('KILN/day1/open.mov')));
  // All else is as trimmed as it was to be, and the set opens on what there is.
  expect(done.plan.recordings.filter((r) => r.wholeBecause === 'not-proven')).toHaveLength(1);
  await requireSameElsewhere(done);

  // In one zip it is the same.
  await handOff('before the zip', { handlesInFrames: 12 });
  await shifted(1);
  const zipped = await handOff('unproven zip', { handlesInFrames: 12 }, { layout: 'otioz' });
  expect(zipped.plan.recordings.find((r) => r.source === 'day1/open.mov')!.outs.map((o) => o.range)).toEqual([null]);
  expect(zipped.copied.every((file) => file.state === 'verified')).toBe(true);
  await shifted(-1);
}, 180_000);

const heard = (path: string, from: number, to: number): string =>
  ffmpeg('-i', path, '-af', `atrim=start_sample=${from}:end_sample=${to}`, '-f', 's24le', '-').toString('base64');

test('a transcoded set does so, too: films to the frame wherever groups of pictures begin, all else as if trimmed', async () => {
  const choices = { picture: 'transcode', sound: 'transcode', coding: 'ffv1', handlesInFrames: 12 } as const;
  const done = await handOff('to editing', choices);
  const outs = new Map(done.plan.recordings.map((r) => [r.source, r.outs.map((o) => [o.target, o.range] as const)]));
  expect(outs.get('day1/groups.mov')).toEqual([
    [expect.stringMatching(/^media\/groups_\d{8}\.mkv$/), { start: 43, end: 97 }],
    [expect.stringMatching(/^media\/groups_\d{8}\.mkv$/), { start: 168, end: 212 }],
  ]);
  expect(outs.get('titles/title_####.png')!.map(([, range]) => range)).toEqual([{ start: 28, end: 72 }]);
  for (const file of done.copied) expect(file).toMatchObject({ state: 'verified', lost: [] });
  // Sound of a WAVE file is cut as it is; other becomes one that can be cut to the sample.
  expect(done.plan.recordings.flatMap((r) => r.coded?.coding ?? [])).toEqual(['ffv1', 'ffv1', 'ffv1', 'wave']);
  expect(outs.get('day1/voice.wav')!.map(([, range]) => range)).toEqual([{ start: 228 * 1920, end: 302 * 1920 }]);
  const [[target, range]] = outs.get('day1/song.mp3') as [[string, { start: number; end: number }]];
  expect([target, range.start]).toEqual([expect.stringMatching(/^media\/song_\d{8}\.wav$/), (88 / 25) * 44_100]);
  expect(heard(join(done.folder, target), 0, 5000)).toBe(
    heard(at('KILN/day1/song.mp3'), range.start, range.start + 5000),
  );
  await requireSameElsewhere(done);
}, 120_000);

test('by rule only films that the project does not accept are transcoded; else they cannot come', async () => {
  const accepts = acceptsAll;
  const setAccepted = (codecs: readonly string[]) =>
    client.send('put', `/projects/${projectId}/acceptance`, { ...accepts, codecs }).expect(200);
  await setAccepted(['h264']);
  await house.idle();
  const choices = { picture: 'trim', sound: 'trim', coding: 'h264' };
  const without = (await client.post(`/projects/${projectId}/handoffs/preview`, { choices }).expect(200))
    .body as HandoffPreview;
  expect(new Set(without.leftOut.map((l) => `${l.clipName} ${l.reason}`))).toEqual(
    new Set(['open.mov not-accepted', 'bare.mov not-accepted']),
  );
  const done = await handOff('accepted', { coding: 'h264', transcodesRefused: true });
  const codings = Object.fromEntries(done.plan.recordings.map((r) => [r.source, r.coded?.coding ?? null]));
  expect(codings).toMatchObject({ 'day1/open.mov': 'h264', 'day1/bare.mov': 'h264', 'day1/groups.mov': null });
  // A receiver who can use what the project does not, and the other way round.
  const receiver = { ...accepts, codecs: ['mjpeg'] };
  const theirs = await handOff('theirs', { receiver, coding: 'mjpeg', transcodesRefused: true });
  expect(Object.fromEntries(theirs.plan.recordings.map((r) => [r.source, r.coded?.coding ?? null]))).toMatchObject({
    ...{ 'day1/open.mov': null, 'day1/bare.mov': null, 'day1/groups.mov': 'mjpeg' },
  });
  expect(theirs.plan.choices.receiver).toEqual(receiver);
  await setAccepted([]);
}, 120_000);

describe('what a person chooses', () => {
  const previewed = async (asked: object): Promise<HandoffPreview> => {
    const choices = { picture: 'trim', sound: 'trim', handlesInFrames: 0 };
    const answer = await client.post(`/projects/${projectId}/handoffs/preview`, { choices, ...asked }).expect(200);
    return answer.body as HandoffPreview;
  };
  const outsOf = ({ recordings }: HandoffPreview) =>
    Object.fromEntries(recordings.map((r) => [r.source.split('/').at(-1)!, r.outs.map((o) => o.range)] as const));

  test('a stretch of one timeline: what it shows, to the frame and to the sample', async () => {
    const shown = (await client.get<Cut>(`/projects/${projectId}/cut`)).find((t) => t.name === 'cut')!;
    const timeline = `${shown.documentId}/${shown.key}`;
    const of = (from: number, to: number) => ({
      timelines: [timeline],
      ranges: [{ timeline, start: shown.start + from, end: shown.start + to }],
    });
    const first = await previewed(of(3, 10));
    expect(outsOf(first)).toEqual({
      'open.mov': [{ start: 103, end: 110 }],
      'voice.wav': [{ start: 243 * 1920, end: 250 * 1920 }],
    });
    expect(first.ranges).toEqual([{ timeline: 'cut', from: '00:00:00:03', to: '00:00:00:10' }]);
    // Under the dissolve both are read, the second from the key frame before.
    expect(outsOf(await previewed(of(21, 23)))).toEqual({
      'open.mov': [{ start: 121, end: 123 }],
      'groups.mov': [{ start: 48, end: 72 }],
      'voice.wav': [{ start: 261 * 1920, end: 263 * 1920 }],
    });
    await client
      .post(`/projects/${projectId}/handoffs/preview`, { ranges: [{ timeline, start: 9, end: 9 }] })
      .expect(400);
  });

  test('some clips only: all that the timelines show of them, and whole where none shows them', async () => {
    const row = await client.row(projectId, 'voice.wav');
    const chosen = await previewed({ clips: [row.id] });
    expect(outsOf(chosen)).toEqual({ 'voice.wav': [{ start: 240 * 1920, end: 290 * 1920 }] });
    expect(chosen).toMatchObject({ clipsChosen: 1, timelines: ['cut.otio'], leftOut: [] });
    const reel = (await client.get<Cut>(`/projects/${projectId}/cut`)).find((t) => t.documentId !== row.documentId)!;
    expect(outsOf(await previewed({ clips: [row.id], timelines: [`${reel.documentId}/${reel.key}`] }))).toEqual({
      'voice.wav': [null],
    });
  });

  test('one file a source, foldered by kind, named by a pattern', async () => {
    const done = await handOff('by kind', {
      division: 'source',
      foldering: 'by-kind',
      pattern: '{reel}_{name}',
      handlesInFrames: 0,
    });
    expect(done.plan.recordings.flatMap((r) => r.outs.map((o) => o.target))).toEqual(
      [
        'media/picture/bare_00000200.mov',
        'media/picture/A001_groups_10000200.mov',
        'media/picture/A001_open_01000000.mov',
        'media/sound/song.mp3',
        'media/sound/voice_01000915.wav',
        'media/sequences/title/title_####.png',
      ].map((t) => expect.stringMatching(t.replace(/_\d{8}/, '_\\d{8}').replace('title/', 'title[^/]*/'))),
    );
    expect(readdirSync(join(done.folder, 'media')).sort()).toEqual(['picture', 'sequences', 'sound']);
  });

  test('sound that stays where it is is named as left, and its references stay as they were', async () => {
    const done = await handOff('no sound', { sound: 'leave' });
    expect(done.plan.leftOut.map((l) => [l.clipName, l.reason]).sort()).toEqual([
      ['song.mp3', 'left-by-choice'],
      ['voice.wav', 'left-by-choice'],
    ]);
    expect(readFileSync(join(done.folder, 'cut.otio'), 'utf8')).toContain(kiln('voice.wav'));
  });

  test.each(['otiod', 'otioz'] as const)('a trimmed bundle (%s)', async (layout) => {
    const done = await handOff(`bundle ${layout}`, {}, { layout });
    expect(done.plan.sizeInBytes).toBeLessThan(done.plan.wholeInBytes);
    expect(readdirSync(done.folder).filter((name) => name.startsWith('.'))).toEqual([]);
    if (layout === 'otioz')
      execFileSync('python3', [
        '-c',
        `import zipfile,sys; z=zipfile.ZipFile(sys.argv[1]); assert z.testzip() is None`,
        join(done.folder, `bundle otioz.otioz`),
      ]);
  });

  test('a pattern with a word that nobody knows is refused, and says which there are', async () => {
    const refused = await client
      .post(`/projects/${projectId}/handoffs`, {
        targetFolder: at('OUT'),
        name: 'x',
        choices: { pattern: '{nmae}' },
      })
      .expect(400);
    expect(JSON.stringify(refused.body)).toContain('{name}');
  });
});

test('a part that is not, frame for frame, what lies in its source fails alone and leaves nothing behind', async () => {
  const wanted = { targetFolder: at('OUT'), name: 'changed', choices: { picture: 'trim' } };
  const planned = (await client.post(`/projects/${projectId}/handoffs`, wanted).expect(201)).body as Handoff;
  const path = at('KILN/day1/open.mov');
  const bytes = readFileSync(path);
  rmSync(path);
  film(path, '01:00:00:00', everyFrame, 240);
  await client.post(`/handoffs/${planned.id}/run`).expect(202);
  await house.idle();
  const done = await client.get<Handoff>(`/handoffs/${planned.id}`);
  expect(done.state).toBe('failed');
  const failed = done.copied.filter((f) => f.state === 'failed');
  expect(failed.map((f) => f.problem?.code)).toEqual(failed.map(() => 'source-changed'));
  expect(failed.length).toBeGreaterThan(1);
  expect(bytes.length).toBeGreaterThan(0);
  const left = execFileSync('find', [done.folder, '-name', '.*', '-type', 'f']).toString();
  expect(left).toBe('');
}, 120_000);

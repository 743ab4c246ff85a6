import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  realpathSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Handoff, Job, PlaceView } from '@legame/core/contract';
import { sweepPlaces } from '../places/states.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { clientOf } from '../testing/client.ts';
import { listedIn } from '../testing/set.ts';
import { openHouse, type House } from '../testing/house.ts';
import { kilnIn } from '../testing/kiln.ts';
import { makeFilm } from '../testing/media.ts';
import type { PlaceId } from '@legame/core/model';

/** What somebody who can write to the drives may do, and what it must not lead to. */
let house: House;
let outside: string;
let kiln: PlaceId;
let projectId: string;
const { get, post, patch, rows } = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);

beforeEach(async () => {
  house = await openHouse();
  outside = realpathSync(mkdtempSync(join(tmpdir(), 'legame-outside-')));
  makeFilm(join(outside, 'secret.mov'), { timecode: '01:00:00:00' });
  makeFilm(join(outside, 'bowl.mov'), { timecode: '01:00:00:00', frames: 60 });
  const made = await kilnIn(house);
  projectId = made.projectId;
  kiln = made.kiln as PlaceId;
}, 120_000);
afterEach(async () => {
  await house.close();
  rmSync(outside, { recursive: true, force: true });
});

const jobsOf = async (kind: Job['kind']) => (await get<Job[]>('/jobs')).filter((job) => job.kind === kind);
const paths = async (): Promise<string[]> =>
  (await mediaFileStore.listUnder(house.db, kiln, '')).map((f) => `${f.folder}/${f.name}`).sort();

/** Links the clips whose file is known by its name, so that there is something to hand off. */
async function linkAll(): Promise<void> {
  const files = new Map((await mediaFileStore.listUnder(house.db, kiln, '')).map((f) => [f.name, f.id]));
  const links = (await rows(projectId)).flatMap(({ id, fileName }) =>
    files.has(fileName) ? [{ clipId: id, mediaFileId: files.get(fileName)! }] : [],
  );
  await post(`/projects/${projectId}/links`, { by: 'hand', links }).expect(200);
  await house.idle();
}
async function plan(name: string): Promise<Handoff> {
  const planned = await post(`/projects/${projectId}/handoffs`, { targetFolder: at('OUT'), name }).expect(201);
  return planned.body as Handoff;
}
async function run({ id }: Handoff): Promise<Handoff> {
  await post(`/handoffs/${id}/run`).expect(202);
  await house.idle();
  return get<Handoff>(`/handoffs/${id}`);
}

describe('the fence holds where a path is used', () => {
  test('no folder of a place is outside it', async () => {
    for (const folder of ['../../..', '..', '/etc', 'day1/../../OUT', 'a\0b', '\ud800'])
      await post(`/places/${kiln}/index`, { folder }).expect(400);
    await house.idle();
    expect(await paths()).toHaveLength(6);
  });

  test('an indexed folder that becomes a link out is neither listed nor read', async () => {
    const bowl = (await mediaFileStore.listUnder(house.db, kiln, '')).find((f) => f.name === 'bowl.mov')!;
    renameSync(at('KILN/day1'), at('KILN-day1'));
    symlinkSync(outside, at('KILN/day1'));
    await post(`/places/${kiln}/index`, { folder: 'day1' }).expect(202);
    await house.idle();
    expect((await jobsOf('index-place'))[0]).toMatchObject({ state: 'failed', problem: { code: 'outside-roots' } });
    expect(await paths()).not.toContain('day1/secret.mov');
    const picture = await post(`/media/${bowl.id}/reread`).catch(() => null);
    expect(picture?.status).not.toBe(200);
    await clientOf(() => house)
      .api()
      .get(`/api/media/${bowl.id}/picture?frame=3`)
      .set('Host', 'localhost')
      .expect(422);
    // From the top it is a link, and passed over like any other.
    await post(`/places/${kiln}/index`, { folder: '' }).expect(202);
    await house.idle();
    expect(await paths()).not.toContain('day1/secret.mov');
  });

  test('a source folder that becomes a link out between plan and run is not copied from', async () => {
    await linkAll();
    const planned = await plan('swapped source');
    renameSync(at('KILN/day1'), at('KILN-day1'));
    symlinkSync(outside, at('KILN/day1'));
    const done = await run(planned);
    expect(done).toMatchObject({
      state: 'failed',
      problem: { code: 'files-not-copied', first: { code: 'outside-roots' } },
    });
    expect(existsSync(join(done.folder, 'media/bowl.mov'))).toBe(false);
    expect(done.copied.filter((f) => f.state === 'verified').map((f) => f.target)).toEqual(['media/pipe.mov']);
  });

  test('a handoff’s own folder that becomes a link gets nothing', async () => {
    await linkAll();
    renameSync(at('KILN/day1/bowl.mov'), at('bowl.mov'));
    const stopped = await run(await plan('swapped target'));
    expect(stopped.state).toBe('failed');
    renameSync(at('bowl.mov'), at('KILN/day1/bowl.mov'));
    renameSync(stopped.folder, at('aside'));
    symlinkSync(outside, stopped.folder);
    const before = readdirSync(outside);
    expect(await run(stopped)).toMatchObject({ state: 'failed', problem: { code: 'outside-roots' } });
    expect(readdirSync(outside)).toEqual(before);
    rmSync(stopped.folder);
    renameSync(at('aside'), stopped.folder);
    expect(await run(stopped)).toMatchObject({ state: 'done' });
  });

  test('a drive is not recognised outside the roots', async () => {
    // The root itself is a place, and is renamed: beside it lies what is none of ours.
    const only = { ...house.config, roots: [at('KILN')] };
    renameSync(at('KILN'), at('KILN_renamed'));
    await sweepPlaces({ db: house.db, config: only });
    const found = (await get<PlaceView[]>('/places')).find((p) => p.id === kiln)!;
    // The fence of this process is the house's folder, in which it does lie.
    expect([at('KILN'), at('KILN_renamed')]).toContain(found.path);
  });

  test('a name that looks like a pattern is one file', async () => {
    mkdirSync(at('KILN/stills'));
    makeFilm(at('KILN/stills/plain.png'), { frames: 1 });
    renameSync(at('KILN/stills/plain.png'), at('KILN/stills/still%d.png'));
    for (const n of [1, 2]) writeFileSync(at(`KILN/stills/still${n}.png`), 'no picture at all');
    await post(`/places/${kiln}/index`, { folder: 'stills' }).expect(202);
    await house.idle();
    const odd = (await mediaFileStore.listUnder(house.db, kiln, 'stills')).find((f) => f.name === 'still%d.png');
    expect(odd?.facts).not.toBeNull();
    await clientOf(() => house)
      .api()
      .get(`/api/media/${odd!.id}/picture?frame=0`)
      .set('Host', 'localhost')
      .expect(200);
  });
});

describe('ours is what was written down as ours', () => {
  test('what a user puts into a handoff’s folder stays as it is', async () => {
    await linkAll();
    renameSync(at('KILN/day1/bowl.mov'), at('bowl.mov'));
    const stopped = await run(await plan('theirs'));
    expect(stopped.state).toBe('failed');
    renameSync(at('bowl.mov'), at('KILN/day1/bowl.mov'));
    const theirs = ['report.csv', 'cut.edl', 'media/bowl.mov.part', 'media/note.txt'];
    for (const name of theirs) {
      rmSync(join(stopped.folder, name), { force: true });
      writeFileSync(join(stopped.folder, name), `theirs: ${name}`);
    }
    const again = await run(stopped);
    expect(again).toMatchObject({ state: 'failed', problem: { code: 'target-exists' } });
    for (const name of theirs) expect(readFileSync(join(again.folder, name), 'utf8')).toBe(`theirs: ${name}`);
    for (const name of ['report.csv', 'cut.edl']) rmSync(join(again.folder, name));
    expect(await run(again)).toMatchObject({ state: 'done' });
    expect(readdirSync(join(again.folder, 'media')).sort()).toEqual([
      'bowl.mov',
      'bowl.mov.part',
      'door.mov',
      'note.txt',
      'pipe.mov',
    ]);
  });

  test('a folder that was made, and not recorded before the end came, is gone on with; one with content is not', async () => {
    await linkAll();
    const empty = await plan('empty');
    const full = await plan('full');
    await house.db('handoff_targets').update({ folder_intended: true });
    mkdirSync(empty.folder);
    mkdirSync(full.folder);
    writeFileSync(join(full.folder, 'theirs.txt'), 'theirs');
    expect(await run(full)).toMatchObject({ state: 'failed', problem: { code: 'target-exists' } });
    expect(readdirSync(full.folder)).toEqual(['theirs.txt']);
    expect(await run(empty)).toMatchObject({ state: 'done' });
  });

  test('what was left in the making is swept, and nothing that looks like it', async () => {
    await linkAll();
    renameSync(at('KILN/day1/bowl.mov'), at('bowl.mov'));
    const stopped = await run(await plan('litter'));
    const [left] = (await house
      .db('made_files')
      .where({ owner: `handoff:${stopped.id}`, target: 'media/bowl.mov' })) as {
      aside: string;
    }[];
    writeFileSync(join(stopped.folder, left!.aside), 'half');
    writeFileSync(join(stopped.folder, 'media/.legame-theirs.part'), 'not ours');
    renameSync(at('bowl.mov'), at('KILN/day1/bowl.mov'));
    expect(await run(stopped)).toMatchObject({ state: 'done' });
    expect(readdirSync(join(stopped.folder, 'media')).filter((n) => n.startsWith('.'))).toEqual([
      '.legame-theirs.part',
    ]);
  });

  test('put back writes over nothing, and removes nothing, whatever it is called', async () => {
    const spare = (await mediaFileStore.listUnder(house.db, kiln, '')).find((f) => f.name === 'spare.mov')!;
    const { id } = (await rows(projectId)).find((r) => r.fileName === 'lost.mov')!;
    await post(`/projects/${projectId}/links`, { by: 'hand', links: [{ clipId: id, mediaFileId: spare.id }] });
    await patch(`/places/${kiln}`, { knownAs: ['E:'] }).expect(200);
    await house.idle();
    const [copy, part] = ['', '.part'].map((end) => at(`KILN/day9/lost.mov${end}`));
    mkdirSync(at('KILN/day9'));
    for (const path of [copy!, part!]) writeFileSync(path, `theirs: ${path}`);
    const putBack = async () => {
      await post(`/projects/${projectId}/put-back`, { clipIds: [id] }).expect(202);
      await house.idle();
      return (await jobsOf('put-back'))[0];
    };
    expect(await putBack()).toMatchObject({
      state: 'failed',
      problem: { code: 'nothing-to-put-back', why: { code: 'taken', name: 'lost.mov' } },
    });
    for (const path of [copy!, part!]) expect(readFileSync(path, 'utf8')).toBe(`theirs: ${path}`);
    expect(readdirSync(at('KILN/day9')).sort()).toEqual(['lost.mov', 'lost.mov.part']);
    rmSync(copy!);
    expect(await putBack()).toMatchObject({ state: 'done' });
    expect(readFileSync(copy!).equals(readFileSync(at('KILN/day2/spare.mov')))).toBe(true);
    expect(readFileSync(part!, 'utf8')).toBe(`theirs: ${part!}`);
  });

  test('two plans do not claim one folder', async () => {
    await linkAll();
    const first = await plan('same');
    // A plan that was never begun makes way for the next one of its project.
    const second = await plan('same');
    expect(second.id).not.toBe(first.id);
    await post(`/handoffs/${first.id}/run`).expect(404);
    renameSync(at('KILN/day1/bowl.mov'), at('bowl.mov'));
    expect(await run(second)).toMatchObject({ state: 'failed' });
    renameSync(second.folder, at('elsewhere'));
    const claimed = await post(`/projects/${projectId}/handoffs`, { targetFolder: at('OUT'), name: 'same' }).expect(
      409,
    );
    expect(claimed.body).toMatchObject({ code: 'folder-claimed' });
  });
});

describe('proof is given at the end', () => {
  test('a verified copy that was changed before it went on is no proof any more', async () => {
    await linkAll();
    renameSync(at('KILN/day1/bowl.mov'), at('bowl.mov'));
    const stopped = await run(await plan('overwritten'));
    renameSync(at('bowl.mov'), at('KILN/day1/bowl.mov'));
    const copy = join(stopped.folder, 'media/door.mov');
    const { size, mtime } = statSync(copy);
    // The same file, with as many bytes and the time that it had.
    writeFileSync(copy, Buffer.alloc(size, 8));
    utimesSync(copy, mtime, mtime);
    const again = await run(stopped);
    expect(again).toMatchObject({ state: 'failed', problem: { first: { code: 'target-exists' } } });
    expect(readFileSync(copy)[0]).toBe(8);
    expect([...listedIn(again.folder).keys()].filter((path) => path.startsWith('media/'))).toHaveLength(2);
    rmSync(copy);
    expect(await run(again)).toMatchObject({ state: 'done' });
  });

  test('a source replaced by as many bytes between plan and run is not what was planned', async () => {
    await linkAll();
    const planned = await plan('replaced');
    const source = at('KILN/day1/bowl.mov');
    const { size, mtime } = statSync(source);
    writeFileSync(source, Buffer.alloc(size, 1));
    utimesSync(source, mtime, mtime);
    expect(await run(planned)).toMatchObject({
      state: 'failed',
      problem: { code: 'files-not-copied', first: { code: 'source-changed', since: 'planned' } },
    });
  });
});

describe('a drive that is away is not written to', () => {
  test('an empty folder where the target was mounted stays empty', async () => {
    await linkAll();
    renameSync(at('KILN/day1/bowl.mov'), at('bowl.mov'));
    const stopped = await run(await plan('unmounted'));
    renameSync(at('bowl.mov'), at('KILN/day1/bowl.mov'));
    const fresh = await plan('never begun');
    renameSync(at('OUT'), at('OUT_unplugged'));
    mkdirSync(at('OUT'));
    for (const handoff of [stopped, fresh]) expect(await run(handoff)).toMatchObject({ state: 'failed' });
    expect(readdirSync(at('OUT'))).toEqual([]);
    rmSync(at('OUT'), { recursive: true });
    renameSync(at('OUT_unplugged'), at('OUT'));
    for (const handoff of [stopped, fresh]) expect(await run(handoff)).toMatchObject({ state: 'done' });
  });

  test('a place whose folder stays behind empty is unplugged; its index stays', async () => {
    renameSync(at('KILN'), at('.unplugged'));
    mkdirSync(at('KILN'));
    await sweepPlaces(house);
    await house.idle();
    const place = async () => (await get<PlaceView[]>('/places')).find((p) => p.id === kiln)!;
    expect(await place()).toMatchObject({ there: false, awayBecause: 'not-plugged-in', files: 6 });
    rmSync(at('KILN'), { recursive: true });
    renameSync(at('.unplugged'), at('KILN'));
    await sweepPlaces(house);
    expect(await place()).toMatchObject({ there: true, files: 6 });
  });
});

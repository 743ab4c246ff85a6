import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import { join } from 'node:path';
import type { ClipId, MediaFileId, ProjectId } from '@legame/core/model';
import type { PlaceView } from '@legame/core/contract';
import { redo, undo } from '../history/act.ts';
import { history } from '../history/views.ts';
import { forgetPlace } from '../places/change.ts';
import { clipStore } from '../stores/clips.ts';
import { clientOf } from '../testing/client.ts';
import { clipsOf } from '../testing/clips.ts';
import { event, makeList, pal } from '../testing/edits.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeFilm } from '../testing/media.ts';
import { declineCandidate, interpretClips, setAside, setPinned } from './aside.ts';
import { linkCertain, linkClips } from './link.ts';

/** The rules of acts, without HTTP: on films that moved, and one that is another recording under a known name. */
let house: House;
let projectId: ProjectId;
let spare: PlaceView;
const client = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);

beforeAll(async () => {
  house = await openHouse();
  makeFilm(at('KILN/moved/bowl.mov'), { timecode: '01:00:00:00' });
  makeFilm(at('KILN/moved/door.mov'), { timecode: '02:00:00:00' });
  // Another recording under a name that the edit knows.
  makeFilm(at('KILN/moved/pipe.mov'), { timecode: '09:00:00:00', reel: 'B007' });
  makeFilm(at('SPARE/ember.mov'), { timecode: '04:00:00:00' });
  projectId = (await client.newProject('Saltglass')) as ProjectId;
  await client.post('/places', { path: at('KILN') }).expect(201);
  spare = (await client.post('/places', { path: at('SPARE') }).expect(201)).body as PlaceView;
  await house.idle();
  const hours = [
    ['bowl', '01'],
    ['door', '02'],
    ['pipe', '03'],
    ['ember', '04'],
  ] as const;
  const list = makeList(hours.map(([name, h]) => event(`${name}.mov`, `${h}:00:00:05`, `${h}:00:01:05`)));
  await client.bring(projectId, list, 'reel.edl', { reading: pal }).expect(201);
  await house.idle();
}, 120_000);
afterAll(() => house.close());
const { state, clipId, fileId, undoAll } = clipsOf(
  () => house,
  () => projectId,
);
// Every test begins where nothing was decided.
afterEach(undoAll);
const wanted = async (clip: string, file = clip) => ({ clipId: await clipId(clip), mediaFileId: await fileId(file) });

describe('a link', () => {
  test('by hand is made whatever speaks against it, and says what it rests on', async () => {
    const act = await linkClips(house, projectId, { by: 'hand' }, [await wanted('pipe')]);
    expect(act).toMatchObject({ verb: 'link', count: 1, skipped: [] });
    const { clip, tied } = await state('pipe');
    expect(tied).toMatchObject({ by: 'hand', file: { name: 'pipe.mov' } });
    expect(clip.link!.because!.verdicts).toContain('differs');
  });

  test('that a rule asks for is made only where it is certain at this moment', async () => {
    const act = await linkClips(house, projectId, { by: 'rule' }, [await wanted('pipe')]);
    expect(act).toMatchObject({ count: 0, skipped: [{ why: 'not-certain' }] });
    expect((await state('pipe')).tied).toBeNull();
    expect(await linkCertain(house, projectId, [await clipId('pipe')])).toMatchObject({ count: 0, skipped: [] });
  });

  test('that is carried is not made where what must agree differs', async () => {
    const act = await linkClips(house, projectId, { by: 'carry' }, [await wanted('pipe'), await wanted('bowl')]);
    expect(act).toMatchObject({ verb: 'carry', count: 1, skipped: [{ clipId: await clipId('pipe'), why: 'differs' }] });
  });

  test('never gives one file to different recordings, of many at once', async () => {
    const both = [await wanted('bowl'), await wanted('door', 'bowl')];
    const act = await linkClips(house, projectId, { by: 'hand' }, both);
    expect(act.skipped.map((s) => s.why)).toEqual(['contested', 'contested']);
    expect(act.count).toBe(0);
  });

  test('of what is pinned is changed by a hand alone', async () => {
    const links = [await wanted('bowl')];
    await setPinned(house, projectId, [await clipId('bowl')], true);
    for (const by of ['rule', 'carry', 'cause'] as const)
      expect(await linkClips(house, projectId, { by }, links)).toMatchObject({
        count: 0,
        skipped: [{ why: 'pinned' }],
      });
    expect(await linkClips(house, projectId, { by: 'hand' }, links)).toMatchObject({ count: 1 });
  });

  test('to a clip or a file that nobody knows is refused, and nothing of the act is done', async () => {
    const unknown = '00000000-0000-4000-8000-000000000000';
    const good = await wanted('bowl');
    for (const bad of [
      { ...good, clipId: unknown as ClipId },
      { ...(await wanted('door')), mediaFileId: unknown as MediaFileId },
    ])
      await expect(linkClips(house, projectId, { by: 'hand' }, [good, bad])).rejects.toMatchObject({
        problem: { code: 'not-found' },
      });
    expect((await state('bowl')).tied).toBeNull();
  });
});

describe('what is taken offline', () => {
  test('stays so until it is linked again, whatever lies where the edit says', async () => {
    await linkClips(house, projectId, { by: 'hand' }, [await wanted('bowl')]);
    const act = await linkClips(house, projectId, { by: 'hand' }, [
      { clipId: await clipId('bowl'), mediaFileId: null },
    ]);
    expect(act).toMatchObject({ verb: 'unlink', count: 1 });
    await house.idle();
    expect(await state('bowl')).toMatchObject({ tied: null, status: { because: 'taken-offline' } });
    expect(await linkCertain(house, projectId)).not.toMatchObject({ count: 4 });
    expect((await state('bowl')).tied).toBeNull();
    await linkClips(house, projectId, { by: 'hand' }, [await wanted('bowl')]);
    expect(await state('bowl')).toMatchObject({ clip: { takenOffline: false }, status: { status: 'linked' } });
  });
});

describe('what is set aside, pinned or read otherwise', () => {
  test('is one act, with its reason, and only of clips that it changes', async () => {
    const ids = [await clipId('bowl'), await clipId('door')];
    expect(await setAside(house, projectId, ids, 'waived', 'a slate')).toMatchObject({ verb: 'waive', count: 2 });
    expect((await state('bowl')).status).toEqual({ status: 'waived', reason: 'a slate' });
    await setPinned(house, projectId, ids.slice(0, 1), true);
    expect(await setPinned(house, projectId, ids, true)).toMatchObject({ count: 1 });
    const read = { countedAt: null, shiftInFrames: 25 };
    const interpret = () => interpretClips(house, projectId, [{ clipId: ids[0]!, interpretation: read }]);
    expect(await interpret()).toMatchObject({ count: 1 });
    expect(await interpret()).toMatchObject({ count: 0 });
    const { entries } = await history(house, projectId);
    expect(entries.find((e) => e.verb === 'waive')?.about).toEqual({ code: 'reason', text: 'a slate' });
  });

  test('clips of another project are none of this one’s', async () => {
    const other = (await client.newProject('Elsewhere')) as ProjectId;
    expect(await setAside(house, other, [await clipId('bowl')], 'parked', '')).toMatchObject({ count: 0 });
    expect((await state('bowl')).clip.setAside).toBeNull();
  });
});

describe('a declined candidate', () => {
  test('is no candidate any more, until that is undone', async () => {
    const [clip, file] = [await clipId('bowl'), await fileId('bowl')];
    await declineCandidate(house, clip, file);
    await house.idle();
    const candidates = async () =>
      (await clipStore.getClip(house.db, clip)).proposal!.candidates.map((c) => c.mediaFileId);
    expect(await candidates()).not.toContain(file);
    await undo(house, projectId);
    await house.idle();
    expect(await candidates()).toContain(file);
  });
});

describe('undo and redo', () => {
  test('go back and forth through acts in their order; a new act ends what could be done again', async () => {
    await linkClips(house, projectId, { by: 'hand' }, [await wanted('bowl')]);
    await setAside(house, projectId, [await clipId('door')], 'parked', '');
    expect(await undo(house, projectId)).toMatchObject({ verb: 'park' });
    expect(await undo(house, projectId)).toMatchObject({ verb: 'link' });
    expect((await state('bowl')).tied).toBeNull();
    expect(await redo(house, projectId)).toMatchObject({ verb: 'link' });
    expect((await state('bowl')).tied).toMatchObject({ by: 'hand' });
    await setPinned(house, projectId, [await clipId('bowl')], true);
    await expect(redo(house, projectId)).rejects.toMatchObject({ problem: { code: 'nothing-to-redo' } });
  });

  test('do not link to a file whose place was forgotten since', async () => {
    await linkClips(house, projectId, { by: 'hand' }, [await wanted('ember')]);
    await linkClips(house, projectId, { by: 'hand' }, [{ clipId: await clipId('ember'), mediaFileId: null }]);
    await forgetPlace(house, spare.id);
    await house.idle();
    await expect(undo(house, projectId)).rejects.toMatchObject({ problem: { code: 'undo-overtaken' } });
  });
});

import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import { existsSync, linkSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type { Cleared, MediaFileView, RoomMap } from '@legame/core/contract';
import type { PlaceId } from '@legame/core/model';
import { settlePlaces } from '../room/clear.ts';
import { clearedStore } from '../stores/cleared.ts';
import { clientOf } from '../testing/client.ts';
import { openHouse, type House } from '../testing/house.ts';
import { kilnIn } from '../testing/kiln.ts';

/** Storage through the HTTP interface, on real files: one drive of films, and an edit that uses some of them. */
let house: House;
let projectId: string;
let kiln: string;
const client = clientOf(() => house);
const { get, post, put } = client;
const at = (...parts: string[]) => join(house.folder, ...parts);
const clip = (fileName: string) => client.row(projectId, fileName);
const detail = (fileName: string) => client.detail(projectId, fileName);
const filesIn = async (folder: string) =>
  (await get<{ files: MediaFileView[] }>(`/places/${kiln}/files?folder=${encodeURIComponent(folder)}`)).files;
const index = (folder = '') => client.index(kiln, folder);

beforeAll(async () => {
  house = await openHouse();
  ({ projectId, kiln } = await kilnIn(house));
}, 120_000);
afterAll(() => house.close());

describe('what a project accepts', () => {
  const all = { containers: [], codecs: [], rates: [], largestBitDepth: null, chroma: [], largestRaster: null };

  test('what it does not take is Unreadable; an accepted copy keeps frames, timecode and reel, and is linked instead', async () => {
    await put(`/projects/${projectId}/acceptance`, { ...all, codecs: ['h264'] }).expect(200);
    expect(await clip('bowl.mov')).toMatchObject({
      status: { status: 'unreadable', reason: { code: 'not-accepted', refusal: { what: 'codec', found: 'mjpeg' } } },
    });
    const bowl = await detail('bowl.mov');
    const copy = (more: object) =>
      post(`/projects/${projectId}/accepted-copies`, {
        mediaFileId: bowl.tied!.mediaFileId,
        targetFolder: at('KILN/day1'),
        codec: 'h264',
        ...more,
      });
    expect((await copy({ codec: 'ffv1' }).expect(409)).body).toMatchObject({ code: 'copy-not-accepted' });
    expect((await copy({ targetFolder: at('OUT') }).expect(409)).body).toMatchObject({ code: 'copy-in-no-place' });
    await copy({}).expect(202);
    await house.idle();
    const linked = await detail('bowl.mov');
    // The name was taken by the original, which stays as it is.
    expect(linked).toMatchObject({ status: { status: 'linked' }, tied: { name: 'bowl (2).mov', by: 'hand' } });
    expect(linked.tiedFile!.file.facts).toMatchObject({ codec: 'h264', start: 90_000, length: 50, reel: 'A001' });
    expect(readdirSync(at('KILN/day1')).filter((n) => n.startsWith('.making'))).toEqual([]);
    await post(`/projects/${projectId}/undo`).expect(200);
    expect(await clip('bowl.mov')).toMatchObject({ tied: { name: 'bowl.mov' } });
    await put(`/projects/${projectId}/acceptance`, all).expect(200);
    expect(await clip('bowl.mov')).toMatchObject({ status: { status: 'linked' } });
    rmSync(at('KILN/day1/bowl (2).mov'));
    await index();
  });
});

describe('room', () => {
  const map = (folder = '') => get<RoomMap>(`/projects/${projectId}/places/${kiln}/room?folder=${folder}`);

  test('every byte has a use; equal content that nobody uses is a duplicate', async () => {
    const { entries, byUse, unused } = await map();
    expect(entries.map((e) => e.name).sort()).toEqual(['day1', 'day2']);
    expect(byUse.unused).toBe(0);
    expect(byUse['this-project']).toBeGreaterThan(0);
    expect(unused.map((f) => [f.name, f.use]).sort()).toEqual([
      ['spare copy.mov', 'duplicate'],
      ['spare.mov', 'duplicate'],
    ]);
  });

  test('clearing moves into the holding folder, never what is used; putting back never writes over', async () => {
    const spare = (await filesIn('day2')).find((f) => f.name === 'spare.mov')!;
    const bowl = await detail('bowl.mov');
    const before = readFileSync(at('KILN/day2/spare.mov'));
    const done = (await post(`/places/${kiln}/clear`, { mediaFileIds: [spare.id, bowl.tied!.mediaFileId] }).expect(200))
      .body as { cleared: Cleared[]; skipped: unknown[] };
    expect(done.skipped).toEqual([{ name: 'bowl.mov', why: { code: 'used', by: ['Saltglass'] } }]);
    expect(done.cleared).toHaveLength(1);
    await house.idle();
    expect(existsSync(at('KILN/day2/spare.mov'))).toBe(false);
    expect(readFileSync(at('KILN', done.cleared[0]!.holding))).toEqual(before);
    expect((await map()).byUse.holding).toBe(before.length);
    expect((await filesIn('day2')).map((f) => f.name)).not.toContain('spare.mov');

    writeFileSync(at('KILN/day2/spare.mov'), 'somebody else’s');
    expect((await post(`/cleared/${done.cleared[0]!.id}/restore`).expect(200)).body).toEqual({
      path: 'day2/spare (restored 1).mov',
    });
    expect(readFileSync(at('KILN/day2/spare.mov'), 'utf8')).toBe('somebody else’s');
    expect(readFileSync(at('KILN/day2/spare (restored 1).mov'))).toEqual(before);
    await post(`/cleared/${done.cleared[0]!.id}/restore`).expect(409);
    await house.idle();
  });

  test.each([
    ['clearing had not begun', { restoring: null, lies: ['day2/kept.mov'] }, 'none'],
    ['clearing had given it its second name', { restoring: null, lies: ['day2/kept.mov', 'held'] }, 'none'],
    ['clearing had ended', { restoring: null, lies: ['held'] }, 'held'],
    ['putting back had not begun', { restoring: 'day2/kept.mov', lies: ['held'] }, 'held'],
    [
      'putting back had given it its second name',
      { restoring: 'day2/kept (restored 1).mov', lies: ['held', 'day2/kept (restored 1).mov'] },
      'restored',
    ],
    ['putting back had ended', { restoring: 'day2/kept.mov', lies: ['day2/kept.mov'] }, 'restored'],
  ] as const)(
    'who is killed when %s: the file lies once, and is known where',
    async (_, { restoring, lies }, known) => {
      const holding = `.legame-cleared-test/${randomUUID()}/kept.mov`;
      const paths = lies.map((path) => at('KILN', path === 'held' ? holding : path));
      mkdirSync(dirname(at('KILN', holding)), { recursive: true });
      writeFileSync(paths[0]!, 'kept');
      if (paths[1]) linkSync(paths[0]!, paths[1]);
      const { id } = await clearedStore.insert(house.db, {
        placeId: kiln as PlaceId,
        original: 'day2/kept.mov',
        holding,
        sizeInBytes: 4,
      });
      if (restoring) await clearedStore.noteRestoring(house.db, id, restoring);

      await settlePlaces(house);

      const record = await clearedStore.get(house.db, id).catch(() => null);
      expect(record === null ? 'none' : record.restoredAt ? 'restored' : 'held').toBe(known);
      const candidates = ['day2/kept.mov', 'day2/kept (restored 1).mov', holding].filter((path) =>
        existsSync(at('KILN', path)),
      );
      expect(candidates).toEqual([known === 'held' ? holding : (restoring ?? 'day2/kept.mov')]);
      rmSync(at('KILN', candidates[0]!));
    },
  );
});

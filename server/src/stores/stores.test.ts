import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { standardChoices } from '@legame/core/consolidate';
import { join } from 'node:path';
import { mkdirSync } from 'node:fs';
import { seenOf } from '@legame/core/state';
import { rate } from '@legame/core/time';
import type { ClipId, MediaFileId, PlaceId, ProjectId } from '@legame/core/model';
import { buildFacts } from '@legame/core/testing';
import { bringIn } from '../documents/bringIn.ts';
import { roomByPlace, roomMap } from '../room/views.ts';
import { openHouse, type House } from '../testing/house.ts';
import { makeList } from '../testing/edits.ts';
import { archiveStore } from './archives.ts';
import { clearedStore } from './cleared.ts';
import { clipStore } from './clips.ts';
import { handoffStore } from './handoffs.ts';
import { journalStore } from './journal.ts';
import { mediaFileStore } from './mediaFiles.ts';
import { placeStore } from './places.ts';
import { projectStore } from './projects.ts';
import { beginWalk } from './walks.ts';

/** Folders whose names mean something to a pattern, and one that only looks like being inside another. */
const lying = [
  ['day_1', 'a.mov'],
  ['dayX1', 'b.mov'],
  ['50%', 'c.mov'],
  ['50%/late', 'd.mov'],
  ['50', 'e.mov'],
  ["it's", 'f.mov'],
  ['day_1 (2)', 'g.mov'],
  ['', 'h.mov'],
  ['a\\b', 'i.mov'],
] as const;

let house: House;
let placeId: PlaceId;
let projectId: ProjectId;
let clips: readonly ClipId[];
const files = new Map<string, MediaFileId>();

beforeAll(async () => {
  house = await openHouse({ worker: false });
  const path = join(house.folder, 'KILN');
  mkdirSync(path);
  const place = await placeStore.insertPlace(house.db, { path, name: 'KILN', knownAs: [], fileSystemId: null });
  placeId = place.id;
  const walk = await beginWalk(house.db, placeId);
  walk.add(
    lying.map(([folder, name], i) => ({
      folder,
      name,
      sizeInBytes: 1000 * (i + 1),
      modifiedMs: 1,
      touchedMs: null,
      inode: null,
      sequence: null,
    })),
  );
  await walk.finish([]);
  for (const file of await mediaFileStore.listUnder(house.db, placeId, '')) files.set(file.name, file.id);
  projectId = (await projectStore.createProject(house.db, 'Saltglass')).id;
  const list = makeList(
    ['a', 'b', 'c'].map((n) => ({
      reel: 'R1',
      from: '00:00:00:00',
      to: '00:00:01:00',
      name: `${n}.mov`,
      file: `/X/${n}.mov`,
    })),
  );
  await bringIn(house, projectId, { name: 'l.edl', bytes: Buffer.from(list), reading: { rate: rate(25) } });
  clips = (await clipStore.listClips(house.db, projectId)).map((c) => c.id);
});
afterAll(() => house.close());

describe('media files', () => {
  test('are found under a folder by its name, whatever signs it holds', async () => {
    const under = async (folder: string) =>
      (await mediaFileStore.listUnder(house.db, placeId, folder)).map((f) => f.name).sort();
    expect(await under('day_1')).toEqual(['a.mov']);
    expect(await under('50%')).toEqual(['c.mov', 'd.mov']);
    expect(await under('50')).toEqual(['e.mov']);
    expect(await under("it's")).toEqual(['f.mov']);
    expect(await under('a\\b')).toEqual(['i.mov']);
    expect(await under('day')).toEqual([]);
    expect(await under('')).toHaveLength(lying.length);
    expect(await mediaFileStore.listFolders(house.db, placeId, '50%')).toEqual(['late']);
    expect((await mediaFileStore.listUnread(house.db, placeId, 'day_1')).map((f) => f.name)).toEqual(['a.mov']);
  });

  test('keep facts and reason apart: what was read is not unread, what is forgotten is', async () => {
    const id = files.get('a.mov')!;
    await mediaFileStore.saveReadings(house.db, [{ id, unreadable: null, fingerprint: 'f1', facts: buildFacts({}) }]);
    await mediaFileStore.saveReadings(house.db, [
      { id: files.get('b.mov')!, unreadable: { code: 'file-empty' }, fingerprint: null, facts: null },
    ]);
    const unread = async () => (await mediaFileStore.listUnread(house.db, placeId)).map((f) => f.name);
    expect(await unread()).not.toContain('a.mov');
    expect((await mediaFileStore.listTrouble(house.db, placeId)).map((f) => f.name)).toEqual(['b.mov']);
    await mediaFileStore.forgetReading(house.db, [id]);
    expect(await unread()).toContain('a.mov');
    expect((await mediaFileStore.getMediaFile(house.db, id)).fingerprint).toBeNull();
  });

  test('an index that is set aside comes back as it was, links into it and all', async () => {
    await clipStore.putLinks(house.db, [
      {
        clipId: clips[0]!,
        mediaFileId: files.get('a.mov')!,
        by: 'hand',
        seen: seenOf(await mediaFileStore.getMediaFile(house.db, files.get('a.mov')!)),
        because: null,
      },
    ]);
    const seen = async () =>
      (await mediaFileStore.listUnder(house.db, placeId, '')).map(({ id, name, facts, unreadable }) => [
        id,
        name,
        facts?.codec ?? null,
        unreadable?.code ?? null,
      ]);
    await mediaFileStore.saveReadings(house.db, [
      { id: files.get('a.mov')!, unreadable: null, fingerprint: 'f1', facts: buildFacts({}) },
    ]);
    const before = await seen();
    const archive = await house.db.transaction((trx) => archiveStore.setAside(trx, placeId, crypto.randomUUID()));
    // What was never read has nothing to be set aside.
    expect(archive.files).toBe(2);
    expect((await seen()).every(([, , codec, reason]) => codec === null && reason === null)).toBe(true);
    const restored = await house.db.transaction((trx) => archiveStore.restore(trx, archive.id));
    expect(restored).toBe(2);
    expect(await seen()).toEqual(before);
    expect((await clipStore.getClip(house.db, clips[0]!)).link?.mediaFileId).toBe(files.get('a.mov'));
  });
});

describe('clips', () => {
  test('decline a file once, however often it is said, and take it back', async () => {
    const [clip] = clips as [ClipId];
    const file = files.get('c.mov')!;
    await clipStore.decline(house.db, clip, file);
    await clipStore.decline(house.db, clip, file);
    expect((await clipStore.getClip(house.db, clip)).declined).toEqual([file]);
    await clipStore.undecline(house.db, clip, file);
    expect((await clipStore.getClip(house.db, clip)).declined).toEqual([]);
  });

  test('that are retired are not listed, and come back with what was decided of them', async () => {
    const [, clip] = clips as [ClipId, ClipId];
    await clipStore.setAside(house.db, [{ clipId: clip, setAside: { as: 'waived', reason: 'a slate' } }]);
    await clipStore.setPinned(house.db, [{ clipId: clip, pinned: true }]);
    await clipStore.retireClips(house.db, [clip]);
    expect((await clipStore.listClips(house.db, projectId)).map((c) => c.id)).not.toContain(clip);
    const retired = (
      await clipStore.listOfDocument(house.db, (await clipStore.getClip(house.db, clips[0]!)).documentId)
    ).find((c) => c.id === clip);
    expect(retired).toMatchObject({ retired: true, pinned: true, setAside: { as: 'waived', reason: 'a slate' } });
  });

  test('versions tell which matching would see otherwise, and no other', async () => {
    const [, , clip] = clips as [ClipId, ClipId, ClipId];
    const file = files.get('c.mov')!;
    const versions = async () =>
      new Map((await clipStore.listVersions(house.db, projectId)).map((v) => [v.id, v.version]));
    const othersAfter = async (act: () => Promise<unknown>) => {
      const before = await versions();
      await act();
      return [...(await versions())].filter(([id, version]) => before.get(id) !== version).map(([id]) => id);
    };
    const read = (shiftInFrames: number) =>
      clipStore.setInterpretations(house.db, [{ clipId: clip, interpretation: { countedAt: null, shiftInFrames } }]);
    const seen = seenOf(await mediaFileStore.getMediaFile(house.db, file));
    for (const act of [
      () => read(25),
      () => clipStore.putLinks(house.db, [{ clipId: clip, mediaFileId: file, by: 'hand', seen, because: null }]),
      () => clipStore.deleteLinks(house.db, [clip]),
      () => clipStore.decline(house.db, clip, file),
      () => clipStore.undecline(house.db, clip, file),
    ])
      expect(await othersAfter(act)).toEqual([clip]);
    for (const act of [
      () => read(25),
      () => clipStore.setPinned(house.db, [{ clipId: clip, pinned: true }]),
      () => clipStore.setAside(house.db, [{ clipId: clip, setAside: { as: 'parked', reason: '' } }]),
      () => clipStore.setTakenOffline(house.db, [{ clipId: clip, takenOffline: true }]),
    ])
      expect(await othersAfter(act)).toEqual([]);
  });
});

describe('the journal', () => {
  test('does again in the order in which it was undone, until something else is done', async () => {
    const append = (verb: 'park' | 'pin') =>
      journalStore.append(house.db, projectId, { verb, changes: [], about: null });
    const [one, two] = [await append('park'), await append('pin')];
    expect((await journalStore.findLast(house.db, projectId))!.id).toBe(two.id);
    for (const id of [two.id, one.id]) await journalStore.setUndone(house.db, id, true);
    expect((await journalStore.findRedoable(house.db, projectId))!.id).toBe(one.id);
    await journalStore.setUndone(house.db, one.id, false);
    const three = await append('park');
    expect(await journalStore.findRedoable(house.db, projectId)).toBeNull();
    expect((await journalStore.listEntries(house.db, projectId)).map((e) => [e.id, e.undone, e.overtaken])).toEqual([
      [three.id, false, false],
      [two.id, true, true],
      [one.id, false, false],
    ]);
    expect(await journalStore.findEntry(house.db, crypto.randomUUID() as ProjectId, one.id)).toBeNull();
  });

  test('a checkpoint of one project is none of another', async () => {
    await house.db.transaction((trx) =>
      journalStore.keepState(trx, projectId, { name: 'before colour', before: null }),
    );
    const [set] = await journalStore.listCheckpoints(house.db, projectId);
    const other = (await projectStore.createProject(house.db, 'Other')).id;
    expect(await journalStore.findCheckpoint(house.db, other, set!.id)).toBeNull();
    expect((await journalStore.findCheckpoint(house.db, projectId, set!.id))!.name).toBe('before colour');
  });
});

describe('handoffs', () => {
  test('keep what went wrong as a problem with its fields, of the whole and of each file', async () => {
    const id = await handoffStore.insertHandoff(
      house.db,
      {
        projectId,
        targets: [{ folder: '/out/x', parent: null }],
        layout: 'folder',
        scope: { timelines: null, ranges: [], clips: null, bins: [] },
        plan: {
          choices: standardChoices,
          recordings: [],
          wholeInBytes: 0,
          clipsChosen: null,
          bins: [],
          ranges: [],
          leftOut: [],
          timelines: [],
          sizeInBytes: 0,
          targets: [
            {
              folder: '/out/x',
              room: { freeInBytes: 1, totalInBytes: 1, headroomShare: 0.1, usableInBytes: 1, fits: true },
              seconds: null,
            },
          ],
        },
      },
      [{ mediaFileId: files.get('a.mov')!, source: '/KILN/a.mov', target: 'media/a.mov', sizeInBytes: 1000 }],
    );
    const first = { code: 'source-changed', path: '/KILN/a.mov', since: 'begun' } as const;
    await handoffStore.setFile(house.db, id, 0, { state: 'failed', xxh64: null, problem: first });
    await handoffStore.setState(house.db, id, 'failed', {
      problem: { code: 'files-not-copied', failed: 1, of: 1, first },
    });
    expect((await handoffStore.listFiles(house.db, id))[0]).toMatchObject({ state: 'failed', problem: first });
    const kept = await handoffStore.getHandoff(house.db, id);
    expect(kept.problem).toEqual({ code: 'files-not-copied', failed: 1, of: 1, first });
    await handoffStore.setState(house.db, id, 'running');
    expect((await handoffStore.getHandoff(house.db, id)).problem).toBeNull();
  });
});

describe('room', () => {
  test('of all places, by use, is what the map of each says, what was cleared included', async () => {
    await clearedStore.insert(house.db, {
      placeId,
      original: 'old/x.mov',
      holding: 'Legame holding/2026-11-01/old/x.mov',
      sizeInBytes: 77,
    });
    const [all] = await roomByPlace(house, projectId);
    const map = await roomMap(house, projectId, placeId, '');
    expect(all!.byUse).toEqual(map.byUse);
    expect(all!.byUse.holding).toBe(77);
    const total = Object.values(all!.byUse).reduce((sum, n) => sum + n, 0);
    expect(total - 77).toBe(lying.reduce((sum, _, i) => sum + 1000 * (i + 1), 0));
    expect(all!.byUse['this-project']).toBe(1000);
  });
});

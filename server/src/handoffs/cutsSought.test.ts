import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import type { ReaderProcess } from '../media/readerProcess.ts';
import { cuttingStore } from '../stores/cuttings.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import { beginWalk } from '../stores/walks.ts';
import { openHouse, type House } from '../testing/house.ts';
import { CutsSought, type FileToCut } from './cutsSought.ts';

/** Readers that answer when they are told to, and say what they were asked. */
let house: House;
let files: readonly FileToCut[];
type Answer = Awaited<ReturnType<ReaderProcess['ask']>>;
type Held = { readonly path: string; readonly answer: (answer: Answer) => void };
let held: Held[];
let brokenOff: string[];
let stopped: number;
let sought: CutsSought;

beforeAll(async () => {
  house = await openHouse({ worker: false });
  const path = join(house.folder, 'KILN');
  mkdirSync(path);
  const place = await placeStore.insertPlace(house.db, { path, name: 'KILN', knownAs: [], fileSystemId: null });
  const walk = await beginWalk(house.db, place.id);
  walk.add(
    ['a', 'b', 'c', 'd'].map((n) => ({
      ...{ folder: '', name: `${n}.mov`, sizeInBytes: 1, modifiedMs: 1, touchedMs: null, inode: null, sequence: null },
    })),
  );
  await walk.finish([]);
  files = (await mediaFileStore.listUnder(house.db, place.id, ''))
    .toSorted((a, b) => a.name.localeCompare(b.name))
    .map((file) => ({ file, place }));
});
afterAll(() => house.close());
beforeEach(async () => {
  await house.db('cuttings').delete();
  [held, brokenOff, stopped] = [[], [], 0];
  sought = new CutsSought(() => ({
    ask: (question, { signal }) =>
      new Promise((resolve) => {
        const path = 'path' in question ? question.path : '';
        const one = { path, answer: resolve };
        held.push(one);
        signal?.addEventListener('abort', () => {
          brokenOff.push(path);
          resolve({ part: 'aborted' });
        });
      }),
    stop: () => (stopped += 1),
  }));
});

const cuts = { part: 'cuts', cutting: { can: 'anywhere' }, streams: null } as never as Answer;
const asked = () => held.map((h) => h.path);
const find = (n: number, signal?: AbortSignal) => sought.find(house.db, files[n]!, signal);
const answerAll = async () => {
  for (let n = 0; n < held.length; n += 1) {
    held[n]!.answer(cuts);
    await after(30);
  }
};

describe('where files can be cut', () => {
  test('is looked for once, however many ask, and kept', async () => {
    const all = [find(0), find(0), find(0)];
    await after(20);
    expect(asked()).toEqual(['a.mov']);
    await answerAll();
    expect(await Promise.all(all)).toEqual(all.map(() => ({ cutting: { can: 'anywhere' }, streams: null })));
    expect((await cuttingStore.listOf(house.db, [files[0]!.file])).size).toBe(1);
    expect(stopped).toBe(1);
  });

  test('is looked for in two at a time; what nobody waits for any more is not begun', async () => {
    const leaving = new AbortController();
    const staying = [find(0), find(1)];
    const left = [find(2, leaving.signal), find(3, leaving.signal), find(1, leaving.signal)];
    const more = find(3);
    await after(20);
    expect(asked()).toEqual(['a.mov', 'b.mov']);
    leaving.abort();
    expect((await Promise.allSettled(left)).map((l) => l.status)).toEqual(['rejected', 'rejected', 'rejected']);
    await answerAll();
    await Promise.all([...staying, more]);
    // The other three of four still have somebody.
    expect(asked()).toEqual(['a.mov', 'b.mov', 'd.mov']);
    expect(brokenOff).toEqual([]);
  });

  test('is broken off when the last one leaves, and looked for anew when somebody comes', async () => {
    const [first, second] = [new AbortController(), new AbortController()];
    const both = Promise.allSettled([find(0, first.signal), find(0, second.signal)]);
    await after(20);
    first.abort();
    await after(20);
    expect(brokenOff).toEqual([]);
    second.abort();
    await both;
    await after(20);
    expect(brokenOff).toEqual(['a.mov']);
    const again = find(0);
    await after(20);
    held.at(-1)!.answer(cuts);
    expect(await again).toMatchObject({ cutting: { can: 'anywhere' } });
  });

  test('of a drive that does not answer is not known, and asked for again the next time', async () => {
    const one = find(0);
    await after(20);
    held[0]!.answer({ part: 'no-answer', seconds: 120 });
    expect(await one).toMatchObject({ cutting: { can: 'nowhere', because: 'unreadable-index' } });
    expect((await cuttingStore.listOf(house.db, [files[0]!.file])).size).toBe(0);
    const again = find(0);
    await after(20);
    expect(asked()).toEqual(['a.mov', 'a.mov']);
    await answerAll();
    await again;
  });
});

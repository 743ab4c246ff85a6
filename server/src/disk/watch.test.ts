import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PlaceWatcher } from './watch.ts';

let root: string;
let watcher: PlaceWatcher;
let told: string[][];
/** What the watcher wants to do once it has been quiet, and who waits for that. */
let whenQuiet: (() => void) | null;
let noted: () => void;
beforeEach(() => {
  root = mkdtempSync(join(tmpdir(), 'legame-watch-'));
  for (const folder of ['day1', 'day2']) mkdirSync(join(root, folder));
  told = [];
  whenQuiet = null;
  noted = () => undefined;
  const never = setTimeout(() => undefined, 0);
  watcher = new PlaceWatcher(
    root,
    (folders) => told.push(folders.sort()),
    (run) => {
      whenQuiet = run;
      noted();
      return never;
    },
  );
  watcher.follow(['', 'day1', 'day2', 'gone']);
});
afterEach(() => {
  watcher.close();
  rmSync(root, { recursive: true, force: true });
});
/** Until these folders were told; each time something was heard of, it has been quiet. */
async function toldOf(...folders: string[]): Promise<string[]> {
  while (!folders.every((folder) => told.flat().includes(folder))) {
    if (!whenQuiet) await new Promise<void>((done) => (noted = done));
    const run = whenQuiet!;
    whenQuiet = null;
    run();
  }
  return [...new Set(told.flat())].sort();
}

test('folders that changed are told once they are quiet; hidden names tell nothing', async () => {
  writeFileSync(join(root, 'day2/.making-x.mov'), 'x');
  writeFileSync(join(root, 'day1/a.mov'), 'x');
  writeFileSync(join(root, 'day1/b.mov'), 'x');
  writeFileSync(join(root, 'c.mov'), 'x');
  await new Promise<void>((done) => (noted = done));
  expect(told).toEqual([]);
  expect(await toldOf('', 'day1')).toEqual(['', 'day1']);
  writeFileSync(join(root, 'day2/a.mov'), 'x');
  expect(await toldOf('day2')).toEqual(['', 'day1', 'day2']);
});

test('folders that are no longer followed tell nothing', async () => {
  watcher.follow(['day2']);
  writeFileSync(join(root, 'day1/a.mov'), 'x');
  writeFileSync(join(root, 'day2/a.mov'), 'x');
  expect(await toldOf('day2')).toEqual(['day2']);
});

import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import { PlaceWatcher } from './watch.ts';

let root: string;
let watcher: PlaceWatcher;
let told: string[][];
beforeEach(() => {
  root = mkdtempSync(join(tmpdir(), 'legame-watch-'));
  for (const folder of ['day1', 'day2']) mkdirSync(join(root, folder));
  told = [];
  watcher = new PlaceWatcher(root, (folders) => told.push(folders.sort()));
  watcher.follow(['', 'day1', 'day2', 'gone']);
});
afterEach(() => {
  watcher.close();
  rmSync(root, { recursive: true, force: true });
});
async function until(check: () => boolean): Promise<void> {
  for (let i = 0; i < 200 && !check(); i += 1) await after(25);
}

test('folders that changed are told once they are quiet; hidden names tell nothing', async () => {
  writeFileSync(join(root, 'day1/.making-x.mov'), 'x');
  writeFileSync(join(root, 'day1/a.mov'), 'x');
  writeFileSync(join(root, 'day1/b.mov'), 'x');
  writeFileSync(join(root, 'c.mov'), 'x');
  await until(() => told.length > 0);
  expect(told).toEqual([['', 'day1']]);
});

test('folders that are no longer followed tell nothing', async () => {
  watcher.follow(['day2']);
  writeFileSync(join(root, 'day1/a.mov'), 'x');
  writeFileSync(join(root, 'day2/a.mov'), 'x');
  await until(() => told.length > 0);
  expect(told).toEqual([['day2']]);
});

import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { mkdirSync, mkdtempSync, rmSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import { bayStateFile, useBay } from './conditions.ts';
import { useFence } from './held.ts';
import { Lookout } from './lookout.ts';

let bay: string;
let own: string;
let lookout: Lookout;
let changes = 0;
beforeEach(() => {
  bay = mkdtempSync(join(tmpdir(), 'legame-lookout-'));
  own = mkdtempSync(join(tmpdir(), 'legame-own-'));
  for (const drive of ['KILN', 'SHARE', 'DISK']) mkdirSync(join(bay, drive));
  useBay(bay);
  useFence([bay, own]);
  lookout = new Lookout(own, { roundMs: 20, roundsToWait: 4, roundsToGiveUp: 12 });
});
afterEach(() => {
  // Whatever still stalls lets go.
  stall();
  useBay(null);
  rmSync(bay, { recursive: true, force: true });
  rmSync(own, { recursive: true, force: true });
});

function stall(...drives: string[]): void {
  const file = join(bay, bayStateFile);
  writeFileSync(file, JSON.stringify({ drives: Object.fromEntries(drives.map((d) => [d, { stalling: true }])) }));
  // Two changes in one tick of the clock would be taken for one.
  changes += 1;
  utimesSync(file, new Date(), new Date(Date.now() + changes * 1000));
  useBay(bay);
}
const at = (drive: string) => join(bay, drive);

test('a folder is there, or it is not', async () => {
  expect(await lookout.look(at('KILN'))).toMatchObject({
    there: true,
    slow: false,
    readOnly: false,
    isEmpty: true,
    root: { inode: statSync(at('KILN')).ino },
  });
  expect(await lookout.look(at('GONE'))).toEqual({ there: false, because: 'not-plugged-in' });
  writeFileSync(join(bay, 'file'), '');
  expect(await lookout.look(at('file'))).toEqual({ there: false, because: 'not-plugged-in' });
});

test('a share that stalls has no answer yet, then is given up, and is there again when it answers', async () => {
  stall('SHARE');
  expect(await lookout.look(at('SHARE'))).toEqual({ there: null });
  // It holds up nobody else.
  expect(await lookout.look(at('KILN'))).toMatchObject({ there: true });
  let answer = await lookout.look(at('SHARE'));
  while (answer.there === null) answer = await lookout.look(at('SHARE'));
  expect(answer).toEqual({ there: false, because: 'no-answer' });
  // Asked again it says so at once, with one look under way however often it is asked.
  expect(await Promise.all([1, 2, 3].map(() => lookout.look(at('SHARE'))))).toEqual(
    [1, 2, 3].map(() => ({ there: false, because: 'no-answer' })),
  );
  stall();
  for (let i = 0; i < 100 && answer.there !== true; i += 1) {
    // It is still being given up until its one look has come back.
    await after(30);
    answer = await lookout.look(at('SHARE'));
  }
  expect(answer).toMatchObject({ there: true });
});

test('where the machine’s own disk does not answer either, no place is given up', async () => {
  const busy = new Lookout(at('DISK'), { roundMs: 20, roundsToWait: 4, roundsToGiveUp: 12 });
  stall('DISK', 'SHARE');
  for (let i = 0; i < 5; i += 1) expect(await busy.look(at('SHARE'))).toEqual({ there: null });
});

import { afterEach, expect, test } from '@jest/globals';
import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { setTimeout as aWhile } from 'node:timers/promises';
import { ProgramPatience } from './programPatience.ts';

const programs: ChildProcess[] = [];
afterEach(() => {
  for (const program of programs.splice(0)) program.kill('SIGKILL');
});
const start = (command: string) => {
  const program = spawn('sh', ['-c', command], { stdio: 'ignore' });
  programs.push(program);
  return program.pid!;
};
const works = 'while :; do :; done';
const waits = 'exec sleep 60';

/** In which order patience with programs comes to its end. */
function ends(with_: Readonly<Record<string, readonly [pid: number | undefined, patienceMs: number]>>) {
  const order: string[] = [];
  return new Promise<string[]>((resolve) => {
    const all = Object.entries(with_);
    for (const [name, [pid, patienceMs]] of all)
      new ProgramPatience(pid, patienceMs, () => {
        order.push(name);
        if (order.length === all.length) resolve(order);
      });
  });
}

test('a program that works is waited for longer than one that waits for something, and not for ever', async () => {
  const [working, waiting] = [start(works), start(waits)];
  expect(await ends({ working: [working, 300], waiting: [waiting, 600] })).toEqual(['waiting', 'working']);
});

test('programs that have to share a processor with many others are not given up for that', async () => {
  for (let i = 0; i < 12; i += 1) start(works);
  const [starved, waiting] = [start(`exec nice -n 10 sh -c '${works}'`), start(waits)];
  expect(await ends({ starved: [starved, 400], waiting: [waiting, 900] })).toEqual(['waiting', 'starved']);
});

test('of a program that is no more nothing is expected', async () => {
  const gone = spawn('true', { stdio: 'ignore' });
  await once(gone, 'exit');
  expect(await ends({ gone: [gone.pid, 100] })).toEqual(['gone']);
});

test('a word from it begins patience anew, and its end is the end of it', async () => {
  const told: string[] = [];
  const pid = start(waits);
  const talking = new ProgramPatience(pid, 400, () => told.push('talking'));
  const ended = new ProgramPatience(pid, 100, () => told.push('ended'));
  ended.end();
  for (let words = 0; words < 10; words += 1) {
    await aWhile(100);
    talking.again();
  }
  expect(told).toEqual([]);
  talking.end();
});

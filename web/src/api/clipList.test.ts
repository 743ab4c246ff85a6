import { expect, test } from '@jest/globals';
import type { ClipRow } from '@legame/core/contract';
import { loadChanges, loadFirst, loadRest } from './clipList.ts';
import { clipRow } from '../testing/rows.ts';

/** A server's list in small: rows with versions, handed out in blocks and by what changed. */
class List {
  epoch = 1;
  version = 1;
  rows: { row: ClipRow; version: number }[];
  readonly asked: string[] = [];
  /** Done once, when the next block is asked for. */
  meanwhile: (() => void) | null = null;

  constructor(count: number) {
    this.rows = Array.from({ length: count }, (_, i) => ({ row: rowOf(i), version: 1 }));
  }
  ask = (path: string): Promise<unknown> => {
    const url = new URL(path, 'http://localhost/');
    this.asked.push(`${url.pathname.split('/').at(-1)}${url.search}`);
    const meanwhile = this.meanwhile;
    this.meanwhile = null;
    meanwhile?.();
    const number = (name: string) => Number(url.searchParams.get(name));
    const rows = url.pathname.endsWith('since')
      ? this.rows.filter((r) => r.version > number('version'))
      : this.rows.slice(number('from'), number('from') + number('limit'));
    const { epoch, version } = this;
    return Promise.resolve({ epoch, version, turned: 0, total: this.rows.length, rows: rows.map((r) => r.row) });
  };
  rename(i: number, name: string): void {
    this.version += 1;
    this.rows[i] = { row: { ...this.rows[i]!.row, name }, version: this.version };
  }
  remove(i: number): void {
    this.epoch += 1;
    this.rows.splice(i, 1);
  }
}
const rowOf = (i: number): ClipRow => clipRow(i + 1, `clip ${i}.mov`, 'linked', { name: `clip ${i}` });
const names = (rows: readonly ClipRow[]) => rows.map((r) => r.name);
const whole = async (list: List) => loadRest('p', await loadFirst('p', list.ask), list.ask);

test('some rows come at once, the rest in blocks, each row once and in order', async () => {
  const list = new List(9000);
  const first = await loadFirst('p', list.ask);
  expect(first).toHaveLength(400);
  const all = await loadRest('p', first, list.ask);
  expect(names(all)).toEqual(names(list.rows.map((r) => r.row)));
  expect(list.asked.map((a) => a.split('?')[0])).toEqual(['block', 'block', 'block', 'block', 'since']);
  // Nothing is asked for where nothing is missing.
  const before = list.asked.length;
  expect(await loadRest('p', all, list.ask)).toBe(all);
  expect(list.asked).toHaveLength(before);
});

test('what changes while blocks come in is not lost', async () => {
  const list = new List(1000);
  const first = await loadFirst('p', list.ask);
  list.meanwhile = () => list.rename(3, 'renamed meanwhile');
  expect(names(await loadRest('p', first, list.ask))[3]).toBe('renamed meanwhile');
});

test('a clip that goes while blocks come in begins the list anew', async () => {
  const list = new List(1000);
  const first = await loadFirst('p', list.ask);
  list.meanwhile = () => list.remove(0);
  expect(names(await loadRest('p', first, list.ask))).toEqual(names(list.rows.map((r) => r.row)));
});

test('later only what changed is asked for, and rows that did not stay the same things', async () => {
  const list = new List(1000);
  const all = await whole(list);
  expect(await loadChanges('p', all, list.ask)).toBe(all);
  list.rename(500, 'another');
  list.asked.length = 0;
  const now = await loadChanges('p', all, list.ask);
  expect(list.asked).toEqual(['since?version=1&turned=0']);
  expect(now[500]!.name).toBe('another');
  expect(now.filter((row, i) => row === all[i])).toHaveLength(999);
  // The next time what changed after that is asked for.
  await loadChanges('p', now, list.ask);
  expect(list.asked.at(-1)).toBe('since?version=2&turned=0');
});

test('clips that went or came are a list of another epoch, loaded whole', async () => {
  const list = new List(600);
  const all = await whole(list);
  list.remove(10);
  expect(names(await loadChanges('p', all, list.ask))).toEqual(names(list.rows.map((r) => r.row)));
});

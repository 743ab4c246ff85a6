import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { appendFileSync, existsSync, readdirSync, utimesSync } from 'node:fs';
import { spansOf } from '@legame/core/consolidate';
import type { Facts } from '@legame/core/model';
import { Cuttings, startOf, type HowMade } from '../testing/parts.ts';
import type { NextPart } from './ahead.ts';

let cuttings: Cuttings;
beforeAll(() => {
  cuttings = new Cuttings();
});
afterAll(() => cuttings.remove());

const everyFrame = '-c:v mjpeg -q:v 3 -pix_fmt yuvj422p';
const films: readonly (readonly [string, HowMade])[] = [
  ['whole.mov', { rate: '30000/1001', start: '00:59:58;20', picture: everyFrame, sound: '-c:a pcm_s24le' }],
  [
    'groups.mov',
    { rate: '24000/1001', start: '01:00:00:00', picture: '-c:v libx264 -g 24 -bf 2', sound: '-c:a pcm_s16le' },
  ],
  ['coded.mp4', { rate: '25', start: '10:00:00:00', picture: '-c:v libx264 -g 24 -bf 2', sound: '-c:a aac' }],
  // Of this one nobody knows beforehand where its pictures lie: its parts are written one by one.
  [
    'plain.mxf',
    { rate: '25', start: '10:00:00:00', picture: '-c:v mpeg2video -g 12 -b:v 3M', sound: '-c:a pcm_s16le' },
  ],
];

let made = 0;
const partOf = (name: string, facts: Facts, range: { start: number; end: number }): NextPart => ({
  aside: `.legame-${(made += 1)}-${name}`,
  trim: { range, startsAt: startOf(facts, range.start), facts, coded: null, streams: null },
});
const isThere = ({ aside }: NextPart) => existsSync(cuttings.path(`out/${aside}`));

async function threeOf(name: string, how: HowMade) {
  if (!existsSync(cuttings.path(name))) cuttings.make(name, how);
  const facts = await cuttings.factsOf(name);
  const cutting = await cuttings.cutsOf(name, facts);
  if (cutting.can === 'nowhere') throw new Error(cutting.because);
  const uses = [5, 40, 90].map((start) => ({ start, end: start + 20 }));
  const ranges = spansOf(uses, facts.length!, cutting, { division: 'use', handles: 0, gap: 0 }).map((s) => s.range);
  return { facts, source: cuttings.decoded(name), parts: ranges.map((range) => partOf(name, facts, range)) };
}

describe('parts of one film that are written together', () => {
  test.each(films)('%s: each is what it is by itself', async (name, how) => {
    const { facts, source, parts } = await threeOf(name, how);
    const [first, ...next] = parts;
    const done = [await cuttings.made(name, first!, next)];
    expect(next.map(isThere)).toEqual(next.map(() => name !== 'plain.mxf'));
    for (const part of next) done.push(await cuttings.made(name, part));
    for (const [i, { trim }] of parts.entries()) {
      const { range } = trim;
      const [together, alone] = [done[i]!, await cuttings.part(name, range, facts)];
      // An MXF gets an identifier of its own whenever it is written.
      if (!name.endsWith('.mxf')) expect(together.xxh64).toBe(alone.xxh64);
      expect(together.sizeInBytes).toBe(alone.sizeInBytes);
      expect(cuttings.decoded(together.name)).toEqual(source.slice(range.start, range.end));
    }
  });

  test('one that was touched since, or is to be another by now, is made anew', async () => {
    const [name, how] = films[0]!;
    const { facts, source, parts } = await threeOf(name, how);
    const [first, touched, other] = parts as [NextPart, NextPart, NextPart];
    await cuttings.made(name, first, [touched, other]);
    appendFileSync(cuttings.path(`out/${touched.aside}`), 'x');
    const { xxh64 } = await cuttings.made(name, touched);
    expect(xxh64).toBe((await cuttings.part(name, touched.trim.range, facts)).xxh64);
    const instead = { ...other, trim: { ...other.trim, range: { start: 60, end: 70 }, startsAt: startOf(facts, 60) } };
    const { name: found } = await cuttings.made(name, instead);
    expect(cuttings.decoded(found)).toEqual(source.slice(60, 70));
  });

  test('one whose source is another by now is cut from that', async () => {
    const { facts, parts } = await threeOf('replaced.mov', films[0]![1]);
    const [first, second] = parts as [NextPart, NextPart];
    await cuttings.made('replaced.mov', first, [second]);
    cuttings.make('replaced.mov', { ...films[0]![1], more: '-vf negate' });
    utimesSync(cuttings.path('replaced.mov'), 1_700_000_000, 1_700_000_000);
    const { name } = await cuttings.made('replaced.mov', second);
    expect(cuttings.decoded(name)).toEqual(
      cuttings.decoded('replaced.mov').slice(second.trim.range.start, second.trim.range.end),
    );
    expect(facts.length).toBe((await cuttings.factsOf('replaced.mov')).length);
  });

  test('one that cannot be made is no matter to the others, and says for itself what is wrong', async () => {
    const [name, how] = films[0]!;
    const { facts, source, parts } = await threeOf(name, how);
    const [first, good] = parts as [NextPart, NextPart];
    const taken = partOf(name, facts, { start: 70, end: 80 });
    await cuttings.made(name, taken);
    const beyond = partOf(name, facts, { start: facts.length! - 5, end: facts.length! + 20 });
    const { name: found } = await cuttings.made(name, first, [taken, beyond, good]);
    expect(cuttings.decoded(found)).toEqual(source.slice(first.trim.range.start, first.trim.range.end));
    await expect(cuttings.made(name, taken)).rejects.toMatchObject({ code: 'EEXIST' });
    await expect(cuttings.made(name, beyond)).rejects.toMatchObject({ code: 'trim-not-proven' });
    const { name: last } = await cuttings.made(name, good);
    expect(cuttings.decoded(last)).toEqual(source.slice(good.trim.range.start, good.trim.range.end));
  });

  test('nothing half-made is left where writing them fails', async () => {
    const { facts } = await threeOf(films[0]![0], films[0]![1]);
    cuttings.make('broken.mov', { ...films[0]![1], seconds: 2 });
    const parts = [5, 20].map((start) =>
      partOf('broken.mov', { ...facts, rate: { num: 25, den: 1 } }, { start, end: start + 5 }),
    );
    const before = readdirSync(cuttings.path('out'));
    await expect(cuttings.made('broken.mov', parts[0]!, [parts[1]!])).rejects.toMatchObject({
      code: 'trim-not-proven',
    });
    expect(readdirSync(cuttings.path('out'))).toEqual(before);
  });
});

import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { pathKeys, PlaceDirectory, placeNames, wayInto } from '../paths/places.ts';
import { parseRememberedPath } from '../paths/remembered.ts';
import { buildClip, buildFile, buildPlace } from '../testing/build.ts';
import { Crowd } from './crowd.ts';
import { IntervalIndex } from '../time/intervals.ts';
import { prepareClip, prepareFile } from './prepare.ts';

/** Short cuts to candidates, held against looking at everything. */
describe('what is asked of an index is what looking at all of it would find', () => {
  test('intervals that meet a stretch, in the order of their beginnings', () => {
    const moment = fc.integer({ min: 0, max: 60 });
    const interval = fc
      .tuple(moment, fc.integer({ min: 0, max: 30 }))
      .map(([from, long]) => ({ from, to: from + long }));
    fc.assert(
      fc.property(fc.array(interval, { maxLength: 40 }), moment, moment, (all, a, b) => {
        const [from, to] = [Math.min(a, b), Math.max(a, b)];
        const items = all.map((i, item) => ({ ...i, item }));
        const found: number[] = [];
        new IntervalIndex(items).meeting(from, to, (item) => void found.push(item));
        const begun = found.map((item) => all[item]!.from);
        expect(begun).toEqual([...begun].sort((x, y) => x - y));
        expect(found.sort((x, y) => x - y)).toEqual(
          items.filter((i) => i.from <= to && i.to >= from).map((i) => i.item),
        );
      }),
      { numRuns: 300 },
    );
  });

  test('intervals that begin within a stretch; and no more are looked for than were asked for', () => {
    const moment = fc.integer({ min: 0, max: 40 });
    fc.assert(
      fc.property(fc.array(moment, { maxLength: 40 }), moment, moment, (begins, a, b) => {
        const [from, to] = [Math.min(a, b), Math.max(a, b)];
        const index = new IntervalIndex(begins.map((at, item) => ({ from: at, to: at + (item % 5), item })));
        expect(index.beginning(from, to).sort((x, y) => x - y)).toEqual(
          begins.flatMap((at, item) => (at >= from && at <= to ? [item] : [])),
        );
        const found: number[] = [];
        index.meeting(0, 60, (item) => found.push(item) < 3);
        expect(found).toHaveLength(Math.min(3, begins.length));
      }),
      { numRuns: 200 },
    );
  });

  test('the places into which a path leads, and how', () => {
    const part = fc.constantFrom('KILN', 'kiln', 'OLD', 'day1', 'bay', 'Volumes', 'mnt');
    const name = fc.array(part, { minLength: 1, maxLength: 3 }).map((parts) => parts.join('/'));
    const place = fc.record({ name, path: name.map((p) => `/${p}`), knownAs: fc.array(name, { maxLength: 3 }) });
    const start = fc.constantFrom('', '/', '/Volumes/', 'D:\\', '//server/', 'file:///');
    fc.assert(
      fc.property(fc.array(place, { maxLength: 5 }), start, name, (given, begin, path) => {
        const places = given.map((p, i) =>
          buildPlace(p.name, { ...p, id: `${i}` as never, taught: p.knownAs.slice(1) }),
        );
        const keys = pathKeys(parseRememberedPath(`${begin}${path}/bowl.mov`));
        const byLooking = places.flatMap((p) => {
          const way = wayInto(keys, placeNames(p));
          return way ? [[p.id, way]] : [];
        });
        const found = new PlaceDirectory(places).waysInto(keys).map(({ place: p, way }) => [p.place.id, way]);
        const byId = (list: unknown[][]) => list.sort((a, b) => (String(a[0]) < String(b[0]) ? -1 : 1));
        expect(byId(found)).toEqual(byId(byLooking));
      }),
      { numRuns: 400 },
    );
  });
});

describe('namesakes by the dozen are narrowed, and none is passed over silently', () => {
  const start = fc.integer({ min: 0, max: 12 }).map((n) => n * 12);
  const reel = fc.constantFrom('A001', 'A001', 'A001', 'GLASS-A_001', 'GLASS-A_002', null);
  const facts = fc.oneof(
    { weight: 8, arbitrary: fc.record({ start, length: fc.constantFrom(50, 100, 101), reel }) },
    { weight: 1, arbitrary: fc.constant({ timecodeSource: 'none' as const, start: 0 }) },
    { weight: 1, arbitrary: fc.constant(null) },
  );
  const folder = fc.constantFrom('KILN/day1', 'KILN/day2', 'KILN/a/day1', 'BAY/x');
  const crowd = fc.array(fc.tuple(folder, facts), { minLength: 30, maxLength: 140 });
  const clip = fc.record({ start, length: fc.constantFrom(50, 100), reel, knowsExtent: fc.boolean(), folder });

  test('every file is taken, told apart by its time, or owned up to', () => {
    fc.assert(
      fc.property(crowd, clip, (given, wanted) => {
        const files = given.map(([at, known], i) =>
          prepareFile(buildFile(`${at}/${i}/bowl.mov`, known), at.split('/')[0]!),
        );
        const available = { start: wanted.start, end: wanted.start + wanted.length };
        const asked = prepareClip(
          buildClip(`/Volumes/OLD/${wanted.folder}/bowl.mov`, {
            reel: wanted.reel,
            available: wanted.knowsExtent ? available : null,
            used: [{ start: available.start + 5, end: available.end - 5 }],
          }),
        );
        const all = new Crowd();
        for (const file of files) all.add(file);
        const { files: taken, outOfTime, leftOut } = all.narrowed(asked);
        expect(new Set(taken).size).toBe(taken.length);
        expect(Math.min(outOfTime, leftOut)).toBeGreaterThanOrEqual(0);
        expect(taken.length + outOfTime + leftOut).toBe(files.length);
        // What agrees with all that the clip knows is among those taken, or it is owned up to that such were left out.
        const isIt = ({ file, reel: own }: (typeof files)[number]) =>
          file.facts?.timecodeSource === 'timecode' &&
          file.facts.start === wanted.start &&
          file.facts.length === wanted.length &&
          own?.full === asked.reel?.full;
        if (leftOut === 0 && wanted.knowsExtent) expect(files.filter((f) => isIt(f) && !taken.includes(f))).toEqual([]);
        // A file that was not read may be anything.
        const unread = files.filter((f) => f.state === 'unread' && !taken.includes(f)).length;
        expect(unread).toBeLessThanOrEqual(leftOut);
      }),
      { numRuns: 400 },
    );
  });

  test('of takes of one name from the same hour of many days those are weighed that lie near, and any that begins with it', () => {
    const day = (i: number, more = {}) => {
      const at = `KILN/day_${i}/cam_${i % 7}/card`;
      return prepareFile(
        buildFile(`${at}/C0001.mov`, { start: 90_000 + i * 10, length: 600, reel: null, ...more }),
        'KILN',
      );
    };
    const files = Array.from({ length: 200 }, (_, i) => day(i + 1));
    const isIt = prepareFile(buildFile('BAY/new/C0001.mov', { start: 89_000, length: 2000, reel: null }), 'BAY');
    const onReel = prepareFile(buildFile('BAY/reel/C0001.mov', { start: 90_100, length: 50, reel: 'A7' }), 'BAY');
    const crowd = new Crowd();
    for (const file of [...files, isIt, onReel]) crowd.add(file);
    const narrowed = (reel: string | null) =>
      crowd.narrowed(
        prepareClip(
          buildClip('/Volumes/KILN/day_9/cam_2/card/C0001.mov', {
            reel,
            available: { start: 89_000, end: 91_000 },
            used: [{ start: 90_100, end: 90_150 }],
          }),
        ),
      );
    const { files: taken, outOfTime, leftOut } = narrowed('A7');
    expect(taken).toContain(isIt);
    expect(taken).toContain(onReel);
    // Those of its own camera; whose hour it merely shares are told apart, and nobody says that they were weighed.
    expect(taken.filter((file) => !file.folderText.includes('cam_2'))).toEqual([isIt, onReel]);
    expect(taken.length).toBeLessThanOrEqual(9);
    expect([outOfTime, leftOut]).toEqual([files.length + 2 - taken.length, 0]);
    expect(narrowed(null).files).toContain(isIt);
  });

  test('what is as long is a guess, and nothing is left out of it where something begins and ends with the clip', () => {
    const crowd = new Crowd();
    for (let i = 0; i < 90; i += 1)
      crowd.add(prepareFile(buildFile(`KILN/day_${i}/C0001.mov`, { start: 200_000 + i * 9000, reel: null }), 'KILN'));
    const clip = prepareClip(buildClip('/Volumes/OLD/x/C0001.mov', { reel: null }));
    expect(crowd.narrowed(clip).leftOut).toBeGreaterThan(0);
    expect(crowd.narrowed(clip, { isBegun: true })).toMatchObject({ leftOut: 0, files: [] });
  });
});

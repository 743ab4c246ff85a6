import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { fileId } from '../testing/build.ts';
import { nameKey } from '../paths/names.ts';
import { sidecarsBeside, sidecarsIn, type Sidecar } from './sidecars.ts';

const media = (name: string, frames: string | null = null) => ({
  name,
  sequence: frames === null ? null : { prefix: frames, suffix: '.exr', padding: 4, first: 1, last: 9, missing: [] },
});
const other = (name: string) => ({ id: fileId(name), name, sizeInBytes: 10 });
const found = (recordings: readonly ReturnType<typeof media>[], others: readonly string[]) =>
  Object.fromEntries(
    [...sidecarsIn(recordings, others.map(other))].map(([of, sidecars]) => [of.name, sidecars.map((s) => s.name)]),
  );

describe('what lies beside a recording under its name', () => {
  test('has its whole name before a dot, in whatever case and Unicode form', () => {
    expect(
      found(
        [media('A001.mov'), media('Zoé.wav')],
        ['A001.xml', 'a001.CUBE', 'A001.mov.md5', 'A001b.xml', 'A0011.xml', 'A001', '.A001.xml', 'Zoe\u0301.txt'],
      ),
    ).toEqual({ 'A001.mov': ['A001.xml', 'a001.CUBE', 'A001.mov.md5'], 'Zoé.wav': ['Zoe\u0301.txt'] });
  });

  test('goes with the longest name that it has, and of two of one name with the first', () => {
    expect(found([media('A.mov'), media('A.v2.mov'), media('A.wav')], ['A.v2.xml', 'A.v3.xml', 'A.xml'])).toEqual({
      'A.v2.mov': ['A.v2.xml'],
      'A.mov': ['A.v3.xml', 'A.xml'],
    });
  });

  test('is found beside frames by what they have in common', () => {
    expect(found([media('plate_####.exr', 'plate_')], ['plate.xml', 'plate_0001.xml'])).toEqual({
      'plate_####.exr': ['plate.xml'],
    });
  });
});

describe('where sidecars go', () => {
  const file = (sidecars: readonly string[]) => ({
    folder: 'day1',
    sequence: null,
    sidecars: sidecars.map((ending): Sidecar => ({ ...other(`A001${ending}`), ending })),
  });
  const out = (target: string) => ({ target, sequence: null });
  const targets = (sidecars: readonly string[], outs: readonly string[], taken: readonly string[] = []) =>
    sidecarsBeside(file(sidecars), outs.map(out), new Set(taken.map(nameKey))).map((s) => s.target);

  test('beside the one file of their recording, under its name; beside the first of several, under their own', () => {
    expect(targets(['.xml', '.mov.md5'], ['media/B/bowl.mov'])).toEqual(['media/B/bowl.xml', 'media/B/bowl.mov.md5']);
    expect(targets(['.xml'], ['media/B/bowl_01.mov', 'media/C/bowl_02.mov'])).toEqual(['media/B/A001.xml']);
    expect(sidecarsBeside(file(['.xml']), [out('media/a.mov')], new Set())[0]).toMatchObject({
      source: 'day1/A001.xml',
    });
  });

  test('never where another file or folder lies, on systems that fold case too', () => {
    expect(targets(['.xml'], ['media/a.mov'], ['media/A.XML', 'media/a_2.xml'])).toEqual(['media/a_3.xml']);
    const letters = fc.constantFrom('.xml', '.XML', '.Xml', '.mov.xml', '.a?b', '.a*b', '.');
    fc.assert(
      fc.property(
        fc.array(letters, { maxLength: 8 }),
        fc.array(fc.constantFrom('media/a.xml', 'media/A_2.XML')),
        (endings, taken) => {
          const set = new Set(taken.map(nameKey));
          const before = [...set];
          const all = sidecarsBeside(file(endings), [out('media/a.mov')], set).map((s) => nameKey(s.target));
          expect(new Set([...all, ...before]).size).toBe(all.length + before.length);
        },
      ),
    );
  });
});

import { expect, test } from '@jest/globals';
import type { MediaFile } from '../model/media.ts';
import { buildFile } from '../testing/build.ts';
import { findRenditions } from './renditions.ts';

const small = { raster: { width: 640, height: 360 } };
const formsOf = (files: readonly MediaFile[], accepted: readonly MediaFile[] = []) => {
  const found = findRenditions(files, new Set(accepted.map((f) => f.id)));
  return files.map((f) => found.get(f.id)?.find((r) => r.mediaFileId === f.id)?.form ?? null);
};

test('original, small copy, accepted copy and another container are one recording', () => {
  const files = [
    buildFile('A/bowl.mov', {}, { sizeInBytes: 9000 }),
    buildFile('B/small/bowl.mp4', { ...small, container: 'mp4' }, { sizeInBytes: 500 }),
    buildFile('B/made/bowl.mov', { codec: 'dnxhd' }, { sizeInBytes: 8000 }),
    buildFile('C/bowl.mxf', { container: 'mxf', codec: 'mpeg2video' }, { sizeInBytes: 7000 }),
  ];
  expect(formsOf(files, [files[2]!])).toEqual(['original', 'small', 'accepted', 'other']);
});

test.each([
  ['something was added', 'bowl.mov', 'bowl_proxy.mp4', true],
  ['something was put in', 'SG_bowl.mov', 'SG_low_bowl.mp4', true],
  ['a word was exchanged', 'bowl_online.mov', 'bowl_offline.mov', true],
  ['a third stands between', 'bowl_final.mov', 'bowl_small.mov', true],
  ['the reel is the one recording’s own', 'A001.mov', 'x81.mov', true],
  ['the camera beside it', 'cam A.mov', 'cam B.mov', false],
  ['the next take', 'C0001.mov', 'C0002.mov', false],
  ['a namesake that came to lie beside it', 'C0001.mov', 'C0001_1.mov', false],
  ['another such', 'bowl.mov', 'bowl (2).mov', false],
  ['another name altogether', 'bowl.mov', 'x81.mov', false],
])('of one reel, start and length, under another name: %s', (_, one, other, isOne) => {
  const files = [buildFile(`A/${one}`), buildFile(`B/${other}`, small)];
  expect(formsOf(files)).toEqual(isOne ? ['original', 'small'] : [null, null]);
  expect(formsOf(files.toReversed())).toEqual(isOne ? ['small', 'original'] : [null, null]);
});

test('of very many that begin alike on one reel the stem has to agree', () => {
  const slates = Array.from({ length: 20_000 }, (_, i) =>
    buildFile(`A/slate${i % 10_000}_${i < 10_000 ? 'hi' : 'lo'}.mov`, i < 10_000 ? {} : small),
  );
  expect(new Set(formsOf(slates))).toEqual(new Set([null]));
  const copies = [...slates.slice(0, 10_000), buildFile('B/slate7_hi.mp4', small)];
  expect(formsOf(copies).filter((form) => form !== null)).toEqual(['original', 'small']);
});

test('without a reel the stem has to agree', () => {
  const unreeled = { reel: null };
  expect(formsOf([buildFile('A/bowl.mov', unreeled), buildFile('B/x81.mov', { ...small, ...unreeled })])).toEqual([
    null,
    null,
  ]);
  expect(formsOf([buildFile('A/bowl.mov', unreeled), buildFile('B/BOWL.mp4', { ...small, ...unreeled })])).toEqual([
    'original',
    'small',
  ]);
});

test.each([
  ['another start', { start: 90_001 }],
  ['another length', { length: 199 }],
  ['another reel', { reel: 'B001' }],
  ['another shape', { raster: { width: 640, height: 480 } }],
  ['no timecode', { timecodeSource: 'none' as const }],
])('a false friend is no rendition: %s', (_, facts) => {
  expect(formsOf([buildFile('A/bowl.mov'), buildFile('B/bowl.mov', { ...small, ...facts })])).toEqual([null, null]);
});

test('two originals of different bytes are two recordings, and nothing of them is a form', () => {
  const two = ['one', 'two'].map((bytes) => buildFile(`A/${bytes}/bowl.mov`, {}, { fingerprint: bytes }));
  expect(formsOf([...two, buildFile('B/bowl.mov', small)])).toEqual([null, null, null]);
  const copies = two.map((f) => ({ ...f, fingerprint: 'same' }));
  expect(formsOf([...copies, buildFile('B/bowl.mov', small)])).toEqual(['original', 'original', 'small']);
});

import { describe, expect, test } from '@jest/globals';
import type { MediaFile } from '../model/media.ts';
import { buildClip, buildFile, buildPlace, clipId } from '../testing/build.ts';
import { findCauses } from './causes.ts';
import { match, type MatchInput } from './match.ts';
import type { MatchClip } from './prepare.ts';
import { defaultRules } from './rules.ts';

const places = [buildPlace('KILN_B')];
const asInput = (clip: MatchClip) => ({ ...clip, linkedTo: null, declined: [] });
const matched = (clips: MatchInput['clips'], files: readonly MediaFile[]) =>
  match({ clips, files, places, rules: defaultRules });
const one = (clip: MatchClip, files: readonly MediaFile[]) => matched([asInput(clip)], files)[0]!;

describe('where names and reels repeat', () => {
  test('several cards may bear one reel: what is found on one says nothing against another that holds as much', () => {
    const card = (folder: string, n: number, from: number) =>
      Array.from({ length: n }, (_, i) => {
        const start = from + i * 1000;
        const used = [{ start: start + 20, end: start + 100 }];
        const id = clipId(`${folder} ${i}`);
        const event = buildClip(null, { name: `T_${i}`, available: null, raster: null, used, id, key: id });
        return { event: asInput(event), file: buildFile(`KILN_B/${folder}/T_${i}.mov`, { start }) };
      });
    const certain = (...cards: ReturnType<typeof card>[]) =>
      matched(
        cards.flat().map((c) => c.event),
        cards.flat().map((c) => c.file),
      ).filter(({ decision }) => decision.kind === 'certain').length;
    const first = card('unit 1', 14, 90_000);
    expect(certain(first, card('unit 2', 12, 500_000))).toBe(26);
    // So little of a reel is covered by chance, where the rest of it lies elsewhere.
    expect(certain(first, card('unit 2', 3, 500_000))).toBe(14);
    // And what is found nowhere speaks against whatever bears its name.
    expect(
      certain(
        first,
        card('unit 2', 3, 500_000).map((c) => ({ ...c, file: first[0]!.file })),
      ),
    ).toBe(0);
  });

  test('of very many cards those that hold takes as long by chance do not hide the one that speaks against', () => {
    const takes = Array.from({ length: 12 }, (_, i) => ({
      name: `C000${i}.mov`,
      start: 900_000 + i * 5000,
      length: 300 + i,
    }));
    const clips = takes.map(({ name, start, length }) =>
      asInput(
        buildClip(`/Volumes/OLD/day1/cam_A/${name}`, {
          reel: null,
          available: { start, end: start + length },
          used: [{ start: start + 20, end: start + 100 }],
        }),
      ),
    );
    // The camera beside it began three takes with it, by clocks set alike; the rest of its card is other recordings.
    const beside = takes.map(({ name, start, length }, i) =>
      buildFile(`KILN_B/day1/cam_B/${name}`, i < 3 ? { start, length } : { start: start + 700, length: length + 50 }),
    );
    const others = Array.from({ length: 30 }, (_, day) =>
      takes.map(({ name, length }, i) =>
        buildFile(`KILN_B/day${day + 2}/cam_A/${name}`, {
          start: 400_000 + (day * 12 + i) * 2000,
          length,
          reel: `A${day}`,
        }),
      ),
    );
    const all = matched(clips, [...beside, ...others.flat()]);
    expect(all.map(({ decision }) => decision.kind)).not.toContain('certain');
  });

  test('a lowest folder alone, and the mark of a copy in the same folder, tell no recording among namesakes', () => {
    const list = (path: string) =>
      buildClip(path, { reel: null, available: null, raster: null, used: [{ start: 90_020, end: 90_100 }] });
    const own = { start: 90_000, length: 300 };
    const other = { start: 89_900, length: 700 };
    const card = list('/Volumes/OLD/day1/cam_B/CLIP/bowl.mov');
    const asked = (...files: MediaFile[]) => one(card, files).decision;
    const elsewhere = buildFile('KILN_B/CLIP/cam_B/day1/bowl.mov', own);
    expect(asked(elsewhere, buildFile('KILN_B/day2/cam_A/CLIP/bowl.mov', other))).toMatchObject({ reason: 'several' });
    expect(asked(elsewhere, buildFile('KILN_B/day2/cam_B/CLIP/bowl.mov', other))).toMatchObject({
      certainty: 'likely',
      mediaFileIds: ['KILN_B/day2/cam_B/CLIP/bowl.mov'],
    });
    const first = buildFile('KILN_B/all/bowl.mov', other);
    expect(asked(first, buildFile('KILN_B/all/bowl (1).mov', own))).toMatchObject({ reason: 'several' });
    expect(asked(first, buildFile('KILN_B/x/bowl (1).mov', own))).toMatchObject({ certainty: 'likely' });
    const copies = ['bowl.mov', 'bowl (1).mov'].map((n) => buildFile(`KILN_B/all/${n}`, other, { fingerprint: 'one' }));
    expect(asked(...copies)).toMatchObject({ certainty: 'likely' });
  });

  test('a list without reels is told by the reel in its names, in company, unless another unit used it', () => {
    const card = (folder: string, from: number, reel = 'A001') =>
      Array.from({ length: 4 }, (_, i) => {
        const start = from + i * 1000;
        const name = `A001C00${i}`;
        const used = [{ start: start + 20, end: start + 100 }];
        const clip = buildClip(null, {
          name,
          reel: null,
          available: null,
          raster: null,
          used,
          id: clipId(`${from} ${i}`),
        });
        return { clip: asInput(clip), file: buildFile(`KILN_B/${folder}/${name}.mov`, { start, reel }) };
      });
    const kinds = (clips: ReturnType<typeof card>, lying: readonly { file: MediaFile }[]) =>
      matched(
        clips.map((c) => c.clip),
        lying.map((c) => c.file),
      ).map(({ decision }) => (decision.kind === 'certain' ? decision.grounds : decision.kind));
    const own = card('unit 1', 90_000);
    expect(kinds(own, own)).toEqual(own.map(() => 'name-reel-timecode'));
    expect(kinds(own, card('unit 1', 90_000, 'B001'))).not.toContain('name-reel-timecode');
    // One take of another unit's card lies elsewhere in time: that card is not this one.
    const other = card('unit 2', 90_000).map((c, i) =>
      i < 3 ? c : { file: buildFile('KILN_B/unit 2/A001C003.mov', { start: 500_000 }) },
    );
    expect(kinds(own, other)).not.toContain('name-reel-timecode');
  });

  test('image sequences of a tree that moved are told by their whole path and the pictures that they hold', () => {
    const shots = ['sh010', 'sh020', 'sh030'];
    const sequence = (first: number, last: number) => ({
      ...{ prefix: 'comp.', suffix: '.exr', padding: 4, missing: [] },
      first,
      last,
    });
    const clips = shots.map((shot) =>
      asInput(
        buildClip(`file:///Volumes/OLD/vfx/${shot}/v002/comp.%23%23%23%23.exr`, {
          ...{
            id: clipId(shot),
            reel: null,
            kind: 'sequence',
            raster: null,
            available: null,
            used: [{ start: 1003, end: 1050 }],
          },
        }),
      ),
    );
    const files = (version: string, last = 1060) =>
      shots.map((shot) =>
        buildFile(
          `KILN_B/archive/vfx/${shot}/${version}/comp.####.exr`,
          {
            kind: 'sequence',
            reel: null,
            raster: null,
            rate: null,
            timecodeSource: 'none',
            start: 1001,
            length: last - 1000,
          },
          { sequence: sequence(1001, last), fingerprint: `${shot} ${version}` },
        ),
      );
    const linked = (lying: readonly MediaFile[]) =>
      findCauses(
        matched(clips, lying).map((decided) => ({
          ...{ decided, why: decided.why, status: 'missing', tiedTo: null, screenSeconds: 1 },
        })),
        defaultRules,
      ).flatMap((c) => c.links.map((l) => l.mediaFileId));
    expect(linked(files('v002'))).toEqual(files('v002').map((f) => f.id));
    expect(linked(files('v003'))).toEqual([]);
    expect(linked(files('v002', 1040))).toEqual([]);
  });
});

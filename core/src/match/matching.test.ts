import { describe, expect, test } from '@jest/globals';
import type { MediaFile } from '../model/media.ts';
import { buildFile, produce, seeded } from '../testing/index.ts';
import { match, Matching, type ClipToMatch, type MatchInput, type MatchResult } from './match.ts';

/** All that is kept of a result, and shown. */
const told = ({ clip, candidates, decision, why, whereRemembered }: MatchResult) => ({
  clip: clip.id,
  standing: [clip.namesakes, clip.outOfTime, clip.leftOut],
  candidates: candidates.map(({ file, marks, levels, form }) => [file.id, marks, levels, form ?? null]),
  decision,
  why,
  whereRemembered,
});

type State = Pick<MatchInput, 'clips'> & { files: Map<string, MediaFile> };
type Step = { files: MediaFile[]; gone: MediaFile['id'][]; clips: ClipToMatch[] };

/** What happens on storages and at desks, a few at a time, each by the dice. */
function somethingHappens({ files, clips }: State, first: readonly MediaFile[], random: () => number): Step {
  const one = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)]!;
  const step: Step = { files: [], gone: [], clips: [] };
  for (let n = 0; n < 1 + random() * 6; n += 1) {
    const file = one([...files.values()]);
    const other = one(first);
    const { facts } = file;
    const become = (change: Partial<MediaFile>) => void step.files.push({ ...file, ...change });
    switch (Math.floor(random() * 10)) {
      case 0:
        step.gone.push(file.id);
        break;
      case 1:
        // It was away, and is here again; or it was here all along, and is looked at anew.
        step.files.push(other);
        break;
      case 2:
        become({ folder: other.folder });
        break;
      case 3:
        become({ name: other.name });
        break;
      case 4:
        become({ facts: null, unreadable: random() < 0.5 ? { code: 'file-empty' } : null });
        break;
      case 5:
        if (facts) become({ facts: { ...facts, reel: random() < 0.3 ? null : (other.facts?.reel ?? null) } });
        break;
      case 6:
        if (facts) become({ facts: { ...facts, start: other.facts?.start ?? 0 } });
        break;
      case 7:
        // A copy of it, in another folder.
        step.files.push({ ...file, id: `copy-${random()}` as MediaFile['id'], folder: other.folder });
        break;
      case 8: {
        const clip = one(clips);
        step.clips.push({ ...clip, linkedTo: random() < 0.4 ? null : file.id });
        break;
      }
      case 9: {
        const clip = one(clips);
        const known = { fingerprint: file.fingerprint, fullHash: file.fullHash, sizeInBytes: file.sizeInBytes };
        const learned = { ...known, codec: null, channels: null, sampleRate: null, writtenMs: null };
        const asked = random() < 0.5 ? { known: learned } : { declined: [...clip.declined, file.id] };
        const moved = clip.available && { start: clip.available.start + 1, end: clip.available.end + 1 };
        step.clips.push({ ...clip, ...asked, ...(random() < 0.3 ? { available: moved } : {}) });
      }
    }
  }
  // No two files lie at one path.
  const pathOf = ({ placeId, folder, name }: MediaFile) => [placeId, folder, name].join('/');
  const lastOfEach = <T extends { id: string }>(all: readonly T[]) => [...new Map(all.map((x) => [x.id, x])).values()];
  const taken = new Map([...files.values()].map((file) => [pathOf(file), file.id]));
  const put = lastOfEach(step.files).filter((file) => {
    const path = pathOf(file);
    if ((taken.get(path) ?? file.id) !== file.id) return false;
    taken.set(path, file.id);
    return true;
  });
  const gone = new Set(step.gone.filter((id) => !put.some((f) => f.id === id)));
  return { files: put, gone: [...gone], clips: lastOfEach(step.clips) };
}

function apply({ files, clips }: State, step: Step): State {
  const now = new Map(files);
  for (const id of step.gone) now.delete(id);
  for (const file of step.files) now.set(file.id, file);
  const changed = new Map(step.clips.map((clip) => [clip.id, clip]));
  return { files: now, clips: clips.map((clip) => changed.get(clip.id) ?? clip) };
}

const firstSeed = Math.floor(Date.now() / 86_400_000) * 100;

describe('matching that is kept', () => {
  test(`comes to what matching anew would, and names all that became other (seeds from ${firstSeed})`, () => {
    let renewals = 0;
    for (let seed = firstSeed; seed < firstSeed + 12; seed += 1) {
      const { input } = produce({ days: 6, cards: 2, takes: 14, batches: 10, used: 8 }, seed);
      const random = seeded(seed);
      let state: State = { files: new Map(input.files.map((f) => [f.id, f])), clips: input.clips };
      const kept = new Matching(input);
      for (let turn = 0; turn < 12; turn += 1) {
        const before = new Map(kept.results.map((r) => [r.clip.id, told(r)]));
        const step = somethingHappens(state, input.files, random);
        state = apply(state, step);
        const renewed = kept.renew(step);
        if (!renewed) throw new Error('Nothing happens here that could not be had by parts.');
        renewals += renewed.length;
        const anew = match({ ...input, clips: state.clips, files: [...state.files.values()].reverse() }).map(told);
        expect({ seed, turn, results: kept.results.map(told) }).toEqual({ seed, turn, results: anew });
        const named = new Set(renewed.map((r) => r.clip.id));
        for (const now of anew) if (!named.has(now.clip)) expect(now).toEqual(before.get(now.clip));
      }
    }
    expect(renewals).toBeGreaterThan(100);
  });

  test('what it does not reach changes nothing; what a clip could be, by whatever key, is within its reach', () => {
    const { input } = produce({ days: 4, cards: 2, takes: 12, batches: 8, used: 6 }, 11);
    const kept = new Matching(input);
    const outside = Array.from({ length: 300 }, (_, i) =>
      buildFile(`KILN_B/other_${i % 7}/yarn-loom ${i}.mov`, {
        start: 77_777_777 + i * 13,
        length: 333,
        reel: `QQ${i}`,
      }),
    );
    expect(outside.filter(kept.reaches)).toEqual([]);
    expect(kept.renew({ files: outside, gone: [], clips: [] })).toEqual([]);
    expect(match({ ...input, files: [...input.files, ...outside] }).map(told)).toEqual(kept.results.map(told));
    const known = new Map(input.files.map((f) => [f.id, f]));
    for (const { candidates } of kept.results)
      for (const { file } of candidates) {
        expect(kept.knows(file.id)).toBe(true);
        expect(kept.reaches(known.get(file.id)!)).toBe(true);
      }
  });

  test('a clip that was not there, or counts at a rate of its own, is not had by parts: nothing was done', () => {
    const { input } = produce({ days: 3, cards: 1, takes: 8, batches: 4, used: 4 }, 5);
    const kept = new Matching(input);
    const [first] = input.clips;
    const before = kept.results;
    const change = { files: [], gone: input.files.slice(0, 50).map((f) => f.id) };
    expect(kept.renew({ ...change, clips: [{ ...first!, id: 'another' as never }] })).toBeNull();
    expect(kept.renew({ ...change, clips: [{ ...first!, rate: { num: 47, den: 1 } }] })).toBeNull();
    expect(kept.results).toBe(before);
    expect(kept.renew({ ...change, clips: [] })!.length).toBeGreaterThan(0);
  });
});

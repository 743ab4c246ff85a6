import { describe, expect, test } from '@jest/globals';
import {
  allDark,
  documentWorld,
  fates,
  faultInDocuments,
  faultOf,
  outcomeOf,
  produce,
  smallWorld,
  untimedWorld,
  type Outcome,
  type UntimedWorld,
} from '../testing/truth/index.ts';
import { findCauses } from './causes.ts';
import { match, type MatchInput } from './match.ts';

/** Twelve days of ten cameras that restart their numbering; thirty cards, each with a fate of its own. */
const production = (seed: number) => produce({ days: 12, cards: 2, takes: 16, batches: 30, used: 9 }, seed);
/** Every run looks at others, and says at which; what fails once becomes a case of its own below. */
const firstSeed = Number(process.env['LEGAME_TRUTH_SEED'] ?? Math.floor(Date.now() / 86_400_000) * 1000);
const seconds = Number(process.env['LEGAME_TRUTH_SECONDS'] ?? 45);

const wrongIn = ({ wrong }: Outcome) =>
  wrong.map(({ fate, manner, device, by }) => `${by}: ${fate}, ${manner}, ${device}`);

describe('productions of which the truth is known', () => {
  test(`no wrong link by rule or by cause, whatever the seed (from ${firstSeed} on, for ${seconds} s)`, () => {
    const end = Date.now() + seconds * 1000;
    const sum = { linkable: 0, missed: 0, decisions: 0, asked: 0 };
    let seed = firstSeed;
    for (; Date.now() < end || seed < firstSeed + 20; seed += 1) {
      const outcome = outcomeOf(production(seed));
      expect({ seed, wrong: wrongIn(outcome) }).toEqual({ seed, wrong: [] });
      sum.linkable += outcome.all.linkable;
      sum.missed += outcome.missed.length;
      sum.decisions += outcome.decisions;
      sum.asked += outcome.injected + outcome.ambiguities;
    }
    expect(1 - sum.missed / sum.linkable).toBeGreaterThanOrEqual(0.98);
    expect(sum.decisions).toBeLessThanOrEqual(sum.asked * 1.05);
  }, 180_000);

  // Seeds that once made a wrong link, each with what it showed.
  test.each([
    [12, 'a camera whose clock is set alike, under the name that the renamed one had'],
    [16, 'clips of no folder and no reel bearing each other out by their lengths'],
    [70, 'three takes of the camera beside it, as long as those that are gone'],
    [124, 'the take before it on the same reel, which covers a list that was shifted'],
    [155, 'the majority of strangers for company'],
    [198, 'a stray of another card that is as long as one of the folder'],
    [476, 'a camera beside it whose files were named afresh'],
    [5234, 'files of another name that cover what a list asks for, once that is read at another rate'],
  ])('seed %i: %s', (seed) => {
    expect(wrongIn(outcomeOf(production(seed)))).toEqual([]);
  });

  test.each(fates)('%s alone: nothing of it is linked wrongly, and it is explained in few words', (fate) => {
    for (let seed = 1; seed <= 4; seed += 1) {
      const outcome = outcomeOf(produce({ days: 5, cards: 2, takes: 14, batches: 8, used: 9, fates: [fate] }, seed));
      expect(wrongIn(outcome)).toEqual([]);
      // A batch is a cause; what it leaves over that nothing bears out falls together.
      expect(outcome.decisions).toBeLessThanOrEqual(8 + 6);
    }
  });

  test('the same stem two thousand times: what identifies is found, and nothing else is taken for it', () => {
    const outcome = outcomeOf(produce({ days: 60, cards: 4, takes: 20, batches: 60, used: 12 }, 3));
    expect(wrongIn(outcome)).toEqual([]);
    expect(outcome.missed.length / outcome.all.linkable).toBeLessThan(0.02);
  });
});

/** All that rules and causes link; where a cause reads a clip otherwise, what it says is another. */
function linksIn(input: MatchInput) {
  const results = match(input);
  const byRule = results.flatMap(({ clip, decision }) =>
    decision.kind === 'certain' ? [{ clipId: clip.id, mediaFileId: decision.mediaFileId, by: 'rule' }] : [],
  );
  const byCause = findCauses(allDark(results), input.rules).flatMap(({ links }) =>
    links.map((link) => ({ ...link, by: 'cause' })),
  );
  return [...byRule, ...byCause];
}

function faultsIn(seed: number): string[] {
  const world = smallWorld(seed);
  const files = new Map(world.input.files.map((file) => [file.id, file]));
  return linksIn(world.input).flatMap(({ clipId, mediaFileId, by, ...link }) => {
    const isReadOtherwise = 'interpretation' in link && link.interpretation !== null;
    const fault = isReadOtherwise ? null : faultOf(world, clipId, files.get(mediaFileId)!);
    return fault === null ? [] : [`${by}, ${clipId}: ${fault}`];
  });
}

describe('worlds so small that recordings share any of their names, reels, starts and lengths', () => {
  test(`no link contradicts the edit, or passes over the clip's own recording (from ${firstSeed} on)`, () => {
    for (let seed = firstSeed; seed < firstSeed + 1500; seed += 1)
      expect({ seed, faults: faultsIn(seed) }).toEqual({ seed, faults: [] });
  }, 120_000);
});

describe('worlds whose edits are text, of which the dice make everything', () => {
  // These and no others: of some ten thousand a few say the same of two recordings, and nobody could tell.
  test('no link leads to another recording while its own is there, none is of two recordings in one', () => {
    let links = 0;
    for (let seed = 1; seed <= 500; seed += 1) {
      const world = documentWorld(seed);
      const found = linksIn(world.input);
      links += found.length;
      const faults = found.map(({ clipId, mediaFileId }) => faultInDocuments(world, clipId, mediaFileId));
      expect({ seed, faults: faults.filter((fault) => fault !== null) }).toEqual({ seed, faults: [] });
    }
    expect(links).toBeGreaterThan(4000);
  }, 60_000);
});

/** Links to a recording that is not the clip's own, and how many there are at all. */
function strangersIn({ input, clipOf, fileOf }: UntimedWorld) {
  const links = linksIn(input);
  const strangers = links.filter(({ clipId, mediaFileId }) => clipOf.get(clipId) !== fileOf.get(mediaFileId));
  return { links: links.length, strangers: strangers.map(({ clipId, mediaFileId }) => `${clipId}: ${mediaFileId}`) };
}

describe('worlds without timecode and reel, whose cards all begin with the same names', () => {
  // These and no others: where all there is to know is a length, chance wins once in very many.
  test('no link leads to another card, be the own one lost or not', () => {
    let links = 0;
    for (let seed = 1; seed <= 800; seed += 1) {
      const found = strangersIn(untimedWorld(seed));
      links += found.links;
      expect({ seed, strangers: found.strangers }).toEqual({ seed, strangers: [] });
    }
    expect(links).toBeGreaterThan(5000);
    for (let seed = 1; seed <= 12; seed += 1)
      expect(strangersIn(untimedWorld(seed, { cards: 30, takes: 40 })).strangers).toEqual([]);
  }, 60_000);
});

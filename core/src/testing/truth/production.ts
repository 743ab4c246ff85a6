import type { MatchInput } from '../../match/match.ts';
import { defaultRules } from '../../match/rules.ts';
import type { ClipId, MediaFileId } from '../../model/ids.ts';
import type { Facts, MediaFile } from '../../model/media.ts';
import type { Place } from '../../model/place.ts';
import { buildClip, buildFile, buildPlace, clipId, fileId } from '../build.ts';
import { seeded } from '../generate.ts';
import { fates, lays, type Expected, type Fate } from './fates.ts';
import { chanceOf, shoot, type Card, type Chance, type Recording, type ShootSize } from './shoot.ts';

/** How an edit speaks of its media: what it knows decides what can be known of it. */
export const manners = ['otio', 'otio-no-reel', 'list', 'list-no-reel', 'list-with-paths', 'log'] as const;
export type Manner = (typeof manners)[number];

export type Batch = {
  readonly fate: Fate;
  readonly manner: Manner;
  readonly device: string;
  readonly expected: Expected;
  readonly clipIds: readonly ClipId[];
};

/** A production of which it is known what became of every file. */
export type Truth = {
  readonly input: MatchInput;
  /** The files that are right for a clip; empty where any link would be wrong. */
  readonly right: ReadonlyMap<ClipId, ReadonlySet<MediaFileId>>;
  readonly batches: readonly Batch[];
};

export type ProductionSize = ShootSize & {
  /** Cards of which the edit uses something. */
  readonly batches: number;
  /** Takes used of a card, at most; every fifth batch uses one or two. */
  readonly used: number;
  readonly fates?: readonly Fate[] | undefined;
  readonly manners?: readonly Manner[] | undefined;
};

/**
 * A production by its seed: a shoot of many cameras that restart their numbering, of which an edit uses some cards, each
 * with a fate of its own. Everything else that was shot lies where it was copied, and is a possible false friend.
 */
export function produce(size: ProductionSize, seed: number): Truth {
  const chance = chanceOf(seeded(seed));
  const cards = shoot(size, chance);
  const places = new Map<string, Place>(['KILN_A', 'KILN_B', 'SHARE'].map((name) => [name, buildPlace(name)]));
  const files: MediaFile[] = [];
  const clips: MatchInput['clips'][number][] = [];
  const right = new Map<ClipId, ReadonlySet<MediaFileId>>();
  const batches: Batch[] = [];
  const add = (path: string, facts: Partial<Facts>, bytes: string): MediaFileId => {
    const id = fileId(`f${files.length}`);
    const place = path.slice(0, path.indexOf('/'));
    if (!places.has(place)) places.set(place, buildPlace(place));
    // A copy has the size of what it was copied from; another form is far smaller.
    const sizeInBytes = (facts.length ?? 0) * (facts.codec === 'h264' ? 100 : 4000) + (bytes.length % 7);
    files.push({ ...buildFile(path, facts), id, fingerprint: bytes, sizeInBytes });
    return id;
  };
  const fitting = (fate: Fate, card: Card) => (size.manners ?? manners).filter((m) => couldTell(m, fate, card));
  const fatesOf = (card: Card) =>
    (size.fates ?? fates).filter((fate) => applies(fate, card) && fitting(fate, card).length > 0);
  const chosen = chance.some(
    cards.filter((card) => fatesOf(card).length > 0),
    size.batches,
  );
  const isChosen = new Set(chosen);
  chosen.forEach((card, batch) => {
    const fate = chance.pick(fatesOf(card));
    const manner = chance.pick(fitting(fate, card));
    const laid = lays[fate](card, {
      batch,
      chance,
      add,
      addPlace: (name, there) => places.set(name, buildPlace(name, { there })),
    });
    const takes = chance.some(
      card.recordings.flatMap((r, i) => (fate === 'other-rate' && !isAt24(r) ? [] : [i])),
      batch % 5 === 4 ? chance.between(1, 2) : chance.between(Math.min(4, size.used), size.used),
    );
    const shift = chance.pick([1234, -777, 31, 90_011]);
    const clipIds = takes.map((i) => {
      const id = clipId(`c${clips.length}`);
      clips.push({ ...clipOf(card, card.recordings[i]!, { batch, manner, fate, shift, chance }), id, key: id });
      right.set(id, new Set(laid.right[i]));
      return id;
    });
    const expected = laid.expected === 'link' && !tellsEnough(card, fate, manner, takes.length) ? 'ask' : laid.expected;
    batches.push({ fate, manner, device: card.device.name, expected, clipIds });
  });
  for (const card of cards)
    if (!isChosen.has(card))
      for (const r of card.recordings) add(`KILN_A/shoot/${card.home}/${r.stem}.${r.extension}`, r.facts, r.bytes);
  return { input: { clips, files, places: [...places.values()], rules: defaultRules }, right, batches };
}

/** A near miss in something that the edit does not say is none. */
function couldTell(manner: Manner, fate: Fate, { device }: Card): boolean {
  const isList = manner.startsWith('list');
  if (isList && !(manner === 'list-no-reel' ? device.timed : device.writesReel)) return false;
  if (fate === 'near-reel') return !manner.endsWith('no-reel');
  // Of one reel and timecode, a file of another length is the same recording, cut down.
  if (fate === 'near-length') return manner === 'otio-no-reel' || (!isList && !device.writesReel);
  return fate !== 'near-start' || !isList;
}

/** A near miss in something that neither side knows is none. */
function applies(fate: Fate, { device, recordings }: Card): boolean {
  const moving = device.kind === 'picture';
  switch (fate) {
    case 'near-reel':
      return device.writesReel;
    case 'near-start':
    case 'an-hour-apart':
    case 'shifted':
    case 'from-zero':
      return device.timed;
    case 'near-rate':
      return moving && device.timed;
    case 'other-rate':
      return moving && device.timed;
    case 'small-copies':
    case 'small-and-original':
    case 'two-grades':
      return moving && device.timed;
    case 'partial-copies':
      return device.timed && device.writesReel;
    case 'renamed-afresh':
      return device.timed && device.writesReel;
    case 'renumbered':
      return recordings.every((r) => /\d$/.test(r.stem));
    default:
      return true;
  }
}

/** Whether anybody could tell, from what this edit says, that these files are the ones. */
function tellsEnough(card: Card, fate: Fate, manner: Manner, used: number): boolean {
  const { timed } = card.device;
  const hasLength = !manner.startsWith('list');
  const knowsReel = card.device.writesReel && !manner.endsWith('no-reel');
  // Where a list has no reel, the name has to tell it, and to have kept it.
  const isNameKept = fate !== 'word-replaced' && fate !== 'renumbered';
  if (manner === 'list-no-reel' && !(card.device.naming === 'reeled' && isNameKept)) return false;
  // A log without paths or reels gathers nothing: its clips are of any card.
  const isGathered = manner !== 'log' || knowsReel || timed || card.device.naming === 'words';
  const hasCompany = used >= 3 && isGathered;
  const isBorneOut = hasCompany || (knowsReel && used >= 2);
  switch (fate) {
    case 'an-hour-apart':
    case 'shifted':
    case 'other-rate':
      return hasLength && isBorneOut;
    case 'from-zero':
      // Counted from zero and not gathered, nothing but a common name and a length is left.
      return hasLength && isBorneOut && (manner !== 'log' || knowsReel);
    case 'small-copies':
      // A list knows no raster: for it this is the recording.
      return hasLength ? isBorneOut : hasCompany;
    case 'renamed-afresh':
      return knowsReel && hasLength;
    case 'partial-copies':
      return knowsReel && hasLength && isBorneOut;
    case 'word-replaced':
    case 'renumbered':
      // Without timecode nothing is left of such a name to go by.
      return timed && (hasLength ? knowsReel || hasCompany : hasCompany && fate === 'word-replaced');
    default:
      if (!timed) return hasLength && hasCompany;
      return hasLength ? knowsReel || hasCompany : hasCompany;
  }
}

type Speaking = {
  readonly batch: number;
  readonly manner: Manner;
  readonly fate: Fate;
  readonly shift: number;
  readonly chance: Chance;
};

function clipOf(card: Card, r: Recording, { batch, manner, fate, shift, chance }: Speaking) {
  const isList = manner.startsWith('list');
  const hasPath = manner !== 'log' && (!isList || manner === 'list-with-paths');
  const file = `${r.stem}.${r.extension}`;
  const path = `/Volumes/VOL_${batch}/${card.home}/${file}`;
  const read = readingOf(fate, r, shift);
  const margin = Math.floor(r.length / 8);
  const used = {
    start: read.at(chance.between(1, margin)),
    end: read.at(r.length - margin - chance.between(1, margin)),
  };
  const reel = card.device.writesReel && !manner.endsWith('no-reel') ? r.reel : null;
  const raster = card.device.kind === 'picture' && manner.startsWith('otio') ? { width: 1920, height: 1080 } : null;
  return {
    ...buildClip(hasPath ? path : null, {
      name: isList && !hasPath ? r.stem : file,
      reel: reel !== null && isList ? asListsKeep(reel, batch) : reel,
      kind: isList && !hasPath ? null : card.device.kind,
      rate: read.rate,
      raster,
      available: isList ? null : { start: read.at(0), end: read.at(r.length) },
      used: [used],
    }),
    linkedTo: null,
    declined: [],
  };
}

/** Reels on their way through lists: cut before or after their punctuation went, or only stripped. */
function asListsKeep(reel: string, batch: number): string {
  const strip = (text: string) => text.replace(/[^A-Z0-9]/g, '');
  return [strip(reel).slice(0, 8), strip(reel.slice(0, 8)), reel.slice(0, 8), reel.slice(0, 8).toLowerCase()][
    batch % 4
  ]!;
}

/** How the edit counts a recording: frame `n` of it has the address `at(n)`. */
function readingOf(fate: Fate, r: Recording, shift: number): { at: (n: number) => number; rate: Recording['rate'] } {
  const plain = (by: number) => ({ at: (n: number) => r.start + by + n, rate: r.rate });
  switch (fate) {
    case 'an-hour-apart':
      return plain(90_000);
    case 'shifted':
      return plain(shift);
    case 'from-zero':
      return plain(-r.start);
    case 'other-rate': {
      const at = (n: number) => {
        const frame = r.start + n;
        return Math.floor(frame / 25) * 24 + Math.min(frame % 25, 23);
      };
      return { at, rate: { num: 24, den: 1 } };
    }
    default:
      return plain(0);
  }
}

/** Frame 24 of a second is none at 24 frames. */
const isAt24 = ({ start, length }: Recording): boolean => start % 25 !== 24 && (start + length) % 25 !== 24;

import type { MediaFileId } from '../model/ids.ts';
import { sameRecording } from './claims.ts';
import { cover } from './cover.ts';
import { liesBeside, type Marks, nameGradeIn, verdictIn, verdictRank } from './marks.ts';
import { strengths, waysApart, type Hypotheses, type Option, type Strength, type Way } from './hypotheses.ts';
import { stepping, type Steps } from './steps.ts';
import { areOfOtherReels } from './prepare.ts';
import { liesAsSaid } from './weigh.ts';
import { differInLetter, isOfSibling, numberChanged } from '../paths/siblings.ts';

/** What a clip is taken for, by which way, and whether company bears it out. */
export type Borne = {
  readonly option: Option;
  readonly way: Way;
  readonly isBorneOut: boolean;
  /** Independent recordings that stand apart in the same way. */
  readonly witnesses: number;
};

type Support = { readonly witnesses: Set<number>; clips: number };

/** Directions in which some clip's namesake is another recording; and how many clips are of each origin. */
export type Company = { readonly against: ReadonlySet<number>; readonly origins: ReadonlyMap<string, number> };

/** So many times the company of what else a clip may be is more than chance. */
const outnumbered = 4;

/** Of so many of a hundred clips of one origin the files must lie together, where names do not tell. */
const mostOf = 80;

/**
 * Which of the files that it may be each clip is taken for, so that few explanations do for all, and which of that is
 * believed. A way is believed where independent recordings bear it out alike (how many, their strength says), where no
 * file that lies where it leads is another recording, and where nothing bears out what else the clip may be.
 */
export function* bearOut(hypotheses: readonly Hypotheses[], { against, origins }: Company): Steps<Borne[]> {
  const support = supportOf(hypotheses);
  yield;
  const conflicts = conflictsOf(hypotheses);
  yield;
  const isAgainst = (o: Option) => against.has(o.direction) || conflicts.has(o.key);
  const chosen = assign(hypotheses, isAgainst, support);
  yield;
  const byWay = new Map<string | number, Witnesses>();
  const byDirection = new Map<number, Witnesses>();
  const claims = new Map<MediaFileId, Option[]>();
  yield* stepping(chosen, ({ option, way }) => {
    const key = companyKey(option, way);
    const witnesses = byWay.get(key) ?? new Witnesses();
    byWay.set(key, witnesses);
    witnesses.add(option);
    const own = byDirection.get(option.key) ?? new Witnesses();
    byDirection.set(option.key, own);
    own.add(option);
    const id = option.candidate.file.id;
    const claimants = claims.get(id);
    if (claimants) claimants.push(option);
    else claims.set(id, [option]);
  });
  const optionsOf = new Map(hypotheses.map((h) => [h.dark, h.options]));
  const liesTogether = togetherIn(hypotheses);
  yield;
  const borne: Borne[] = [];
  yield* stepping(chosen, ({ option, way }) => {
    const witnesses = byWay.get(companyKey(option, way))!;
    const isBorneOut =
      option.strength === 'identified' ||
      (!isAgainst(option) &&
        !isContested(option, claims.get(option.candidate.file.id)!) &&
        hasWitnesses(option, witnesses) &&
        (way.folder?.how !== 'gathered' || cameAlong(option, byDirection.get(option.key)!, origins)) &&
        isWhole(option, support, origins) &&
        hasNoRival(option, optionsOf.get(option.dark)!, support, isAgainst, liesTogether));
    borne.push({ option, way, isBorneOut, witnesses: witnesses.count(strengths) });
  });
  return borne;
}

/** The independent recordings that bear out one way, by what each says. Asked by all its members, so counted once. */
class Witnesses {
  readonly #byStrength = new Map<Strength, Set<number>>();
  readonly #counts = new Map<readonly Strength[], number>();
  readonly #numbers = new Set<string>();

  add(option: Option): void {
    const number = option.renaming && numberChanged(option.dark.decided.clip.stem, option.renaming);
    if (number !== null) this.#numbers.add(number);
    const known = this.#byStrength.get(option.strength) ?? new Set<number>();
    this.#byStrength.set(option.strength, known.add(option.witness));
  }

  /** One and the same number became another in all of their names: it is no counter, but that of a channel or a camera. */
  get areOfOneNumber(): boolean {
    return this.#numbers.size === 1;
  }

  /** How many say something of one of these strengths, which are the same list each time. For when all are gathered. */
  count(of: readonly Strength[]): number {
    const known = this.#counts.get(of);
    if (known !== undefined) return known;
    const count = new Set(of.flatMap((strength) => [...(this.#byStrength.get(strength) ?? [])])).size;
    this.#counts.set(of, count);
    return count;
  }
}

/** What tells by its time; by its length as well; by what it covers as well. */
const byTime: readonly Strength[] = ['identified', 'timed'];
const byLength: readonly Strength[] = [...byTime, 'length'];
const byCover: readonly Strength[] = [...byTime, 'covering'];

/** Who bears out whom: all of one way, but where the edit knows no folders, those alone whose files lie together. */
const companyKey = (option: Option, way: Way): string | number =>
  option.dark.decided.clip.folders.length > 0 ? way.key : option.key;

function supportOf(hypotheses: readonly Hypotheses[]): Map<number, Support> {
  const support = new Map<number, Support>();
  for (const { options } of hypotheses)
    options.forEach((option, i) => {
      const { key } = option;
      const known = support.get(key) ?? { witnesses: new Set(), clips: 0 };
      support.set(key, known);
      known.witnesses.add(option.witness);
      if (!options.some((other, j) => j < i && other.key === key)) known.clips += 1;
    });
  return support;
}

/**
 * One direction in which timecodes stand apart differently is no direction: the shifts of one reel that do not agree
 * speak against each other. What is identified, and several constants of several reels, do not.
 */
function conflictsOf(hypotheses: readonly Hypotheses[]): Set<number> {
  const byDirection = new Map<number, Map<string, Set<number>>>();
  for (const { options } of hypotheses) {
    for (const option of options) {
      const { clip } = option.dark.decided;
      if (option.renaming === null || (clip.origin === null && option.timecode?.kind !== 'shifted')) continue;
      const byReel = byDirection.get(option.direction) ?? new Map<string, Set<number>>();
      byDirection.set(option.direction, byReel);
      const manners = byReel.get(clip.reelKey);
      if (manners) manners.add(option.key);
      else byReel.set(clip.reelKey, new Set([option.key]));
    }
  }
  const conflicts = new Set<number>();
  for (const byReel of byDirection.values())
    for (const manners of byReel.values()) if (manners.size > 1) for (const key of manners) conflicts.add(key);
  return conflicts;
}

/** The few ways that account for all, and for each clip the file to which its way leads. */
function assign(
  hypotheses: readonly Hypotheses[],
  isAgainst: (o: Option) => boolean,
  support: ReadonlyMap<number, Support>,
): { option: Option; way: Way }[] {
  type Item = {
    readonly members: { readonly options: readonly Option[] }[];
    readonly ways: Map<string, { way: Way; at: number }>;
  };
  const items = new Map<string, Item>();
  // Of most clips there is one thing that they may be.
  const likeliest = (all: readonly Option[]): readonly Option[] => {
    if (all.length < 2) return all;
    const atThePath = all.filter(isAtThePath);
    const sound = all.filter((o) => !isAgainst(o));
    const left = atThePath.length > 0 ? atThePath : sound.length > 0 ? sound : all;
    const most = Math.max(...left.map((o) => support.get(o.key)!.witnesses.size));
    return left.filter((o) => support.get(o.key)!.witnesses.size === most);
  };
  for (const { options: all } of hypotheses) {
    const options = likeliest(all);
    if (options.length === 0) continue;
    const key = options.map((o) => o.key).join(' ');
    const known = items.get(key);
    if (known) {
      known.members.push({ options });
      continue;
    }
    const ways = new Map<string, { way: Way; at: number }>();
    options.forEach((option, at) => {
      for (const way of waysApart(option)) if (!ways.has(way.key)) ways.set(way.key, { way, at });
    });
    items.set(key, { members: [{ options }], ways });
  }
  const list = [...items.values()];
  const chosen = cover(list.map(({ members, ways }) => ({ weight: members.length, options: [...ways.keys()] })));
  return list.flatMap(({ members, ways }, i) => {
    const { way, at } = ways.get(chosen[i]!)!;
    return members.map(({ options }) => ({ option: options[at]!, way }));
  });
}

/** Another recording has a claim to the same file: then no cause gives it to either. */
const isContested = (option: Option, claimants: readonly Option[]): boolean =>
  claimants.some((other) => other !== option && !sameRecording(other.dark.decided.clip, option.dark.decided.clip));

function hasWitnesses(option: Option, witnesses: Witnesses): boolean {
  const { clip } = option.dark.decided;
  // What lies at the very path, under its name and as long, and is only counted otherwise, needs no other witness.
  if (isAtThePath(option)) return true;
  // What rolled at once begins and ends at once: no company tells it from the clip's own.
  if (option.strength !== 'identified' && mayBeSibling(option, witnesses)) return false;
  switch (option.strength) {
    case 'identified':
      return true;
    case 'timed': {
      // Clocks set alike: without the reel a common name and the same start may be those of the camera beside it; and
      // of one reel, where reels repeat, a take that begins before and ends after it may be another unit's.
      const { marks } = option.candidate;
      const isToldByReel = verdictIn(marks, 'reel') === 'agrees' && clip.enriched === null && !isOtherCut(marks);
      const isAlike = clip.nameIsCommon && !isToldByReel;
      return witnesses.count(byTime) >= (isAlike ? 3 : 2);
    }
    case 'length':
      // Of clips that nothing gathers, some agree in length with some card by chance, whatever company it has.
      if (clip.origin === null && clip.nameIsCommon) return false;
      return witnesses.count(byLength) >= (clip.nameIsCommon ? 3 : 2);
    case 'covering':
      return witnesses.count(byCover) >= 3;
    case 'version':
      return false;
    case 'name':
      // A bare name says nothing: the same folder must hold what better evidence put there.
      return witnesses.count(byLength) >= 3 && option.candidate.levels > 0;
  }
}

/** Another eye, camera, channel or microphone of the same take, by its name. Its reel would tell. */
function mayBeSibling({ renaming, dark, candidate: { file, marks } }: Option, witnesses: Witnesses): boolean {
  const { clip } = dark.decided;
  if (verdictIn(marks, 'reel') === 'agrees') return false;
  if (liesBeside(marks)) return true;
  if (renaming === null) return areOfOtherReels(clip, file) || differInLetter(clip.stemKey, file.stemKey);
  return isOfSibling(renaming, { isSound: clip.clip.kind === 'sound' }) || witnesses.areOfOneNumber;
}

/**
 * Where several folders were put together, what one of them left there says nothing of another: of many clips some are as
 * long as a namesake by chance, and would be borne out by whoever went there. So its own folder has to have come along.
 */
function cameAlong({ dark, strength }: Option, own: Witnesses, origins: ReadonlyMap<string, number>): boolean {
  const { origin } = dark.decided.clip;
  if (strength !== 'length' || origin === null) return true;
  const there = own.count(byLength);
  return there >= 2 && there * 2 >= (origins.get(origin) ?? 0);
}

/**
 * Without name or reel a camera beside it may have rolled from the same frame, and without a name another unit's card of
 * the same reel covers some of it: but not nearly all.
 */
function isWhole(option: Option, support: ReadonlyMap<number, Support>, origins: ReadonlyMap<string, number>): boolean {
  const { clip } = option.dark.decided;
  const isTold = option.strength !== 'covering' && verdictIn(option.candidate.marks, 'reel') === 'agrees';
  if (option.renaming !== null || isTold || clip.origin === null) return true;
  return support.get(option.key)!.clips * 100 >= (origins.get(clip.origin) ?? 0) * mostOf;
}

/** From zero, and whole hours apart, are what people do; an odd constant is not. */
const isAtThePath = ({ dark, candidate, timecode }: Option): boolean =>
  candidate.file.id === dark.tiedTo &&
  verdictIn(candidate.marks, 'length') === 'agrees' &&
  (timecode?.kind === 'from-zero' || (timecode?.kind === 'shifted' && timecode.inHours !== null));

/** Cut down, or kept longer. */
const isOtherCut = (marks: Marks): boolean =>
  verdictIn(marks, 'timecode') === 'nearly' || verdictIn(marks, 'length') === 'nearly';

/** Nothing else that it may be is borne out by more than chance would. */
function hasNoRival(
  option: Option,
  options: readonly Option[],
  support: ReadonlyMap<number, Support>,
  isAgainst: (o: Option) => boolean,
  liesTogether: (o: Option) => boolean,
): boolean {
  const own = support.get(option.key)!.witnesses.size;
  return (
    isAtThePath(option) ||
    options.every((rival) => {
      if (rival === option || rival.witness === option.witness || isOtherForm(rival, option)) return true;
      if (rival.strength === 'name' && liesAsSaid(option.candidate) && !liesAsSaid(rival.candidate)) return true;
      if (isBesideByNumber(rival, option)) return false;
      // Units share reels, and what only covers may be of either: the more company it has, the more such clips there are.
      const onlyCovers = option.strength === 'covering';
      if ((onlyCovers || option.renaming === null) && saysMore(rival, option)) return false;
      const others = support.get(rival.key)!.witnesses.size;
      // Where another recording lies under a name of its card it may lie still, if nothing but it alone lies here.
      if (isAgainst(rival) && !onlyCovers) return others === 1 ? own > others : own >= others * outnumbered;
      // The majority of strangers is no company; and of very many folders some hold two or three by chance.
      const isCompany = others === 1 ? own >= (onlyCovers ? 6 : 3) : !onlyCovers && own >= others * outnumbered;
      return option.dark.decided.clip.origin !== null && isCompany && liesTogether(option);
    })
  );
}

/**
 * Both lie in one folder, one of them with a number behind its name since that was taken, and either says as much: which
 * came first is all that the names tell, and company tells no more than the folder.
 */
const isBesideByNumber = (rival: Option, option: Option): boolean =>
  rival.candidate.file.folderText === option.candidate.file.folderText &&
  [rival, option].some(({ candidate }) => nameGradeIn(candidate.marks) === 'copy') &&
  strengths.indexOf(rival.strength) <= strengths.indexOf(option.strength);

/**
 * Whether most of what was found at all of a clip's origin may have gone the way of the option: of a card whose files went
 * here and there, or were renamed one so and one so, those that went this way say nothing of the rest.
 */
function togetherIn(hypotheses: readonly Hypotheses[]): (o: Option) => boolean {
  const found = new Map<string, number>();
  const going = new Map<number, number>();
  const add = <K>(counts: Map<K, number>, key: K) => counts.set(key, (counts.get(key) ?? 0) + 1);
  for (const { dark, options } of hypotheses) {
    const { origin } = dark.decided.clip;
    if (origin === null || options.length === 0) continue;
    add(found, origin);
    const directions = options.length === 1 ? [options[0]!.direction] : new Set(options.map((o) => o.direction));
    for (const direction of directions) add(going, direction);
  }
  return ({ dark, direction }) => {
    const { origin } = dark.decided.clip;
    return origin !== null && going.get(direction)! * 100 >= found.get(origin)! * mostOf;
  };
}

const telling = ['name', 'reel', 'timecode', 'length'] as const;

/**
 * What by itself says more for a clip than a file does that only covers it, no company of that file outweighs. A reel
 * that stands in some name on the way to it, or is cut, is nothing beside the clip's very name.
 */
function saysMore({ candidate: a }: Option, { candidate: b }: Option): boolean {
  const isNamesake = verdictIn(a.marks, 'name') === 'agrees';
  const apart = telling.map((attribute) => {
    const [own, other] = [verdictIn(a.marks, attribute), verdictIn(b.marks, attribute)];
    const isBeside = isNamesake && attribute === 'reel' && own === 'unknown' && other === 'nearly';
    return isBeside ? 0 : verdictRank[own] - verdictRank[other];
  });
  return apart.every((by) => by >= 0) && apart.some((by) => by > 0);
}

/** The same recording in another form: which form is taken, the project says. */
const isOtherForm = ({ candidate: a }: Option, { candidate: b }: Option): boolean =>
  Boolean(a.form && b.form && a.form !== b.form && a.form !== 'other' && b.form !== 'other');

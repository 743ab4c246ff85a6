import type { Cause, CauseKind, CauseLink, DarkClip, DisplacedFolder, TimecodeCause } from './cause.ts';
import { refusedFor } from './decide.ts';
import { interpretationOf, timecodeDisplacement } from './displacement.ts';
import { FoundBefore, type Hypotheses, hypothesesOf } from './hypotheses.ts';
import { verdictIn } from './marks.ts';
import { renamingBetween } from './prepare.ts';
import { type Attribute, attributes, type MatchRules } from './rules.ts';
import { allAtOnce, stepping, type Steps } from './steps.ts';
import { bearOut, type Borne } from './witnesses.ts';
import { nameKey } from '../paths/names.ts';
import { isRenamed } from '../paths/renaming.ts';
import type { Rate } from '../time/rate.ts';

/** Fewer clips than this under one open explanation are no group: they are shown together with all that stand alone. */
const leastOpen = 2;

/**
 * The few explanations that account for all dark clips, most dark screen time first. Each clip belongs to exactly one:
 * where several would do, to the one that accounts for most (see `cover`). `before` is of an earlier time by the same rules.
 */
export const findCauses = (clips: readonly DarkClip[], rules: MatchRules, before?: FoundBefore): Cause[] =>
  allAtOnce(findingCauses(clips, rules, before));

/** The same, step by step. */
export function* findingCauses(
  clips: readonly DarkClip[],
  rules: MatchRules,
  before = new FoundBefore(),
): Steps<Cause[]> {
  const groups = new Map<string, Group>();
  const add = (key: string, kind: Group['kind'], member: Member) => {
    const group = groups.get(key);
    if (group) group.members.push(member);
    else groups.set(key, { key, kind, members: [member] });
  };
  const unknownVolumes = new Set(
    clips.flatMap(({ why }) => (why.code === 'volume-unknown' ? [nameKey(why.volume)] : [])),
  );
  const open = (dark: DarkClip) => {
    const { key, kind } = openCause(dark, unknownVolumes);
    add(key, () => kind, { dark, link: null, apart: apartOf(dark, rules) });
  };
  const displaced: Hypotheses[] = [];
  const against = new Set<number>();
  const origins = new Map<string, number>();
  const asked = new Set<string>();
  // What is not decided first: only where that points does anything else need to speak against it.
  const [undecided, decided] = partition(clips, ({ decided: { decision } }) => decision.kind !== 'certain');
  yield* stepping([...undecided, ...decided], (dark) => {
    const simple = simpleCause(dark);
    if (simple) {
      add(simple.key, () => simple.kind, { dark, link: null, apart: null });
      return;
    }
    const { decision, candidates } = dark.decided;
    const isDecided = decision.kind === 'certain';
    const find = () => hypothesesOf(dark, rules, before.names, isDecided ? asked : undefined);
    // Where there is something beside what is decided, it rests on what is asked of others.
    const isByItself = !isDecided || candidates.every(({ file }) => file.id === decision.mediaFileId);
    const hypotheses = isByItself ? before.of(dark, find) : find();
    if (!isDecided) for (const { candidate } of hypotheses.options) asked.add(candidate.file.folderText);
    for (const direction of hypotheses.against) against.add(direction);
    const { origin } = dark.decided.clip;
    if (origin !== null) origins.set(origin, (origins.get(origin) ?? 0) + 1);
    if (hypotheses.options.length > 0) displaced.push(hypotheses);
    else open(dark);
  });
  const borne = yield* bearOut(displaced, { against, origins });
  const perReel = waysPerReel(borne);
  yield* stepping(borne, (found) => {
    const { dark } = found.option;
    // What nothing bears out among several is a choice; what is refused as it stands is what it was said to be.
    if (!found.isBorneOut && !isWorthAsking(dark)) {
      open(dark);
      return;
    }
    const key = perReel.get(found.way.key) ?? found.way.key;
    add(`apart ${key}`, (members) => displacedKind(members, found.way.folder), memberOf(found));
  });
  return [...gatherAlone([...groups.values()])]
    .map((group) => causeOf(group))
    .sort(
      (a, b) => b.screenSeconds - a.screenSeconds || b.clipIds.length - a.clipIds.length || (a.key < b.key ? -1 : 1),
    );
}

function partition<T>(all: readonly T[], belongs: (item: T) => boolean): [T[], T[]] {
  const [first, second]: [T[], T[]] = [[], []];
  for (const item of all) (belongs(item) ? first : second).push(item);
  return [first, second];
}

type Member = {
  readonly dark: DarkClip;
  readonly link: CauseLink | null;
  readonly apart: Cause['apart'][number] | null;
};

type Group = {
  readonly key: string;
  readonly kind: (members: readonly Member[]) => CauseKind;
  readonly members: Member[];
};

/** A single near file, with nothing to choose from: shown under the explanation that it would have. */
const isWorthAsking = ({ decided: { decision } }: DarkClip): boolean =>
  decision.kind !== 'ask' || decision.reason === 'not-enough-known';

/** Groups that link nothing and are too few for an explanation, as one: their clips are looked at one by one. */
function gatherAlone(groups: readonly Group[]): Group[] {
  const isAlone = ({ key, members }: Group) =>
    (key.startsWith('apart ') || key.startsWith('choice ')) &&
    members.length < leastOpen &&
    members.every((m) => m.link === null);
  const alone = groups.filter(isAlone);
  if (alone.length < 2) return [...groups];
  const members = alone.flatMap((g) => g.members);
  return [...groups.filter((g) => !isAlone(g)), { key: 'alone', kind: () => ({ code: 'alone' }), members }];
}

function causeOf({ key, kind, members }: Group): Cause {
  const links = members.flatMap((m) => m.link ?? []);
  return {
    key,
    kind: kind(members),
    certainty: links.length === 0 ? 'open' : links.every((l) => l.certain) ? 'certain' : 'likely',
    clipIds: members.map((m) => m.dark.decided.clip.id),
    screenSeconds: members.reduce((sum, m) => sum + m.dark.screenSeconds, 0),
    links,
    wanting: wantingOf(members),
    apart: members.flatMap((m) => m.apart ?? []),
  };
}

/** What identifies, and is unknown of every link that is not certain. */
function wantingOf(members: readonly Member[]): Attribute[] {
  const unsure = members.flatMap(({ dark: { decided }, link }) =>
    link && !link.certain ? [decided.candidates.find((c) => c.file.id === link.mediaFileId)!.marks] : [],
  );
  const identifying = attributes.filter((a) => ['reel', 'timecode', 'length', 'content'].includes(a));
  return unsure.length === 0
    ? []
    : identifying.filter((a) => unsure.every((marks) => verdictIn(marks, a) === 'unknown'));
}

/** Reasons that say all there is to say, whatever candidates there may be. */
function simpleCause({ status, why, decided, tiedTo }: DarkClip): { key: string; kind: CauseKind } | null {
  const { decision } = decided;
  if (why.code === 'taken-offline') return { key: 'taken-offline', kind: { code: 'taken-offline' } };
  // A better file that is certain is the remedy, whatever is wrong with the tied one.
  if (decision.kind === 'certain' && decision.mediaFileId !== tiedTo) return null;
  if (status === 'unreadable' || decision.kind === 'unusable')
    return { key: 'unreadable', kind: { code: 'unreadable' } };
  if (status === 'short') return { key: 'short', kind: { code: 'short' } };
  if (why.code === 'place-away')
    return {
      key: `away ${why.placeId}`,
      kind: { code: 'place-away', placeId: why.placeId, placeName: why.placeName },
    };
  if (why.code === 'still-reading') return { key: 'being-read', kind: { code: 'being-read' } };
  return null;
}

/** Reasons for which a person has to look, because no file, or no one file, fits. */
function openCause(
  { decided, status }: DarkClip,
  unknownVolumes: ReadonlySet<string>,
): { key: string; kind: CauseKind } {
  const { clip, candidates, decision } = decided;
  if (decision.kind === 'ask') {
    const files = candidates.filter((c) => decision.mediaFileIds.includes(c.file.id)).map((c) => c.file);
    // What may lie in either of the same two folders is one question, however many clips ask it.
    const alternatives = [...new Set(files.map((f) => f.folderText))].sort();
    const isOneQuestion = alternatives.length > 1 && alternatives.length === files.length;
    const key = isOneQuestion ? alternatives.join('\u0000') : clip.id;
    return { key: `choice ${key}`, kind: { code: 'choice', alternatives } };
  }
  if (decision.kind === 'refused' || status === 'changed') return { key: 'replaced', kind: { code: 'replaced' } };
  // Of a drive that nobody knows, a namesake elsewhere says nothing: the drive is the reason.
  const volume = clip.path?.volume;
  if (status === 'missing' && volume && unknownVolumes.has(nameKey(volume)))
    return { key: `volume ${nameKey(volume)}`, kind: { code: 'volume-unknown', volume } };
  return { key: 'gone', kind: { code: 'gone' } };
}

function apartOf({ decided }: DarkClip, rules: MatchRules): Cause['apart'][number] | null {
  const { clip, decision, candidates } = decided;
  if (decision.kind === 'refused')
    return { clipId: clip.id, mediaFileId: decision.mediaFileId, differs: decision.differs };
  if (decision.kind !== 'ask' || decision.mediaFileIds.length !== 1) return null;
  const [mediaFileId] = decision.mediaFileIds;
  const { marks } = candidates.find((c) => c.file.id === mediaFileId)!;
  return { clipId: clip.id, mediaFileId: mediaFileId!, differs: refusedFor(marks, rules) };
}

function memberOf({ option, isBorneOut, witnesses }: Borne): Member {
  const { dark, candidate, timecode, strength } = option;
  const clipId = dark.decided.clip.id;
  const mediaFileId = candidate.file.id;
  if (!isBorneOut) {
    const differs = timecode ? [...option.differs, 'timecode' as const] : option.differs;
    return { dark, link: null, apart: { clipId, mediaFileId, differs } };
  }
  const interpretation = timecode ? interpretationOf(timecode) : null;
  return {
    dark,
    link: { clipId, mediaFileId, interpretation, certain: strength === 'identified', witnesses },
    apart: null,
  };
}

/** Ways that differ in nothing but the constant between timecodes, one for each reel, as one way. */
function waysPerReel(borne: readonly Borne[]): Map<string, string> {
  const shifts = new Map<string, Map<string, Set<string>>>();
  for (const { option, way, isBorneOut } of borne) {
    const rest = way.perReel;
    if (rest === null || !isBorneOut) continue;
    const constants = shifts.get(rest) ?? new Map<string, Set<string>>();
    shifts.set(rest, constants);
    const reels = constants.get(way.key) ?? new Set<string>();
    constants.set(way.key, reels.add(option.dark.decided.clip.reelKey || option.candidate.file.reelKey));
  }
  const perReel = new Map<string, string>();
  for (const [rest, constants] of shifts)
    if (constants.size > 1 && [...constants.values()].every((reels) => reels.size === 1))
      for (const key of constants.keys()) perReel.set(key, rest);
  return perReel;
}

/** The explanation in words to be, from its members. */
function displacedKind(members: readonly Member[], folder: DisplacedFolder | null): CauseKind {
  const { dark, link, apart } = members[0]!;
  const { clip, candidates } = dark.decided;
  const { file, marks } = candidates.find((c) => c.file.id === (link ?? apart)?.mediaFileId)!;
  const renaming = renamingBetween(clip, file);
  const itsRate = verdictIn(marks, 'rate') === 'nearly' ? file.file.facts?.rate : null;
  return {
    code: 'displaced',
    folder,
    name: renaming === null ? 'afresh' : isRenamed(renaming) ? renaming : null,
    timecode: timecodeCauseOf(members),
    rate: itsRate ? { edit: clip.clip.rate, file: itsRate } : null,
    isOtherRaster: verdictIn(marks, 'raster') === 'nearly',
  };
}

function timecodeCauseOf(members: readonly Member[]): TimecodeCause | null {
  const shifts = members.flatMap(({ dark, link }) => {
    const { clip, candidates } = dark.decided;
    const file = link?.interpretation && candidates.find((c) => c.file.id === link.mediaFileId)?.file;
    const timecode = file && timecodeDisplacement(clip, file);
    return timecode ? [{ clip, timecode, reel: clip.clip.reel ?? file.file.facts?.reel ?? '' }] : [];
  });
  const first = shifts[0];
  if (!first) return null;
  if (first.timecode.kind === 'from-zero') return { kind: 'from-zero' };
  if (first.timecode.kind === 'other-rate') return first.timecode;
  const { byFrames, inHours } = first.timecode;
  const reels = new Map<string, { reel: string; byFrames: number; rate: Rate }>();
  for (const { clip, timecode, reel } of shifts)
    if (timecode.kind === 'shifted' && !reels.has(reel))
      reels.set(reel, { reel, byFrames: timecode.byFrames, rate: clip.clip.rate });
  const isConstant = [...reels.values()].every((r) => r.byFrames === byFrames);
  return isConstant
    ? { kind: 'shifted', byFrames, rate: first.clip.clip.rate, inHours }
    : { kind: 'shifted-per-reel', reels: [...reels.values()] };
}

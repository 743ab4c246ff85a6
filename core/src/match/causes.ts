import type { Interpretation } from '../model/interpretation.ts';
import type { ClipId, MediaFileId, PlaceId } from '../model/ids.ts';
import { commonTailOfKeys } from '../paths/displacement.ts';
import { nameKey } from '../paths/names.ts';
import { isRenamed, renamingKey, renamingOf, type Renaming } from '../paths/renaming.ts';
import { formatRate, type Rate } from '../time/rate.ts';
import { cover } from './cover.ts';
import { refusedFor, sameRecording, type Decided } from './decide.ts';
import { interpretationOf, timecodeDisplacement, type TimecodeDisplacement } from './displacement.ts';
import type { Why } from './explain.ts';
import { verdictIn } from './marks.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';
import type { Attribute, MatchRules } from './rules.ts';
import type { StatusName } from './status.ts';
import type { Candidate } from './weigh.ts';

/** A dark clip with what matching found out about it. `tiedTo` is the file it is tied to now, wrong or unusable. */
export type DarkClip = {
  readonly decided: Decided<PreparedClip, PreparedFile>;
  readonly why: Why;
  readonly status: Exclude<StatusName, 'linked' | 'waived' | 'parked'>;
  readonly tiedTo: MediaFileId | null;
  /** Dark screen time of all its uses, for showing. */
  readonly screenSeconds: number;
};

/** How the timecode of a whole group stands apart. Each member keeps its own shift where they differ. */
export type TimecodeCause =
  | { readonly kind: 'from-zero' }
  | { readonly kind: 'shifted'; readonly byFrames: number; readonly rate: Rate; readonly inHours: number | null }
  | {
      readonly kind: 'shifted-per-reel';
      readonly reels: readonly { readonly reel: string; readonly byFrames: number; readonly rate: Rate }[];
    }
  | { readonly kind: 'other-rate'; readonly from: Rate; readonly to: Rate };

/**
 * Where a tree lay and lies, from volume or place down to where the paths part. `drive`: its name is all that changed.
 * `gathered`: what lay in several folders below `from` lies together in `to`.
 */
export type DisplacedFolder = {
  readonly from: string;
  readonly to: string;
  readonly how: 'drive' | 'tree' | 'gathered';
};

/** One explanation. `displaced` may have several parts at once: a folder that moved and whose files were renamed. */
export type CauseKind =
  | {
      readonly code: 'displaced';
      /** Null where the folder stayed. */
      readonly folder: DisplacedFolder | null;
      /** `afresh`: no pattern leads from the old names to the new ones. */
      readonly name: Renaming | 'afresh' | null;
      readonly timecode: TimecodeCause | null;
      /** A rate that is the same in count only. */
      readonly rate: { readonly edit: Rate; readonly file: Rate } | null;
      /** Files of another raster: small copies, or their originals. */
      readonly isOtherRaster: boolean;
    }
  | { readonly code: 'place-away'; readonly placeId: PlaceId; readonly placeName: string }
  | { readonly code: 'volume-unknown'; readonly volume: string }
  | { readonly code: 'choice'; readonly alternatives: readonly string[] }
  | { readonly code: 'replaced' }
  | { readonly code: 'unreadable' }
  | { readonly code: 'short' }
  | { readonly code: 'being-read' }
  | { readonly code: 'gone' };

export type CauseLink = {
  readonly clipId: ClipId;
  readonly mediaFileId: MediaFileId;
  /** How the clip must be read from now on, for its timecode to be the file's; null where it agrees. */
  readonly interpretation: Interpretation | null;
  readonly certain: boolean;
};

export type Cause = {
  /** The same for the same explanation, as long as it lasts. */
  readonly key: string;
  readonly kind: CauseKind;
  /** `certain`: every link it would make is. `likely`: its members bear each other out. `open`: a person has to say. */
  readonly certainty: 'certain' | 'likely' | 'open';
  /** All clips it accounts for. */
  readonly clipIds: readonly ClipId[];
  readonly screenSeconds: number;
  /** What accepting it links. */
  readonly links: readonly CauseLink[];
  /** What it accounts for and does not link: the file that comes near, and what keeps it from fitting. */
  readonly apart: readonly {
    readonly clipId: ClipId;
    readonly mediaFileId: MediaFileId;
    readonly differs: readonly Attribute[];
  }[];
};

/**
 * The few explanations that account for all dark clips, most dark screen time first. Each clip belongs to exactly one:
 * where several would do, to the one that accounts for most (see `cover`).
 */
export function findCauses(clips: readonly DarkClip[], rules: MatchRules): Cause[] {
  const groups = new Map<string, Group>();
  const add = (key: string, kind: Group['kind'], member: Member) => {
    const group = groups.get(key);
    if (group) group.members.push(member);
    else groups.set(key, { key, kind, members: [member] });
  };
  const found: Found[] = [];
  const unknownVolumes = new Set(
    clips.flatMap(({ why }) => (why.code === 'volume-unknown' ? [nameKey(why.volume)] : [])),
  );
  for (const dark of clips) {
    const simple = simpleCause(dark);
    if (simple) {
      add(simple.key, () => simple.kind, { dark, link: null, apart: null });
      continue;
    }
    const place = displacedMember(dark, rules);
    if (place) found.push(place);
    else {
      const open = openCause(dark, unknownVolumes);
      add(open.key, () => open.kind, { dark, link: null, apart: apartOf(dark) });
    }
  }
  for (const { key, kind, member } of groupDisplaced(found)) add(key, kind, member);
  return [...groups.values()]
    .map(causeOf)
    .sort(
      (a, b) => b.screenSeconds - a.screenSeconds || b.clipIds.length - a.clipIds.length || (a.key < b.key ? -1 : 1),
    );
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

function causeOf({ key, kind, members }: Group): Cause {
  const links = members.flatMap((m) => m.link ?? []);
  return {
    key,
    kind: kind(members),
    certainty: links.length === 0 ? 'open' : links.every((l) => l.certain) ? 'certain' : 'likely',
    clipIds: members.map((m) => m.dark.decided.clip.id),
    screenSeconds: members.reduce((sum, m) => sum + m.dark.screenSeconds, 0),
    links,
    apart: members.flatMap((m) => m.apart ?? []),
  };
}

/** Reasons that say all there is to say, whatever candidates there may be. */
function simpleCause({ status, why, decided, tiedTo }: DarkClip): { key: string; kind: CauseKind } | null {
  const { decision } = decided;
  // A better file that is certain is the remedy, whatever is wrong with the tied one.
  if (decision.kind === 'certain' && decision.mediaFileId !== tiedTo) return null;
  if (status === 'unreadable') return { key: 'unreadable', kind: { code: 'unreadable' } };
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
  // Of a drive that nobody knows, a namesake elsewhere says nothing: the drive is the reason.
  const volume = clip.path?.volume;
  if (status === 'missing' && volume && unknownVolumes.has(nameKey(volume)))
    return { key: `volume ${nameKey(volume)}`, kind: { code: 'volume-unknown', volume } };
  if (decision.kind === 'refused' || status === 'changed') return { key: 'replaced', kind: { code: 'replaced' } };
  return { key: 'gone', kind: { code: 'gone' } };
}

function apartOf({ decided: { clip, decision } }: DarkClip): Cause['apart'][number] | null {
  return decision.kind === 'refused'
    ? { clipId: clip.id, mediaFileId: decision.mediaFileId, differs: decision.differs }
    : null;
}

/** A clip with the one file that it may be, and how the two stand apart. */
type Found = {
  readonly dark: DarkClip;
  readonly candidate: Candidate;
  readonly strength: 'certain' | 'likely' | 'borne-out' | 'near';
  readonly differs: readonly Attribute[];
  readonly renaming: Renaming | null;
  readonly timecode: TimecodeDisplacement | null;
};

function displacedMember(dark: DarkClip, rules: MatchRules): Found | null {
  const { clip, candidates, decision } = dark.decided;
  const byId = (id: MediaFileId) => candidates.find((c) => c.file.id === id)!;
  const found = (candidate: Candidate, strength: Found['strength'], timecode: TimecodeDisplacement | null): Found => ({
    dark,
    candidate,
    strength,
    timecode,
    renaming: renamingOf(clip.name, candidate.file.file.name),
    differs: refusedFor(candidate.marks, rules),
  });
  if (decision.kind === 'certain') return found(byId(decision.mediaFileId), 'certain', null);
  if (
    decision.kind === 'ask' &&
    decision.certainty === 'likely' &&
    !timecodeApart(clip, byId(decision.mediaFileIds[0]!))
  )
    return found(byId(decision.mediaFileIds[0]!), 'likely', null);
  // Refused, but for its timecode or the rate it was read at alone: perhaps the same recording, counted otherwise.
  const counted = candidates.flatMap((candidate) => {
    const timecode = isOtherwiseAlike(candidate) ? timecodeApart(clip, candidate) : null;
    const excused = timecode?.kind === 'other-rate' ? ['timecode', 'rate', 'length'] : ['timecode'];
    const fits = timecode && refusedFor(candidate.marks, rules).every((a) => excused.includes(a));
    return fits ? [{ candidate, timecode }] : [];
  });
  if (counted.length > 0) {
    // Several takes of one name and length, counted otherwise: without the reel, or the very path, nothing tells which.
    const ofReel = counted.filter(({ candidate }) => verdictIn(candidate.marks, 'reel') === 'agrees');
    const pool = ofReel.length > 0 ? ofReel : counted;
    const { candidate, timecode } = pool.find((p) => p.candidate.file.id === dark.tiedTo) ?? pool[0]!;
    const { bytes } = candidate.file;
    const isTheOne =
      candidate.file.id === dark.tiedTo ||
      pool.every((p) => p.candidate === candidate || (bytes !== null && p.candidate.file.bytes === bytes));
    return found(candidate, isTheOne ? 'borne-out' : 'near', timecode);
  }
  if (decision.kind === 'ask' && decision.reason === 'not-enough-known')
    return found(byId(decision.mediaFileIds[0]!), 'near', null);
  return null;
}

/** How the timecode stands apart, where it does or the rate differs. */
const timecodeApart = (clip: PreparedClip, { file, marks }: Candidate): TimecodeDisplacement | null =>
  verdictIn(marks, 'timecode') === 'agrees' && verdictIn(marks, 'rate') !== 'differs'
    ? null
    : timecodeDisplacement(clip, file);

/** The name speaks for it, and nothing beside timecode, length and rate against it. */
const isOtherwiseAlike = ({ file, marks }: Candidate): boolean =>
  file.state === 'readable' &&
  verdictIn(marks, 'name') !== 'differs' &&
  (['reel', 'content', 'raster', 'sound', 'kind'] as const).every((a) => verdictIn(marks, a) !== 'differs');

function groupDisplaced(
  found: readonly Found[],
): { key: string; kind: (members: readonly Member[]) => CauseKind; member: Member }[] {
  const timecodes = timecodeClasses(found);
  // Clips of one folder whose files lie in one folder, renamed alike, are explained alike: one item for all of them.
  const alike = new Map<string, Alike>();
  found.forEach((f, i) => {
    const { clip } = f.dark.decided;
    const { file, marks } = f.candidate;
    const own = timecodes[i]!;
    const name = f.renaming ? (isRenamed(f.renaming) ? renamingKey(f.renaming) : '') : 'afresh';
    const rate = verdictIn(marks, 'rate') === 'nearly' ? 'nominal' : '';
    const raster = verdictIn(marks, 'raster') === 'nearly' ? 'raster' : '';
    const rest = [name, own, rate, raster].join('\u0002');
    const key = `${clip.folderText}\u0003${file.folderText}\u0003${rest}`;
    const group = alike.get(key);
    if (group) group.items.push(f);
    else alike.set(key, { items: [f], rest, from: clip.folders, to: file.folders });
  });
  const list = [...alike.values()].map((group) => ({ ...group, ways: waysApart(group) }));
  const chosen = cover(list.map(({ items, ways }) => ({ weight: items.length, options: ways.map((way) => way.key) })));
  const claims = new Map<MediaFileId, PreparedClip[]>();
  for (const { dark, candidate } of found) {
    const claimants = claims.get(candidate.file.id);
    if (claimants) claimants.push(dark.decided.clip);
    else claims.set(candidate.file.id, [dark.decided.clip]);
  }
  const sizes = new Map<string | null, number>();
  list.forEach(({ items }, i) => sizes.set(chosen[i]!, (sizes.get(chosen[i]!) ?? 0) + items.length));
  return list.flatMap(({ items, ways }, i) => {
    const way = ways.find((w) => w.key === chosen[i])!;
    return items.map((f) => ({
      key: `apart ${way.key}`,
      kind: (members: readonly Member[]) => displacedKind(members, way.folder),
      member: memberOf(
        isBorneOut(f, sizes.get(chosen[i]!)!) && !isContested(f, claims) ? f : { ...f, strength: 'near' },
      ),
    }));
  });
}

type Alike = {
  readonly items: Found[];
  readonly rest: string;
  readonly from: readonly string[];
  readonly to: readonly string[];
};

/** The ways to say where a folder went, from where the paths part down to the whole of both, most general first. */
function waysApart({
  items,
  rest,
  from,
  to,
}: Alike): { readonly key: string; readonly folder: DisplacedFolder | null }[] {
  const { clip } = items[0]!.dark.decided;
  const tail = commonTailOfKeys(clip.folderKeys, items[0]!.candidate.file.folderKeys);
  // An edit without paths says nothing of folders: what it names lies in this place, and that is all.
  const levels = from.length === 0 ? [to.length - 1] : Array.from({ length: tail + 1 }, (_, i) => tail - i);
  const way = (old: readonly string[], now: readonly string[], how: DisplacedFolder['how']) => {
    const [oldText, nowText] = [old.join('/'), now.join('/')];
    return {
      key: [nameKey(oldText), nameKey(nowText), how === 'gathered' ? how : '', rest].join('\u0004'),
      folder: old.length === 0 && now.length === 0 ? null : { from: oldText, to: nowText, how },
    };
  };
  const trees = levels.map((level) => {
    const [old, now] = [from.slice(0, from.length - level), to.slice(0, to.length - level)];
    return way(old, now, old.length === 1 && now.length === 1 ? 'drive' : 'tree');
  });
  const above = Array.from({ length: Math.max(0, from.length - 1) }, (_, i) => from.slice(0, from.length - 1 - i));
  return [...trees, ...above.map((old) => way(old, to, 'gathered'))];
}

/** Another recording has a claim to the same file: then no cause gives it to either, unless it is certain. */
const isContested = ({ dark, candidate, strength }: Found, claims: ReadonlyMap<MediaFileId, readonly PreparedClip[]>) =>
  strength !== 'certain' && claims.get(candidate.file.id)!.some((other) => !sameRecording(other, dark.decided.clip));

/** A shift that one clip alone shows may be chance; whole hours, and counts from zero, are what people do. */
const isBorneOut = ({ timecode }: Found, members: number): boolean =>
  timecode?.kind !== 'shifted' || timecode.inHours !== null || members > 1;

function memberOf(f: Found): Member {
  const { clip } = f.dark.decided;
  const mediaFileId = f.candidate.file.id;
  if (f.strength === 'near')
    return { dark: f.dark, link: null, apart: { clipId: clip.id, mediaFileId, differs: f.differs } };
  const interpretation = f.timecode ? interpretationOf(f.timecode) : null;
  return {
    dark: f.dark,
    link: { clipId: clip.id, mediaFileId, interpretation, certain: f.strength === 'certain' },
    apart: null,
  };
}

/** What timecode class each found clip belongs to, as a key; empty where its timecode agrees. */
function timecodeClasses(found: readonly Found[]): string[] {
  const byShift = new Map<string, Set<string>>();
  const byReel = new Map<string, Set<string>>();
  const counts = new Map<string, number>();
  const shiftKey = ({ dark }: Found, byFrames: number) => `${byFrames}@${formatRate(dark.decided.clip.clip.rate)}`;
  const reelOf = ({ dark, candidate }: Found) => dark.decided.clip.reelKey || candidate.file.reelKey;
  const note = (map: Map<string, Set<string>>, key: string, value: string) => {
    const set = map.get(key);
    if (set) set.add(value);
    else map.set(key, new Set([value]));
  };
  for (const f of found) {
    if (f.timecode?.kind !== 'shifted') continue;
    const shift = shiftKey(f, f.timecode.byFrames);
    note(byShift, shift, reelOf(f));
    note(byReel, reelOf(f), shift);
    counts.set(shift, (counts.get(shift) ?? 0) + 1);
  }
  const perReel = [...byReel.values()].filter((shifts) => shifts.size === 1).length > 1 && byShift.size > 1;
  return found.map((f) => {
    const { timecode } = f;
    if (!timecode) return '';
    if (timecode.kind === 'from-zero') return 'from-zero';
    if (timecode.kind === 'other-rate') return `rate ${formatRate(timecode.from)} ${formatRate(timecode.to)}`;
    const shift = shiftKey(f, timecode.byFrames);
    const isShared = byShift.get(shift)!.size > 1 || !perReel;
    return isShared ? `shift ${shift}` : 'per-reel';
  });
}

/** The explanation in words to be, from its members. */
function displacedKind(members: readonly Member[], folder: DisplacedFolder | null): CauseKind {
  const { dark, link, apart } = members[0]!;
  const { clip, candidates } = dark.decided;
  const { file, marks } = candidates.find((c) => c.file.id === (link ?? apart)?.mediaFileId)!;
  const renaming = renamingOf(clip.name, file.file.name);
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

import type { ClipId, MediaFileId } from '../model/ids.ts';
import type { Verdict } from './evidence/evidence.ts';
import { isRefusedUnder, marksUnder, ruleBits, verdictIn, type Marks, type RuleBits } from './marks.ts';
import { attributes, type Attribute, type MatchRules } from './rules.ts';
import { defaultForm, type Form } from './forms.ts';
import { closeness, type Candidate, type FileInHand } from './weigh.ts';

/** What identifies a recording when nothing speaks against it. */
export type Grounds = 'content' | 'name-timecode-length' | 'reel-timecode-length' | 'name-reel-timecode';

/** How far the next best stands behind: the attributes in which it is worse. */
export type Margin = { readonly mediaFileId: MediaFileId; readonly behindIn: readonly Attribute[] };

export type Decision =
  | {
      readonly kind: 'certain';
      readonly mediaFileId: MediaFileId;
      readonly grounds: Grounds;
      /** Null when nothing else came near. */
      readonly second: Margin | null;
      /** Files of the same bytes elsewhere; the one whose folders agree most is taken. */
      readonly copies: readonly MediaFileId[];
    }
  | {
      readonly kind: 'ask';
      /** `likely`: one file alone fits, and nothing that counts speaks against it. `possible`: anything less. */
      readonly certainty: 'likely' | 'possible';
      readonly reason: AskReason;
      readonly mediaFileIds: readonly MediaFileId[];
      readonly second: Margin | null;
    }
  /** Only candidates that differ in what must agree: the closest of them, and what it differs in. */
  | { readonly kind: 'refused'; readonly mediaFileId: MediaFileId; readonly differs: readonly Attribute[] }
  | { readonly kind: 'nothing' };

export type AskReason =
  /** Several candidates are equally good. */
  | 'several'
  /** The best candidate fits, but not enough is known to be certain. */
  | 'not-enough-known'
  /** Another clip, of another recording, has as good a claim to the same file. */
  | 'contested'
  /** A file of the same name has not been read yet. */
  | 'still-reading';

/** What deciding needs of a clip. */
export type ClipInHand = {
  readonly id: ClipId;
  readonly reelKey: string;
  readonly parentKey: string | null;
};
export type Weighed<C extends ClipInHand = ClipInHand, F extends FileInHand = FileInHand> = {
  readonly clip: C;
  readonly candidates: readonly Candidate<F>[];
};
export type Decided<C extends ClipInHand = ClipInHand, F extends FileInHand = FileInHand> = Weighed<C, F> & {
  readonly decision: Decision;
};

/** A tie that already stands, so that another recording is not given the same file. */
export type Claim = { readonly clip: ClipInHand; readonly mediaFileId: MediaFileId };

/** Candidates closest first. The order does not depend on rules, so it is made once. */
export function inOrderOfCloseness<F extends FileInHand>(candidates: readonly Candidate<F>[]): Candidate<F>[] {
  if (candidates.length < 2) return [...candidates];
  return candidates
    .map((candidate) => ({ candidate, value: closeness(candidate) }))
    .sort((a, b) => b.value - a.value || (a.candidate.file.nameKey < b.candidate.file.nameKey ? -1 : 1))
    .map((entry) => entry.candidate);
}

/**
 * Decides for all clips together; candidates stand closest first. Certain only where something identifies the file, no
 * counted attribute differs and no second candidate is as good; then no file goes to two different recordings. Linear
 * in candidates, and asks nothing but marks, so that rules can be tried while they are being changed.
 */
export function decide<C extends ClipInHand, F extends FileInHand>(
  weighed: readonly Weighed<C, F>[],
  rules: MatchRules,
  claims: readonly Claim[] = [],
  preferred: Form = defaultForm,
): Decided<C, F>[] {
  const bits = ruleBits(rules);
  const alone = weighed.map(({ clip, candidates }) => ({
    clip,
    candidates,
    decision: decideAlone(candidates, bits, preferred),
  }));
  return settleClaims(alone, claims);
}

/** A candidate with its marks as the rules take them. */
type Seen = { readonly c: Candidate<FileInHand>; readonly seen: Marks };

function decideAlone(all: readonly Candidate<FileInHand>[], bits: RuleBits, preferred: Form): Decision {
  const { rules } = bits;
  const searched = rules.within || rules.kinds ? all.filter((c) => isSearched(c.file, rules)) : all;
  if (searched.length === 0) return { kind: 'nothing' };
  const candidates = searched.map((c): Seen => ({ c, seen: marksUnder(bits, c.marks) }));
  const usable = candidates.filter(({ c, seen }) => c.file.state !== 'unusable' && !isRefusedUnder(bits, seen));
  const certain = usable.filter(({ seen }) => groundsIn(seen) !== null);
  const unread = usable.filter(({ c, seen }) => c.file.state === 'unread' && isNamesake(c.marks, seen));
  const best = certain.find((one) => certain.every((other) => other === one || beats(one, other)));
  if (unread.length > 0 && (!best || groundsIn(best.seen) !== 'content'))
    return ask('still-reading', 'possible', [...certain, ...unread], null);
  const { bytes } = certain[0]?.c.file ?? { bytes: null };
  const isOneContent = certain.length > 1 && bytes !== null && certain.every(({ c }) => c.file.bytes === bytes);
  const identified = best ?? (isOneContent ? nearest(certain) : oneRecording(certain));
  if (identified) {
    // The recording is certain; which form of it is for the project to say.
    const taken = inForm(identified, usable, preferred);
    const { file } = taken.c;
    const isCopy = (one: Seen) => one !== taken && file.bytes !== null && one.c.file.bytes === file.bytes;
    const copies = certain.filter(isCopy);
    const second = usable.find((one) => one !== taken && !copies.includes(one));
    return {
      kind: 'certain',
      mediaFileId: file.id,
      grounds: groundsIn(identified.seen)!,
      second: second ? margin(taken, second) : null,
      copies: copies.map(({ c }) => c.file.id),
    };
  }
  if (certain.length > 1) return ask('several', 'possible', certain, null);
  const worthAsking = usable.filter(({ seen }) => isPlausible(seen));
  // Of another reel is only asked about where nothing of the right one, or of none, is worth asking about.
  const ofReel = worthAsking.filter(({ seen }) => verdictIn(seen, 'reel') !== 'differs');
  const plausible = ofReel.length > 0 ? ofReel : worthAsking;
  const leaders = plausible.filter((one) => !plausible.some((other) => other !== one && beats(other, one)));
  if (leaders.length === 1) {
    const leader = leaders[0]!;
    const second = plausible.find((one) => one !== leader);
    const certainty = isLikely(leader.seen) ? 'likely' : 'possible';
    return ask('not-enough-known', certainty, leaders, second ? margin(leader, second) : null);
  }
  if (leaders.length > 1) return ask('several', 'possible', leaders, null);
  const refused = candidates.find(({ c, seen }) => isRefusedUnder(bits, seen) && isNamesake(c.marks, seen));
  return refused
    ? { kind: 'refused', mediaFileId: refused.c.file.id, differs: refusedIn(bits, refused.seen) }
    : { kind: 'nothing' };
}

const ask = (
  reason: AskReason,
  certainty: 'likely' | 'possible',
  candidates: readonly Pick<Seen, 'c'>[],
  second: Margin | null,
): Decision => ({ kind: 'ask', certainty, reason, mediaFileIds: candidates.map(({ c }) => c.file.id), second });

/** Several certain files that are one recording in several forms: the recording is certain. */
const oneRecording = (certain: readonly Seen[]): Seen | undefined =>
  certain.length > 1 && certain.every(({ c }) => c.form) ? certain[0] : undefined;

/** The form that the project works with, where the recording is here in it; else as it was identified. */
function inForm(identified: Seen, usable: readonly Seen[], preferred: Form): Seen {
  if (!identified.c.form || identified.c.form === preferred) return identified;
  const inPreferred = usable.filter(({ c }) => c.form === preferred);
  return inPreferred.length > 0 ? nearest(inPreferred) : identified;
}

/** Of files with the same bytes any is right; the one whose folders agree most is where a person would look. */
const nearest = (candidates: readonly Seen[]): Seen =>
  candidates.reduce((best, one) => (one.c.levels > best.c.levels ? one : best));

const margin = (first: Seen, second: Seen): Margin => ({
  mediaFileId: second.c.file.id,
  behindIn: attributes.filter((a) => difference(first, second, a) > 0),
});

/** Whether the rules look at this file at all. */
export function isSearched(
  file: Pick<FileInHand, 'placeId' | 'folder' | 'kind'>,
  { within, kinds }: MatchRules,
): boolean {
  if (kinds && file.kind !== null && !kinds.includes(file.kind)) return false;
  return (
    !within ||
    within.some(
      ({ placeId, folder }) =>
        placeId === file.placeId && (folder === '' || file.folder === folder || file.folder.startsWith(`${folder}/`)),
    )
  );
}

/** Its name is the clip's, but for case and extension. */
const isNamesake = (marks: Marks, seen: Marks): boolean =>
  verdictIn(marks, 'name') === 'agrees' || verdictIn(seen, 'name') === 'agrees';

const refusedIn = (bits: RuleBits, seen: Marks): Attribute[] =>
  attributes.filter((a) => isRefusedUnder({ ...bits, must: ruleBitOf(bits, a) }, seen));
const ruleBitOf = ({ must }: RuleBits, attribute: Attribute): number =>
  must & (1 << (attributes.indexOf(attribute) * 2));

/** The attributes that must agree and differ. */
export function refusedFor(marks: Marks, rules: MatchRules): Attribute[] {
  const bits = ruleBits(rules);
  return refusedIn(bits, marksUnder(bits, marks));
}

/** A difference in any of these, where it counts, keeps a link from being certain. Names and folders may differ. */
const speakingAgainst: readonly Attribute[] = [
  'reel',
  'timecode',
  'length',
  'content',
  'kind',
  'codec',
  'sound',
  'size',
];
/** In these even "nearly" does: another raster or rate is another rendition, and choosing among those is a person's. */
const renditionMarks: readonly Attribute[] = ['rate', 'raster'];

/** What identifies the recording, or null when nothing does or something that counts speaks against it. */
export const groundsOf = (marks: Marks, rules: MatchRules): Grounds | null =>
  groundsIn(marksUnder(ruleBits(rules), marks));

function groundsIn(seen: Marks): Grounds | null {
  if (speakingAgainst.some((a) => verdictIn(seen, a) === 'differs')) return null;
  if (verdictIn(seen, 'content') === 'agrees') return 'content';
  if (renditionMarks.some((a) => verdictIn(seen, a) === 'nearly' || verdictIn(seen, a) === 'differs')) return null;
  if (verdictIn(seen, 'timecode') !== 'agrees') return null;
  const [name, reel, length] = [verdictIn(seen, 'name'), verdictIn(seen, 'reel'), verdictIn(seen, 'length')];
  if (length === 'agrees') {
    if (name === 'agrees') return 'name-timecode-length';
    return reel === 'agrees' ? 'reel-timecode-length' : null;
  }
  // A list states no length of the media, so all three that it does state are asked for.
  const isStated = name === 'agrees' && (reel === 'agrees' || reel === 'nearly');
  return isStated && length === 'unknown' ? 'name-reel-timecode' : null;
}

/** Worth asking about: the name or the reel with its timecode speaks for it. */
function isPlausible(seen: Marks): boolean {
  if (verdictIn(seen, 'content') === 'agrees') return true;
  const [name, reel, timecode] = [verdictIn(seen, 'name'), verdictIn(seen, 'reel'), verdictIn(seen, 'timecode')];
  if (name === 'agrees') return reel !== 'differs' || timecode !== 'differs';
  if (name === 'nearly') return reel !== 'differs';
  return (
    (reel === 'agrees' && (timecode === 'agrees' || timecode === 'nearly')) ||
    (timecode === 'agrees' && verdictIn(seen, 'length') === 'agrees' && reel !== 'differs')
  );
}

/** Nothing that counts differs, and at least one thing beside the name, or reel and timecode, speaks for it. */
function isLikely(seen: Marks): boolean {
  if (attributes.some((a) => !mayDiffer.includes(a) && verdictIn(seen, a) === 'differs')) return false;
  const [name, reel, timecode] = [verdictIn(seen, 'name'), verdictIn(seen, 'reel'), verdictIn(seen, 'timecode')];
  if (verdictIn(seen, 'content') === 'agrees') return true;
  if (name === 'agrees' || name === 'nearly')
    return (
      timecode === 'agrees' ||
      verdictIn(seen, 'length') === 'agrees' ||
      (name === 'agrees' && (timecode === 'nearly' || reel === 'agrees' || verdictIn(seen, 'kind') === 'agrees'))
    );
  return reel === 'agrees' && timecode === 'agrees';
}
const mayDiffer: readonly Attribute[] = ['name', 'folder', 'date'];

const rank: Readonly<Record<Verdict, number>> = { agrees: 3, nearly: 2, unknown: 1, differs: 0 };
/** The one of two files that was written on another day is no worse: copies lose their dates. */
const compared: readonly Attribute[] = attributes.filter((a) => a !== 'date');

function difference(a: Seen, b: Seen, attribute: Attribute): number {
  // Where folders are ignored, both are unknown there.
  if (attribute === 'folder')
    return verdictIn(a.seen, 'folder') === 'unknown' && verdictIn(b.seen, 'folder') === 'unknown'
      ? 0
      : a.c.levels - b.c.levels;
  return rank[verdictIn(a.seen, attribute)] - rank[verdictIn(b.seen, attribute)];
}

/** Whether `a` is better than `b` in something that counts and worse in nothing. */
function beats(a: Seen, b: Seen): boolean {
  let better = false;
  for (const attribute of compared) {
    const by = difference(a, b, attribute);
    if (by < 0) return false;
    if (by > 0) better = true;
  }
  return better;
}

/** One file, one recording: where different recordings claim a file, the one whose folders agree more keeps it. */
function settleClaims<C extends ClipInHand, F extends FileInHand>(
  decided: readonly Decided<C, F>[],
  claims: readonly Claim[],
): Decided<C, F>[] {
  type Entry = { clip: ClipInHand; levels: number; standing: boolean };
  const byFile = new Map<MediaFileId, Entry[]>();
  const note = (id: MediaFileId, entry: Entry) => {
    const list = byFile.get(id);
    if (list) list.push(entry);
    else byFile.set(id, [entry]);
  };
  for (const { clip, mediaFileId } of claims) note(mediaFileId, { clip, levels: Infinity, standing: true });
  for (const { clip, candidates, decision } of decided) {
    if (decision.kind !== 'certain') continue;
    const chosen = candidates.find((c) => c.file.id === decision.mediaFileId)!;
    note(decision.mediaFileId, { clip, levels: chosen.levels, standing: false });
  }
  const losers = new Set<ClipId>();
  for (const claimants of byFile.values()) {
    if (claimants.length < 2) continue;
    claimants.sort((a, b) => b.levels - a.levels);
    const first = claimants[0]!;
    const others = claimants.filter((c) => !sameRecording(first.clip, c.clip));
    for (const other of others) losers.add(other.clip.id);
    if (!first.standing && others.some((o) => o.levels === first.levels))
      for (const c of claimants) losers.add(c.clip.id);
  }
  // What is only likely gives way to whatever of another recording has the file, or is certain of it.
  for (const { clip, decision } of decided) {
    if (decision.kind !== 'ask' || decision.certainty !== 'likely') continue;
    if (byFile.get(decision.mediaFileIds[0]!)?.some((other) => !sameRecording(other.clip, clip))) losers.add(clip.id);
  }
  return decided.map((entry) =>
    entry.decision.kind === 'ask' && losers.has(entry.clip.id)
      ? { ...entry, decision: { ...entry.decision, certainty: 'possible', reason: 'contested', second: null } }
      : losers.has(entry.clip.id) && entry.decision.kind === 'certain'
        ? {
            ...entry,
            decision: ask('contested', 'possible', [{ c: chosenOf(entry, entry.decision.mediaFileId) }], null),
          }
        : entry,
  );
}

const chosenOf = <F extends FileInHand>({ candidates }: { candidates: readonly Candidate<F>[] }, id: MediaFileId) =>
  candidates.find((c) => c.file.id === id)!;

/** Two clips may be one recording seen from two machines; different reels, or equal names in different folders, are not. */
export function sameRecording(a: ClipInHand, b: ClipInHand): boolean {
  if (a.reelKey && b.reelKey) return a.reelKey === b.reelKey;
  return a.parentKey === null || b.parentKey === null || a.parentKey === b.parentKey;
}

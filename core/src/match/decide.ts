import type { ClipId, MediaFileId } from '../model/ids.ts';
import type { Verdict } from './evidence/evidence.ts';
import { verdictIn, verdictUnder, type Marks } from './marks.ts';
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
  const alone = weighed.map(({ clip, candidates }) => ({
    clip,
    candidates,
    decision: decideAlone(candidates, rules, preferred),
  }));
  return settleClaims(alone, claims);
}

function decideAlone(all: readonly Candidate<FileInHand>[], rules: MatchRules, preferred: Form): Decision {
  const candidates = rules.within || rules.kinds ? all.filter((c) => isSearched(c.file, rules)) : all;
  if (candidates.length === 0) return { kind: 'nothing' };
  const usable = candidates.filter((c) => c.file.state !== 'unusable' && !isRefused(c.marks, rules));
  const certain = usable.filter((c) => groundsOf(c.marks, rules) !== null);
  const unread = usable.filter((c) => c.file.state === 'unread' && isNamesake(c.marks, rules));
  const best = certain.find((c) => certain.every((other) => other === c || beats(c, other, rules)));
  if (unread.length > 0 && (!best || groundsOf(best.marks, rules) !== 'content'))
    return ask('still-reading', 'possible', [...certain, ...unread], null);
  const isOneContent =
    certain.length > 1 && certain.every((c) => c.file.bytes !== null && c.file.bytes === certain[0]!.file.bytes);
  const identified = best ?? (isOneContent ? nearest(certain) : oneRecording(certain));
  if (identified) {
    // The recording is certain; which form of it is for the project to say.
    const taken = inForm(identified, usable, preferred);
    const copies = certain.filter((c) => c !== taken && c.file.bytes !== null && c.file.bytes === taken.file.bytes);
    const second = usable.find((c) => c !== taken && !copies.includes(c));
    return {
      kind: 'certain',
      mediaFileId: taken.file.id,
      grounds: groundsOf(identified.marks, rules)!,
      second: second ? margin(taken, second, rules) : null,
      copies: copies.map((c) => c.file.id),
    };
  }
  if (certain.length > 1) return ask('several', 'possible', certain, null);
  const worthAsking = usable.filter((c) => isPlausible(c.marks, rules));
  // Of another reel is only asked about where nothing of the right one, or of none, is worth asking about.
  const ofReel = worthAsking.filter((c) => verdictUnder(rules, c.marks, 'reel') !== 'differs');
  const plausible = ofReel.length > 0 ? ofReel : worthAsking;
  const leaders = plausible.filter((c) => !plausible.some((other) => other !== c && beats(other, c, rules)));
  if (leaders.length === 1) {
    const leader = leaders[0]!;
    const second = plausible.find((c) => c !== leader);
    const likely = isLikely(leader.marks, rules);
    return ask(
      'not-enough-known',
      likely ? 'likely' : 'possible',
      leaders,
      second ? margin(leader, second, rules) : null,
    );
  }
  if (leaders.length > 1) return ask('several', 'possible', leaders, null);
  const refused = candidates.find((c) => isRefused(c.marks, rules) && isNamesake(c.marks, rules));
  return refused
    ? { kind: 'refused', mediaFileId: refused.file.id, differs: refusedFor(refused.marks, rules) }
    : { kind: 'nothing' };
}

const ask = (
  reason: AskReason,
  certainty: 'likely' | 'possible',
  candidates: readonly Candidate<FileInHand>[],
  second: Margin | null,
): Decision => ({ kind: 'ask', certainty, reason, mediaFileIds: candidates.map((c) => c.file.id), second });

/** Several certain files that are one recording in several forms: the recording is certain. */
const oneRecording = (certain: readonly Candidate<FileInHand>[]): Candidate<FileInHand> | undefined =>
  certain.length > 1 && certain.every((c) => c.form) ? certain[0] : undefined;

/** The form that the project works with, where the recording is here in it; else as it was identified. */
function inForm(
  identified: Candidate<FileInHand>,
  usable: readonly Candidate<FileInHand>[],
  preferred: Form,
): Candidate<FileInHand> {
  if (!identified.form || identified.form === preferred) return identified;
  const inPreferred = usable.filter((c) => c.form === preferred);
  return inPreferred.length > 0 ? nearest(inPreferred) : identified;
}

/** Of files with the same bytes any is right; the one whose folders agree most is where a person would look. */
const nearest = (candidates: readonly Candidate<FileInHand>[]) =>
  candidates.reduce((best, c) => (c.levels > best.levels ? c : best));

const margin = (first: Candidate<FileInHand>, second: Candidate<FileInHand>, rules: MatchRules): Margin => ({
  mediaFileId: second.file.id,
  behindIn: attributes.filter((a) => difference(first, second, a, rules) > 0),
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
const isNamesake = (marks: Marks, rules: MatchRules): boolean =>
  verdictIn(marks, 'name') === 'agrees' || verdictUnder(rules, marks, 'name') === 'agrees';

/** Worth a person's look: not refused, or refused although its name agrees, which asks for an explanation. */
export const isWorthShowing = (marks: Marks, rules: MatchRules): boolean =>
  !isRefused(marks, rules) || isNamesake(marks, rules);

const differsIn = (marks: Marks, rules: MatchRules, attribute: Attribute): boolean =>
  rules.weights[attribute] === 'must' &&
  // A name that must agree is refused for anything less: that is what "must" says of names.
  (attribute === 'name'
    ? verdictUnder(rules, marks, 'name') !== 'agrees' && verdictIn(marks, 'name') !== 'unknown'
    : verdictIn(marks, attribute) === 'differs');
const isRefused = (marks: Marks, rules: MatchRules): boolean => attributes.some((a) => differsIn(marks, rules, a));

/** The attributes that must agree and differ. */
export const refusedFor = (marks: Marks, rules: MatchRules): Attribute[] =>
  attributes.filter((a) => differsIn(marks, rules, a));

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
export function groundsOf(marks: Marks, rules: MatchRules): Grounds | null {
  const says = (attribute: Attribute): Verdict => verdictUnder(rules, marks, attribute);
  if (speakingAgainst.some((a) => says(a) === 'differs')) return null;
  if (says('content') === 'agrees') return 'content';
  if (renditionMarks.some((a) => says(a) === 'nearly' || says(a) === 'differs')) return null;
  const [name, reel] = [says('name'), says('reel')];
  if (says('timecode') !== 'agrees') return null;
  const length = says('length');
  if (length === 'agrees') {
    if (name === 'agrees') return 'name-timecode-length';
    return reel === 'agrees' ? 'reel-timecode-length' : null;
  }
  // A list states no length of the media, so all three that it does state are asked for.
  return name === 'agrees' && (reel === 'agrees' || reel === 'nearly') && length === 'unknown'
    ? 'name-reel-timecode'
    : null;
}

/** Worth asking about: the name or the reel with its timecode speaks for it. */
function isPlausible(marks: Marks, rules: MatchRules): boolean {
  const says = (attribute: Attribute) => verdictUnder(rules, marks, attribute);
  if (says('content') === 'agrees') return true;
  const [name, reel, timecode] = [says('name'), says('reel'), says('timecode')];
  if (name === 'agrees') return reel !== 'differs' || timecode !== 'differs';
  if (name === 'nearly') return reel !== 'differs';
  return (
    (reel === 'agrees' && (timecode === 'agrees' || timecode === 'nearly')) ||
    (timecode === 'agrees' && says('length') === 'agrees' && reel !== 'differs')
  );
}

/** Nothing that counts differs, and at least one thing beside the name, or reel and timecode, speaks for it. */
function isLikely(marks: Marks, rules: MatchRules): boolean {
  const says = (attribute: Attribute) => verdictUnder(rules, marks, attribute);
  if (attributes.some((a) => a !== 'name' && a !== 'folder' && a !== 'date' && says(a) === 'differs')) return false;
  const [name, reel, timecode, length] = [says('name'), says('reel'), says('timecode'), says('length')];
  if (says('content') === 'agrees') return true;
  if (name === 'agrees' || name === 'nearly')
    return (
      timecode === 'agrees' ||
      length === 'agrees' ||
      (name === 'agrees' && (timecode === 'nearly' || reel === 'agrees' || says('kind') === 'agrees'))
    );
  return reel === 'agrees' && timecode === 'agrees';
}

const rank: Readonly<Record<Verdict, number>> = { agrees: 3, nearly: 2, unknown: 1, differs: 0 };
/** The one of two files that was written on another day is no worse: copies lose their dates. */
const compared: readonly Attribute[] = attributes.filter((a) => a !== 'date');

function difference(
  a: Candidate<FileInHand>,
  b: Candidate<FileInHand>,
  attribute: Attribute,
  rules: MatchRules,
): number {
  if (rules.weights[attribute] === 'ignored') return 0;
  return attribute === 'folder'
    ? a.levels - b.levels
    : rank[verdictUnder(rules, a.marks, attribute)] - rank[verdictUnder(rules, b.marks, attribute)];
}

/** Whether `a` is better than `b` in something that counts and worse in nothing. */
function beats(a: Candidate<FileInHand>, b: Candidate<FileInHand>, rules: MatchRules): boolean {
  let better = false;
  for (const attribute of compared) {
    const by = difference(a, b, attribute, rules);
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
  return decided.map((entry) =>
    losers.has(entry.clip.id) && entry.decision.kind === 'certain'
      ? { ...entry, decision: ask('contested', 'possible', [chosenOf(entry, entry.decision.mediaFileId)], null) }
      : entry,
  );
}

const chosenOf = <F extends FileInHand>({ candidates }: { candidates: readonly Candidate<F>[] }, id: MediaFileId) =>
  candidates.find((c) => c.file.id === id)!;

/** Two clips may be one recording seen from two machines; different reels, or equal names in different folders, are not. */
function sameRecording(a: ClipInHand, b: ClipInHand): boolean {
  if (a.reelKey && b.reelKey) return a.reelKey === b.reelKey;
  return a.parentKey === null || b.parentKey === null || a.parentKey === b.parentKey;
}

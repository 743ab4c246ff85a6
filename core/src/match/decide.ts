import type { ClipId, MediaFileId } from '../model/ids.ts';
import { nameKey } from '../paths/names.ts';
import type { Verdict } from './evidence/evidence.ts';
import type { PreparedClip } from './prepare.ts';
import { attributes, type Attribute, type MatchRules } from './rules.ts';
import { closeness, folderLevels, verdictOf, type Candidate } from './weigh.ts';

/** What identifies a recording when nothing speaks against it. */
export type Grounds = 'name-timecode-length' | 'reel-timecode-length' | 'name-reel-timecode';

export type Decision =
  | { readonly kind: 'certain'; readonly mediaFileId: MediaFileId; readonly grounds: Grounds }
  | { readonly kind: 'ask'; readonly reason: AskReason; readonly mediaFileIds: readonly MediaFileId[] }
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

export type Weighed = { readonly clip: PreparedClip; readonly candidates: readonly Candidate[] };
export type Decided = Weighed & { readonly decision: Decision };

/** A tie that already stands, so that another recording is not given the same file. */
export type Claim = { readonly clip: PreparedClip; readonly mediaFileId: MediaFileId };

/**
 * Decides for all clips together. Certain only where something identifies the file, no counted attribute differs and
 * no second candidate is as good; then no file goes to two different recordings. Candidates come back closest first.
 */
export function decide(weighed: readonly Weighed[], rules: MatchRules, claims: readonly Claim[] = []): Decided[] {
  const alone = weighed.map(({ clip, candidates }) => {
    const sorted = sortByCloseness(candidates);
    return { clip, candidates: sorted, decision: decideAlone(sorted, rules) };
  });
  return settleClaims(alone, claims);
}

function sortByCloseness(candidates: readonly Candidate[]): Candidate[] {
  return candidates
    .map((candidate) => ({ candidate, value: closeness(candidate.evidence) }))
    .sort((a, b) => b.value - a.value || (a.candidate.file.nameKey < b.candidate.file.nameKey ? -1 : 1))
    .map((entry) => entry.candidate);
}

function decideAlone(candidates: readonly Candidate[], rules: MatchRules): Decision {
  if (candidates.length === 0) return { kind: 'nothing' };
  const usable = candidates.filter((c) => !c.file.file.unreadable && refusedFor(c, rules).length === 0);
  const certain = usable.filter((c) => groundsOf(c, rules) !== null);
  const unread = usable.filter((c) => !c.file.file.facts && verdictOf(c.evidence, 'name') === 'agrees');
  const best = certain.find((c) => certain.every((other) => other === c || beats(c, other, rules)));
  if (unread.length > 0) return ask('still-reading', [...certain, ...unread]);
  if (best) return { kind: 'certain', mediaFileId: best.file.file.id, grounds: groundsOf(best, rules)! };
  if (certain.length > 1) return ask('several', certain);
  const plausible = usable.filter((c) => isPlausible(c, rules));
  const leaders = plausible.filter((c) => !plausible.some((other) => other !== c && beats(other, c, rules)));
  if (leaders.length > 0) return ask(leaders.length > 1 ? 'several' : 'not-enough-known', leaders);
  const refused = candidates.find((c) => refusedFor(c, rules).length > 0 && verdictOf(c.evidence, 'name') === 'agrees');
  return refused
    ? { kind: 'refused', mediaFileId: refused.file.file.id, differs: refusedFor(refused, rules) }
    : { kind: 'nothing' };
}

const ask = (reason: AskReason, candidates: readonly Candidate[]): Decision => ({
  kind: 'ask',
  reason,
  mediaFileIds: candidates.map((c) => c.file.file.id),
});

/** Worth a person's look: not refused, or refused although its name agrees, which asks for an explanation. */
export const isWorthShowing = (candidate: Candidate, rules: MatchRules): boolean =>
  refusedFor(candidate, rules).length === 0 || verdictOf(candidate.evidence, 'name') === 'agrees';

/** The attributes that must agree and differ. */
export function refusedFor({ evidence }: Pick<Candidate, 'evidence'>, rules: MatchRules): Attribute[] {
  return evidence.filter((e) => rules[e.attribute] === 'must' && e.verdict === 'differs').map((e) => e.attribute);
}

/** What identifies the recording, or null when nothing does or something that counts speaks against it. */
export function groundsOf({ evidence }: Pick<Candidate, 'evidence'>, rules: MatchRules): Grounds | null {
  const says = (attribute: Attribute): Verdict =>
    rules[attribute] === 'ignored' ? 'unknown' : verdictOf(evidence, attribute);
  const agrees = (...list: Attribute[]) => list.every((a) => says(a) === 'agrees');
  // A name or a folder may differ where reel, timecode and length identify. Another rate or raster, be it nearly the
  // same, is another rendition of the recording: choosing among those is not for a rule to do silently.
  if (says('reel') === 'differs' || says('timecode') === 'differs' || says('length') === 'differs') return null;
  if (
    says('rate') === 'nearly' ||
    says('rate') === 'differs' ||
    says('raster') === 'nearly' ||
    says('raster') === 'differs'
  )
    return null;
  if (rules.name === 'must' && says('name') !== 'agrees') return null;
  if (agrees('name', 'timecode', 'length')) return 'name-timecode-length';
  if (agrees('reel', 'timecode', 'length')) return 'reel-timecode-length';
  // A list states no length of the media, so all three that it does state are asked for.
  if (
    agrees('name', 'timecode') &&
    (says('reel') === 'agrees' || says('reel') === 'nearly') &&
    says('length') === 'unknown'
  ) {
    return 'name-reel-timecode';
  }
  return null;
}

/** Worth asking about: the name or the reel with its timecode speaks for it. */
function isPlausible({ evidence }: Candidate, rules: MatchRules): boolean {
  const says = (attribute: Attribute) => (rules[attribute] === 'ignored' ? 'unknown' : verdictOf(evidence, attribute));
  if (says('name') === 'agrees' || says('name') === 'nearly')
    return says('reel') !== 'differs' || says('timecode') !== 'differs';
  const reel = says('reel');
  const timecode = says('timecode');
  return (
    (reel === 'agrees' && (timecode === 'agrees' || timecode === 'nearly')) ||
    (timecode === 'agrees' && says('length') === 'agrees' && reel !== 'differs')
  );
}

const rank: Readonly<Record<Verdict, number>> = { agrees: 3, nearly: 2, unknown: 1, differs: 0 };

/** Whether `a` is better than `b` in something that counts and worse in nothing. */
function beats(a: Candidate, b: Candidate, rules: MatchRules): boolean {
  let better = false;
  for (const attribute of attributes) {
    if (rules[attribute] === 'ignored') continue;
    const difference =
      attribute === 'folder'
        ? folderLevels(a.evidence) - folderLevels(b.evidence)
        : rank[verdictOf(a.evidence, attribute)] - rank[verdictOf(b.evidence, attribute)];
    if (difference < 0) return false;
    if (difference > 0) better = true;
  }
  return better;
}

/** One file, one recording: where different recordings claim a file, the one whose folders agree more keeps it. */
function settleClaims(decided: readonly Decided[], claims: readonly Claim[]): Decided[] {
  const byFile = new Map<MediaFileId, { clip: PreparedClip; levels: number; standing: boolean }[]>();
  const note = (id: MediaFileId, entry: { clip: PreparedClip; levels: number; standing: boolean }) => {
    const list = byFile.get(id);
    if (list) list.push(entry);
    else byFile.set(id, [entry]);
  };
  for (const { clip, mediaFileId } of claims) note(mediaFileId, { clip, levels: Infinity, standing: true });
  for (const { clip, candidates, decision } of decided) {
    if (decision.kind !== 'certain') continue;
    const chosen = candidates.find((c) => c.file.file.id === decision.mediaFileId)!;
    note(decision.mediaFileId, { clip, levels: folderLevels(chosen.evidence), standing: false });
  }
  const losers = new Set<ClipId>();
  for (const claimants of byFile.values()) {
    if (claimants.length < 2) continue;
    claimants.sort((a, b) => b.levels - a.levels);
    const first = claimants[0]!;
    const others = claimants.filter((c) => !sameRecording(first.clip, c.clip));
    for (const other of others) losers.add(other.clip.clip.id);
    if (!first.standing && others.some((o) => o.levels === first.levels))
      for (const c of claimants) losers.add(c.clip.clip.id);
  }
  return decided.map((entry) =>
    losers.has(entry.clip.clip.id) && entry.decision.kind === 'certain'
      ? { ...entry, decision: { kind: 'ask', reason: 'contested', mediaFileIds: [entry.decision.mediaFileId] } }
      : entry,
  );
}

/** Two clips may be one recording seen from two machines; different reels, or equal names in different folders, are not. */
function sameRecording(a: PreparedClip, b: PreparedClip): boolean {
  if (a.reelKey && b.reelKey) return a.reelKey === b.reelKey;
  const [parentA, parentB] = [a.folders.at(-1), b.folders.at(-1)];
  return !parentA || !parentB || nameKey(parentA) === nameKey(parentB);
}

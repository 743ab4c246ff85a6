import type { Clip } from '../model/edit.ts';
import { compareReels, nameKey, reelForms } from '../paths/names.ts';
import { isBareName, rememberedName, spellingKey } from '../paths/remembered.ts';
import { IntervalIndex, toMilliseconds } from '../time/intervals.ts';
import { intersectRanges, rangeLength, type FrameRange } from '../time/range.ts';
import { nominalRate, sameRate } from '../time/rate.ts';

/**
 * Which clip of a newer version of a document is which of the older one, old keys by new ones. What was decided of a
 * clip goes over with it, so two are one only where nothing that they say speaks against it (see `fits`): by everything
 * that both say; then, of those that say the same but for what is used, by the stretches that they share; then by the
 * remembered path, by reel and name, and by name, these only where no other clip of either version could be meant. Of the
 * same bytes, read by other decisions, a clip is what stands at its addresses.
 */
export function sameClips(
  older: readonly Clip[],
  newer: readonly Clip[],
  { areSameBytes = false } = {},
): Map<string, string> {
  const same = new Map<string, string>();
  const taken = new Set<string>();
  const take = (old: Clip, clip: Clip) => {
    same.set(clip.key, old.key);
    taken.add(old.key);
  };
  const groups = function* (identityOf: (clip: Clip) => string | null): Generator<[Clip[], Clip[]]> {
    const olds = group(older, identityOf);
    for (const [identity, news] of group(newer, identityOf)) yield [olds.get(identity) ?? [], news];
  };
  const isOpen = (clip: Clip) => !same.has(clip.key);
  const isFree = (clip: Clip) => !taken.has(clip.key);

  if (areSameBytes)
    for (const [[old], [clip]] of groups((c) => c.addresses.join('\u0000')))
      if (old && clip && remembersSameFile(old, clip)) take(old, clip);

  const said = (c: Clip) => [c.remembered ?? '', c.reel ?? '', c.name, c.rate.num, c.rate.den].join('\u0000');
  const rangeText = (r: FrameRange | null) => (r ? `${r.start}–${r.end}` : '');
  const all = (c: Clip) => [said(c), rangeText(c.available), ...c.used.map(rangeText)].join('\u0000');
  for (const [olds, news] of groups(all)) {
    const free = olds.filter(isFree);
    news.filter(isOpen).forEach((clip, i) => free[i] && take(free[i], clip));
  }
  for (const [olds, news] of groups(said)) {
    for (const [old, clip] of sharingMost(olds.filter(isFree), news.filter(isOpen)))
      if (isFree(old) && isOpen(clip) && fits(old, clip)) take(old, clip);
  }
  const alone = (identityOf: (clip: Clip) => string | null) => {
    for (const [[old, ...others], [clip, ...rivals]] of groups(identityOf)) {
      if (!old || !clip || others.length > 0 || rivals.length > 0) continue;
      if (isFree(old) && isOpen(clip) && fits(old, clip)) take(old, clip);
    }
  };
  const hasName = (c: Clip) => !isNameless(c);
  alone((c) => (c.available ? `${said(c)}\u0000${rangeText(c.available)}` : null));
  alone((c) => (hasName(c) ? said(c) : null));
  alone((c) => (c.remembered === null ? null : spellingKey(c.remembered)));
  const name = (c: Clip) => (c.kind === 'sound' ? 'sound' : '') + '\u0000' + nameKey(c.name);
  alone((c) => (c.reel !== null && hasName(c) ? `${nameKey(c.reel)}\u0000${name(c)}` : null));
  alone((c) => (hasName(c) ? name(c) : null));
  return same;
}

function group(clips: readonly Clip[], identityOf: (clip: Clip) => string | null): Map<string, Clip[]> {
  const groups = new Map<string, Clip[]>();
  for (const clip of clips) {
    const identity = identityOf(clip);
    if (identity === null) continue;
    const known = groups.get(identity);
    if (known) known.push(clip);
    else groups.set(identity, [clip]);
  }
  return groups;
}

/** Pairs that use some of the same, most first. */
function sharingMost(olds: readonly Clip[], news: readonly Clip[]): [Clip, Clip][] {
  const used = new IntervalIndex(
    olds.flatMap((old) => old.used.map((r) => ({ from: r.start, to: r.end - 1, item: old }))),
  );
  const pairs: { readonly pair: [Clip, Clip]; readonly shared: number }[] = [];
  for (const clip of news) {
    const met = new Set<Clip>();
    for (const { start, end } of clip.used) used.meeting(start, end - 1, (old) => void met.add(old));
    for (const old of met) pairs.push({ pair: [old, clip], shared: sharedFrames(old.used, clip.used) });
  }
  return pairs.sort((a, b) => b.shared - a.shared).map(({ pair }) => pair);
}

const sharedFrames = (a: readonly FrameRange[], b: readonly FrameRange[]): number =>
  a.reduce((sum, r) => b.reduce((more, s) => more + lengthOf(intersectRanges(r, s)), sum), 0);
const lengthOf = (range: FrameRange | null): number => (range ? rangeLength(range) : 0);

/** It says a roll and no name of its own. A roll holds many recordings: only its stretch tells which. */
const isNameless = ({ name, reel, remembered }: Clip): boolean =>
  remembered === null && (reel === null ? /^(AX|AUX)$/i.test(name) : name === reel);

/**
 * Whether nothing that two clips of two versions say keeps them from being one recording. A path alone does not say that
 * they are: cards that have no name of their own all lie at one.
 */
function fits(old: Clip, clip: Clip): boolean {
  if (!remembersSameFile(old, clip)) return false;
  const areAtOnePath =
    isAtPath(old) && isAtPath(clip) && spellingKey(old.remembered!) === spellingKey(clip.remembered!);
  const isSameExtent =
    old.available !== null &&
    clip.available !== null &&
    sameRate(old.rate, clip.rate) &&
    sameRange(old.available, clip.available);
  if (areAtOnePath && isSameExtent) return true;
  const isReelHalf = (old.reel === null) !== (clip.reel === null);
  const isReelSame = old.reel !== null && clip.reel !== null;
  if (isReelSame && compareReels(reelForms(old.reel), reelForms(clip.reel)) === 'other') return false;
  if (isSameExtent) return true;
  const isRangeHalf = (old.available === null) !== (clip.available === null);
  if (!old.available || !clip.available) return areAtOnePath || (!isReelHalf && (!isRangeHalf || isReelSame));
  // Another part of it, where roll or path say so, and no start that many have.
  return (isReelSame || areAtOnePath) && !isNearCommonStart(old) && !isNearCommonStart(clip) && meet(old, clip);
}

const isAtPath = ({ remembered }: Clip): boolean => remembered !== null && !isBareName(remembered);

/** Recordings that begin at zero or at a whole hour all have these addresses. */
const nearInSeconds = 600;
const isNearCommonStart = ({ available, rate }: Clip): boolean =>
  available !== null && available.start % (nominalRate(rate) * 3600) < nominalRate(rate) * nearInSeconds;

const sameRange = (a: FrameRange, b: FrameRange): boolean => a.start === b.start && a.end === b.end;

/** By what their frames are numbered, whatever rates they are counted at. */
function meet(old: Clip, clip: Clip): boolean {
  const [a, b] = [old, clip].map(({ available, rate }) => ({
    from: toMilliseconds(available!.start, rate),
    to: toMilliseconds(available!.end, rate),
  }));
  return a!.from < b!.to && b!.from < a!.to;
}

function remembersSameFile(a: Clip, b: Clip): boolean {
  if (a.remembered === null || b.remembered === null || a.remembered === b.remembered) return true;
  return nameKey(rememberedName(a.remembered)) === nameKey(rememberedName(b.remembered));
}

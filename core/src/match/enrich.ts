import { compareReels, nameKey, reelForms, reelKey, splitExtension, type ReelForms } from '../paths/names.ts';
import { nearestDay, rangeContains, type FrameRange } from '../time/range.ts';
import { nominalRate } from '../time/rate.ts';
import { framesPerDay } from '../time/timecode.ts';
import { IntervalIndex, toMilliseconds } from '../time/intervals.ts';
import type { MatchClip } from './prepare.ts';

type Logged = { readonly clip: MatchClip; readonly available: FrameRange; readonly reel: ReelForms };

/**
 * What a list does not say of a recording, a log of the same project often does: where it begins and ends, and what it is
 * called. A clip that knows a reel and what is used, and nothing of the media's extent, takes it from the one row of that
 * reel whose stretch holds all of it. Two rows that differ say nothing. Clips that gain nothing come back as they are.
 */
export function enrichFromLogs<C extends MatchClip>(clips: readonly C[]): C[] {
  if (!clips.some(isPoor)) return [...clips];
  const byReel = new Map<string, Logged[]>();
  for (const clip of clips) {
    if (!clip.reel || !clip.available) continue;
    const reel = reelForms(clip.reel);
    for (const key of [reel.full, ...reel.cut]) {
      const list = byReel.get(key);
      const logged = { clip, available: clip.available, reel };
      if (list) list.push(logged);
      else byReel.set(key, [logged]);
    }
  }
  if (byReel.size === 0) return [...clips];
  const indexes = new Map<string, IntervalIndex<Logged>>();
  const indexOf = (key: string): IntervalIndex<Logged> => {
    const known = indexes.get(key);
    if (known) return known;
    const made = new IntervalIndex(
      (byReel.get(key) ?? []).map((item) => ({
        from: toMilliseconds(item.available.start, item.clip.rate),
        to: toMilliseconds(item.available.end, item.clip.rate),
        item,
      })),
    );
    indexes.set(key, made);
    return made;
  };
  return clips.map((clip) => {
    if (!isPoor(clip)) return clip;
    const own = reelForms(clip.reel!);
    const used = { start: Math.min(...clip.used.map((r) => r.start)), end: Math.max(...clip.used.map((r) => r.end)) };
    const found: Logged[] = [];
    for (const key of [own.full, ...own.cut])
      indexOf(key).meeting(toMilliseconds(used.start, clip.rate), toMilliseconds(used.end, clip.rate), (logged) => {
        if (isTheOne(logged, clip, own, used)) found.push(logged);
      });
    const [first] = found;
    const isOne = found.every(
      ({ available: { start, end }, clip: other }) =>
        start === first!.available.start && end === first!.available.end && areNamedAlike(other, first!.clip),
    );
    if (!first || !isOne) return clip;
    return {
      ...clip,
      available: first.available,
      enriched: isNamed(clip, own) ? 'extent' : 'extent-and-name',
      name: isNamed(clip, own) ? clip.name : first.clip.name,
      kind: clip.kind ?? first.clip.kind,
      metadata: { ...first.clip.metadata, ...clip.metadata },
    };
  });
}

/** A clip that knows a reel and what is used of it, and nothing of the media's extent. */
export const isPoor = ({ reel, available, used, remembered }: MatchClip): boolean =>
  reel !== null && available === null && used.length > 0 && remembered === null;

/** A bare reel for a name says no more than the reel does. */
const isNamed = ({ name }: MatchClip, own: ReelForms): boolean => reelKey(name) !== own.full;

/** By their stems; and by their extensions, where both state one. */
function areNamedAlike(a: MatchClip, b: MatchClip): boolean {
  const [one, other] = [splitExtension(nameKey(a.name)), splitExtension(nameKey(b.name))];
  const { extension } = one;
  return one.stem === other.stem && (extension === '' || other.extension === '' || extension === other.extension);
}

function isTheOne(
  { clip: other, available, reel }: Logged,
  clip: MatchClip,
  own: ReelForms,
  used: FrameRange,
): boolean {
  if (nominalRate(other.rate) !== nominalRate(clip.rate) || compareReels(reel, own) === 'other') return false;
  // Reels repeat between units: a row of another name is another unit's.
  if (isNamed(clip, own) && !areNamedAlike(clip, other)) return false;
  return rangeContains(available, nearestDay(used, available, framesPerDay(clip.rate, clip.counting)));
}

import type { RateProposal } from '../remarks/remark.ts';
import { nominalRate, rate, sameRate, type Rate } from '../time/rate.ts';

/** What a document without a rate shows of it. */
export type RateSigns = {
  /** It says drop-frame somewhere, by FCM or by a semicolon. */
  readonly statesDrop: boolean;
  /** The largest frame number in any timecode, with its line; -1 where there is none. */
  readonly largest: { readonly frame: number; readonly line: number };
  /** Of how many lengths told twice both agree when counted at a nominal rate. */
  readonly lengthsAt: (nominal: number) => { readonly agree: number; readonly of: number };
  readonly otherRates: readonly Rate[];
};

const common: readonly Rate[] = [
  rate(24),
  rate(25),
  rate(30000, 1001),
  rate(30),
  rate(24000, 1001),
  rate(50),
  rate(60000, 1001),
  rate(60),
];

/**
 * Which rates a document may be counting at, likeliest first, each with its reason. Drop-frame exists at 29.97 and
 * 59.94 only; a frame number shows the least nominal rate; what is told twice is equally long only when counted at the
 * right one; and a project's timelines mostly share theirs.
 */
export function proposeRates({ statesDrop, largest, lengthsAt, otherRates }: RateSigns): RateProposal[] {
  if (statesDrop) {
    return [
      { rate: rate(30000, 1001), reason: { code: 'drop-frame-stated' } },
      { rate: rate(60000, 1001), reason: { code: 'drop-frame-stated' } },
    ];
  }
  const possible = common.filter((r) => nominalRate(r) > largest.frame);
  const votes = new Map([...new Set(possible.map(nominalRate))].map((nominal) => [nominal, lengthsAt(nominal)]));
  const counts = [...votes.values()].map((v) => v.agree);
  const most = Math.max(...counts);
  const tells = most > Math.min(...counts);
  const least = Math.min(...possible.map(nominalRate));
  const isOther = (r: Rate) => otherRates.some((other) => sameRate(other, r));
  const reasonFor = (r: Rate): RateProposal['reason'] => {
    const vote = votes.get(nominalRate(r))!;
    if (tells && vote.agree === most) return { code: 'lengths-agree', ...vote };
    if (isOther(r)) return { code: 'other-timelines' };
    return nominalRate(r) === least && largest.frame >= 0 ? { code: 'largest-frame', ...largest } : { code: 'common' };
  };
  const rank = (r: Rate): number =>
    (tells ? (most - votes.get(nominalRate(r))!.agree) * 100 : 0) +
    (isOther(r) ? 0 : 10) +
    (nominalRate(r) === least ? 0 : 1);
  return possible.toSorted((a, b) => rank(a) - rank(b)).map((r) => ({ rate: r, reason: reasonFor(r) }));
}

import { findCauses } from '../../match/causes.ts';
import { type Cause, type DarkClip } from '../../match/cause.ts';
import { match, type MatchResult } from '../../match/match.ts';
import type { ClipId, MediaFileId } from '../../model/ids.ts';
import type { Fate } from './fates.ts';
import type { Manner, Truth } from './production.ts';

/** Counts of clips, for one fate or for all. */
export type Tally = {
  clips: number;
  linkable: number;
  byRule: number;
  byCause: number;
  asked: number;
  wrongByRule: number;
  wrongByCause: number;
};

export type WrongLink = {
  readonly clipId: ClipId;
  readonly mediaFileId: MediaFileId;
  readonly by: 'rule' | 'cause';
  readonly fate: Fate;
  readonly manner: Manner;
  readonly device: string;
};

export type Outcome = {
  readonly all: Tally;
  readonly byFate: ReadonlyMap<Fate, Tally>;
  readonly wrong: readonly WrongLink[];
  /** Linkable clips that neither rule nor cause links. */
  readonly missed: readonly Omit<WrongLink, 'mediaFileId' | 'by'>[];
  readonly decisions: number;
  /** Injected causes, and questions that nothing in the edit answers. */
  readonly injected: number;
  readonly ambiguities: number;
  readonly results: readonly MatchResult[];
  readonly causes: readonly Cause[];
};

export const allDark = (results: readonly MatchResult[]): DarkClip[] =>
  results.map((decided) => ({
    decided,
    why: decided.why,
    status: decided.whereRemembered ? 'changed' : 'missing',
    tiedTo: decided.whereRemembered,
    screenSeconds: 1,
  }));

const nothing = (): Tally => ({
  clips: 0,
  linkable: 0,
  byRule: 0,
  byCause: 0,
  asked: 0,
  wrongByRule: 0,
  wrongByCause: 0,
});

/** What linking by rule, and then accepting every cause, comes to, held against what is known to be right. */
export function outcomeOf({ input, right, batches }: Truth): Outcome {
  const results = match(input);
  const causes = findCauses(allDark(results), input.rules);
  const byRule = new Map(
    results.flatMap(({ clip, decision }) =>
      decision.kind === 'certain' ? [[clip.id, decision.mediaFileId] as const] : [],
    ),
  );
  const byCause = new Map(causes.flatMap((c) => c.links.map((l) => [l.clipId, l.mediaFileId] as const)));
  const all = nothing();
  const byFate = new Map<Fate, Tally>();
  const wrong: WrongLink[] = [];
  const missed: Omit<WrongLink, 'mediaFileId' | 'by'>[] = [];
  let ambiguities = 0;
  const injected = new Set<string>();
  batches.forEach(({ fate, manner, device, expected, clipIds }, i) => {
    const tally = byFate.get(fate) ?? nothing();
    byFate.set(fate, tally);
    // What is gone is one thing to say, and so is what other recordings lie under the names of.
    injected.add(expected === 'none' && fate !== 'away' ? 'none' : `${i}`);
    if (expected === 'ask') ambiguities += clipIds.length;
    for (const clipId of clipIds) {
      const [rule, cause] = [byRule.get(clipId), byCause.get(clipId)];
      const isWrong = (id: MediaFileId | undefined) => id !== undefined && !right.get(clipId)!.has(id);
      const counts: Partial<Tally> = {
        clips: 1,
        linkable: expected === 'link' ? 1 : 0,
        byRule: rule ? 1 : 0,
        byCause: !rule && cause ? 1 : 0,
        asked: (rule ?? cause) ? 0 : 1,
        wrongByRule: isWrong(rule) ? 1 : 0,
        wrongByCause: !rule && isWrong(cause) ? 1 : 0,
      };
      for (const [key, n] of Object.entries(counts) as [keyof Tally, number][]) {
        tally[key] += n;
        all[key] += n;
      }
      const link = isWrong(rule) ? rule : isWrong(cause) ? cause : undefined;
      if (link) wrong.push({ clipId, mediaFileId: link, by: isWrong(rule) ? 'rule' : 'cause', fate, manner, device });
      if (expected === 'link' && !(rule ?? cause)) missed.push({ clipId, fate, manner, device });
    }
  });
  return {
    all,
    byFate,
    wrong,
    missed,
    decisions: causes.length,
    injected: injected.size,
    ambiguities,
    results,
    causes,
  };
}

import { rangesOutside, uniteRanges, type FrameRange } from '../time/range.ts';
import { byReel, pullSources, type Handles, type Pulled, type PullRow, type Source } from './pull.ts';

/** What somebody says of a source that is to be fetched. */
export const pullMarks = ['asked', 'arrived', 'not-to-be-had'] as const;
export type PullMark = (typeof pullMarks)[number];

/** What was asked for and of whom, as it was then: the cut goes on. Ranges in source frames at `rate`, with handles. */
export type PullRequest = Source & {
  readonly names: readonly string[];
  readonly ranges: readonly FrameRange[];
  readonly mark: PullMark;
  readonly holder: string;
  readonly note: string;
  /** The vault looked, and has no file of that name. */
  readonly isUnknownToVault: boolean;
  /** ISO 8601, UTC. */
  readonly at: string;
};

/**
 * How a source stands. `arrived`: by what somebody says, or because every clip of it has its media again; `no-longer-wanted`:
 * it was asked for, and no event uses it any more, or needs it.
 */
export const deskStates = ['wanted', 'asked', 'arrived', 'not-to-be-had', 'no-longer-wanted'] as const;
export type DeskState = (typeof deskStates)[number];

export type DeskRow<C> = Source & {
  readonly key: string;
  readonly state: DeskState;
  readonly names: readonly string[];
  /** What is wanted now; once it is not wanted or not dark any more, what was asked for. */
  readonly ranges: readonly FrameRange[];
  /** What is wanted now and was not asked for. */
  readonly beyond: readonly FrameRange[];
  readonly request: PullRequest | null;
  readonly clips: readonly C[];
};

/** Whether a clip wants its media, has it, or was said to need none. */
export type Stands = 'dark' | 'linked' | 'waived';

/**
 * The pull list with what was asked for: a row a source that is dark, or was asked for. Of clips that are linked again
 * nothing is to be fetched; a source of which some are dark is wanted for these alone. Nobody wants what is for waived
 * clips only.
 */
export function pullDesk<C extends Pulled & { readonly stands: Stands }>(
  clips: readonly C[],
  requests: ReadonlyMap<string, PullRequest>,
  handles: Handles,
): DeskRow<C>[] {
  const sourcesOf = (stands: Stands) =>
    pullSources(
      clips.filter((clip) => clip.stands === stands && clip.used.length > 0),
      handles,
    );
  const dark = sourcesOf('dark');
  const isDark = new Set(dark.map((source) => source.key));
  const light = new Map(sourcesOf('linked').map((source) => [source.key, source]));
  const wanted = dark.map(({ key, ranges, rows, clips: list, ...source }): DeskRow<C> => {
    const { reel, folder, file, rate, counting } = source;
    const request = requests.get(key) ?? null;
    const names = [...new Set(rows.flatMap((row) => row.names))];
    const beyond = request?.mark === 'asked' ? rangesOutside(ranges, request.ranges) : [];
    const said = { key, reel, folder, file, names, rate, counting, ranges, beyond, request, clips: list };
    return { ...said, state: request?.mark ?? 'wanted' };
  });
  const settled = [...requests].flatMap(([key, request]): DeskRow<C>[] => {
    if (isDark.has(key)) return [];
    const { reel, folder, file, names, rate, counting, ranges } = request;
    const said = { key, reel, folder, file, names, rate, counting, ranges, beyond: [], request };
    const source = light.get(key);
    return [{ ...said, clips: source?.clips ?? [], state: source ? 'arrived' : 'no-longer-wanted' }];
  });
  return [...wanted, ...settled].toSorted(byReel);
}

/** What is asked for when a row is marked: what it wants now, and what was asked for `besides` and stays so. */
export const requestFor = (
  { reel, folder, file, names, rate, counting, ranges }: DeskRow<unknown>,
  said: Pick<PullRequest, 'mark' | 'holder' | 'note' | 'at' | 'isUnknownToVault'>,
  besides: readonly FrameRange[] = [],
): PullRequest => ({
  reel,
  folder,
  file,
  names,
  rate,
  counting,
  ranges: uniteRanges([...ranges, ...besides]),
  ...said,
});

/** The rows of a list for whoever holds the sources: what was asked of them and is still to come. */
export const rowsAskedOf = (rows: readonly DeskRow<unknown>[], holder: string): PullRow[] =>
  rows.flatMap(({ state, request }) =>
    state !== 'asked' || request?.holder !== holder
      ? []
      : request.ranges.map((range): PullRow => {
          const { reel, folder, file, names, rate, counting } = request;
          return { reel, folder, file, remembered: null, names, rate, counting, range };
        }),
  );

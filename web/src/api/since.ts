import type { KnownUpTo } from '@legame/core/contract';
import type { z } from 'zod';
import { isMade } from './legame.ts';

type Told<T> = KnownUpTo & { readonly clips: readonly T[] };
type Asked<T> = { readonly data: readonly T[] };
type State = { readonly api: { readonly queries: Readonly<Record<string, { readonly data?: unknown } | undefined>> } };

/** Up to where each list of clips is known. */
const knownOf = new WeakMap<readonly object[], KnownUpTo>();

/** The query of a list of all clips: once known, only what changed since is asked for. */
export function listSince<T extends object, E>(
  pathOf: (projectId: string) => string,
  schema: z.ZodType<Told<T>>,
  idOf: (clip: T) => string,
) {
  return async (
    projectId: string,
    { getState, queryCacheKey = '' }: { readonly getState: () => unknown; readonly queryCacheKey?: string },
    _: unknown,
    ask: (path: string) => PromiseLike<{ readonly data?: unknown; readonly error?: E }> | { data?: unknown; error?: E },
  ): Promise<Asked<T> | { readonly error: E }> => {
    const before = ((getState() as State).api.queries[queryCacheKey]?.data ?? []) as readonly T[];
    const known = knownOf.get(before);
    const since = known ? `?epoch=${known.epoch}&version=${known.version}&turned=${known.turned}` : '';
    const { data, error } = await ask(`${pathOf(projectId)}${since}`);
    if (error) return { error };
    const told = isMade ? schema.parse(data) : (data as Told<T>);
    return { data: withChanges(before, told.epoch === known?.epoch, told, idOf) };
  };
}

/** What is known now; the very same where nothing is otherwise. */
function withChanges<T extends object>(
  before: readonly T[],
  areOnlyChanges: boolean,
  { clips, ...known }: Told<T>,
  idOf: (clip: T) => string,
): readonly T[] {
  const changed = new Map(clips.map((clip) => [idOf(clip), clip]));
  const isSame = areOnlyChanges && clips.length === 0;
  const now = isSame
    ? before
    : Object.freeze(areOnlyChanges ? before.map((clip) => changed.get(idOf(clip)) ?? clip) : [...clips]);
  knownOf.set(now, known);
  return now;
}

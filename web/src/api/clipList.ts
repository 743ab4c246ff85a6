import type { FetchBaseQueryError } from '@reduxjs/toolkit/query/react';
import { clipBlockSchema, type ClipBlock, type ClipRow } from '@legame/core/contract';
import { api, isMade } from './legame.ts';

/** So many rows come first, so that something is to be seen at once; then blocks of the other size. */
const firstRows = 400;
const blockRows = 4000;

/** What the rows of a list are known by; another epoch, and clips came, went or changed their order. */
type Known = Pick<ClipBlock, 'epoch' | 'version' | 'turned' | 'total'>;
const known = new WeakMap<readonly ClipRow[], Known>();

/** Whether these are all rows of the list, and none of it is still on its way. */
export const isWhole = (rows: readonly ClipRow[]): boolean => rows.length === known.get(rows)?.total;

type Ask = (path: string) => Promise<unknown>;

const blockOf = (answer: unknown): ClipBlock => (isMade ? clipBlockSchema.parse(answer) : (answer as ClipBlock));

/** Frozen once and flat, so that nobody who keeps it walks through all of it. */
function list(rows: ClipRow[], { epoch, version, turned, total }: Known): readonly ClipRow[] {
  const frozen = Object.freeze(rows);
  known.set(frozen, { epoch, version, turned, total });
  return frozen;
}

/** The first rows of a project; the rest comes with `loadRest`. */
export async function loadFirst(projectId: string, ask: Ask): Promise<readonly ClipRow[]> {
  const block = blockOf(await ask(`projects/${projectId}/clips/block?from=0&limit=${firstRows}`));
  return list([...block.rows], block);
}

/** All rows, where some are held; the same where none is missing. Begins anew where the list changed meanwhile. */
export async function loadRest(projectId: string, rows: readonly ClipRow[], ask: Ask): Promise<readonly ClipRow[]> {
  const begun = known.get(rows);
  if (!begun || rows.length >= begun.total) return rows;
  const all = [...rows];
  while (all.length < begun.total) {
    const block = blockOf(await ask(`projects/${projectId}/clips/block?from=${all.length}&limit=${blockRows}`));
    if (block.epoch !== begun.epoch || block.rows.length === 0)
      return loadRest(projectId, await loadFirst(projectId, ask), ask);
    all.push(...block.rows);
  }
  // What changed while blocks were coming in is told by what is asked for since the first.
  return loadChanges(projectId, list(all, begun), ask);
}

/** The list as it is now: only rows that are others than those held are asked for. The same list where none is. */
export async function loadChanges(projectId: string, rows: readonly ClipRow[], ask: Ask): Promise<readonly ClipRow[]> {
  const before = known.get(rows);
  if (!before || !isWhole(rows)) return loadRest(projectId, await loadFirst(projectId, ask), ask);
  const query = `version=${before.version}&turned=${before.turned}`;
  const block = blockOf(await ask(`projects/${projectId}/clips/since?${query}`));
  if (block.epoch !== before.epoch) return loadRest(projectId, await loadFirst(projectId, ask), ask);
  if (block.rows.length === 0) return rows;
  const changed = new Map(block.rows.map((row) => [row.id, row]));
  return list(
    rows.map((row) => changed.get(row.id) ?? row),
    block,
  );
}

type Answer = { readonly data?: unknown; readonly error?: unknown };
/** Asks for a path and gives the answer itself; what went wrong is thrown. */
const answersOf =
  (ask: (path: string) => Answer | PromiseLike<Answer>): Ask =>
  async (path) => {
    const { data, error } = await ask(path);
    // It is an answer of the base query, and goes on as one.
    // eslint-disable-next-line @typescript-eslint/only-throw-error
    if (error) throw error;
    return data;
  };
type Cached = { readonly api: { readonly queries: Readonly<Record<string, { readonly data?: unknown } | undefined>> } };

export const lists = api.injectEndpoints({
  endpoints: (build) => ({
    /** All rows of a project: some at once, the rest right after, and from then on only what changed. */
    clips: build.query<readonly ClipRow[], string>({
      queryFn: async (projectId, { getState, queryCacheKey = '' }, _, ask) => {
        const before = (getState() as Cached).api.queries[queryCacheKey]?.data as readonly ClipRow[] | undefined;
        try {
          const answers = answersOf(ask);
          return { data: await (before ? loadChanges(projectId, before, answers) : loadFirst(projectId, answers)) };
        } catch (error) {
          return { error: error as FetchBaseQueryError };
        }
      },
      // Rows that did not change are the same rows already.
      structuralSharing: false,
      providesTags: ['Project'],
      onCacheEntryAdded: async (projectId, entry) => {
        const loaded = await entry.cacheDataLoaded.catch(() => null);
        if (!loaded) return;
        const request = async (path: string): Promise<Answer> => {
          const answer = await fetch(new Request(`/api/${path}`));
          return answer.ok ? { data: await answer.json() } : { error: { status: answer.status, data: null } };
        };
        await loadRest(projectId, loaded.data, answersOf(request)).then(
          (rows) => {
            entry.updateCachedData((now) => (now.length < rows.length ? (rows as never) : now));
          },
          () => entry.dispatch(api.util.invalidateTags(['Project'])),
        );
      },
    }),
  }),
});

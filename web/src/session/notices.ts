import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Job, NewerDocument, PlaceView } from '@legame/core/contract';
import type { Notice } from '@legame/words/notices';

/** What is looked at for news: as the server tells it now. */
export type Looked = {
  readonly jobs: readonly Job[];
  readonly places: readonly Pick<PlaceView, 'id' | 'name' | 'there'>[];
  readonly newer: readonly Pick<NewerDocument, 'name' | 'modifiedAt' | 'replaces'>[];
};

/** Work that nobody asked for by itself, or that shows where it was asked for: its end is told only when it failed. */
const inPassing: ReadonlySet<Job['kind']> = new Set<Job['kind']>(['index-place', 'match-project', 'hash-files']);

/**
 * What happened between two looks; `before` is null at the first, when only work that ended after `since` is news: it
 * ended while nobody looked. Each piece of news has an id of its own, so that it is told once.
 */
export function newsBetween(before: Looked | null, now: Looked, since: string, at: string): Notice[] {
  const wasOver = new Set(before?.jobs.filter(isOver).map((job) => job.id));
  const jobs = now.jobs.flatMap((job): Notice[] => {
    const endedAt = job.finishedAt ?? at;
    if (!isOver(job) || wasOver.has(job.id) || (before === null && endedAt <= since)) return [];
    const { id, kind, about, payload, problem } = job;
    if (job.state === 'done' && inPassing.has(kind)) return [];
    return [{ id: `job ${id}`, at: endedAt, code: job.state, job: { kind, about, payload }, problem }];
  });
  if (!before) return jobs;
  const wasThere = new Map(before.places.map((place) => [place.id, place.there]));
  const places = now.places.flatMap(({ id, name, there }): Notice[] => {
    if (!wasThere.has(id) || wasThere.get(id) === there) return [];
    return [{ id: `place ${id} ${at}`, at, code: there ? 'place-back' : 'place-away', name }];
  });
  const keyOf = ({ name, modifiedAt }: Looked['newer'][number]) => `${name} ${modifiedAt}`;
  const known = new Set(before.newer.map(keyOf));
  const newer = now.newer
    .filter((one) => !known.has(keyOf(one)))
    .map((one): Notice => ({
      id: `newer ${keyOf(one)}`,
      at,
      code: 'newer',
      name: one.name,
      replaces: one.replaces.name,
    }));
  return [...jobs, ...places, ...newer];
}
const isOver = (job: Job): job is Job & { state: 'done' | 'failed' } => job.state === 'done' || job.state === 'failed';

const seenKey = 'legame.notices-seen';
const inBrowserKey = 'legame.notices-in-browser';
/** More nobody reads. */
const mostKept = 100;

/** At the first visit nothing that was before is news. */
function seenBefore(): string {
  const known = localStorage.getItem(seenKey) ?? new Date().toISOString();
  localStorage.setItem(seenKey, known);
  return known;
}

export const noticesSlice = createSlice({
  name: 'notices',
  initialState: (): { list: Notice[]; seenUntil: string; inBrowser: boolean } => ({
    list: [],
    seenUntil: seenBefore(),
    inBrowser: localStorage.getItem(inBrowserKey) === 'on',
  }),
  reducers: {
    addNotices: (state, { payload }: PayloadAction<readonly Notice[]>) => {
      const known = new Set(state.list.map((n) => n.id));
      const fresh = payload.filter((n) => !known.has(n.id)).toReversed();
      return { ...state, list: [...fresh, ...(state.list as Notice[])].slice(0, mostKept) };
    },
    /** All that is listed was looked at. */
    seeNotices: (state, { payload }: PayloadAction<string>) => {
      state.seenUntil = payload;
      localStorage.setItem(seenKey, payload);
    },
    clearNotices: (state) => {
      state.list = [];
    },
    /** Whether news is told by the browser as well, while the page is not in sight. */
    tellInBrowser: (state, { payload }: PayloadAction<boolean>) => {
      state.inBrowser = payload;
      localStorage.setItem(inBrowserKey, payload ? 'on' : 'off');
    },
  },
});
export const { addNotices, seeNotices, clearNotices, tellInBrowser } = noticesSlice.actions;

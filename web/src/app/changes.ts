import { announcementSchema } from '@legame/core/contract';
import { hearFirst } from '../api/hearing.ts';
import { api } from '../api/legame.ts';
import type { Store } from './store.ts';

const tags = { project: 'Project', documents: 'Documents', places: 'Places', jobs: 'Jobs', sets: 'Sets' } as const;
type Tag = (typeof tags)[keyof typeof tags] | 'Projects';
/** Many changes at once are asked for once. */
const gatheredMs = 250;
const againAfterMs = 1500;
/** A browser has six connections to one server for all its tabs: one that nobody looks at gives its own back. */
const restsAfterMs = 60_000;

/**
 * Listens to the server's event stream and has whatever changed asked for again, a few times a second at most; until
 * what comes back is called. The first questions wait until the stream is open. A hidden page rests, unless a job
 * runs or it may tell of news by the browser, and asks for everything once it is looked at.
 */
export function hearChanges({ dispatch, getState }: Pick<Store, 'dispatch' | 'getState'>): () => void {
  let stream: EventSource;
  let retry: ReturnType<typeof setTimeout> | undefined;
  let flush: ReturnType<typeof setTimeout> | undefined;
  let hidden: ReturnType<typeof setInterval> | undefined;
  let isResting = false;
  const pending = new Set<Tag>();
  const note = (...changed: readonly Tag[]) => {
    for (const tag of changed) pending.add(tag);
    flush ??= setTimeout(() => {
      flush = undefined;
      const list = [...pending];
      pending.clear();
      dispatch(api.util.invalidateTags(list));
    }, gatheredMs);
  };
  const askAll = () => note(...Object.values(tags), 'Projects');
  const open = (onOpen: () => void, onError = () => undefined) => {
    stream = new EventSource('/api/events');
    stream.addEventListener('open', onOpen);
    stream.addEventListener('change', (event) => {
      const change = announcementSchema.safeParse(JSON.parse((event as MessageEvent<string>).data));
      if (!change.success) return;
      note(tags[change.data.topic]);
      if (change.data.topic === 'project') note('Projects');
    });
    stream.addEventListener('error', () => {
      // The browser does not come back after some failures, so a new stream is opened by hand. What was said before it
      // is open nobody heard.
      stream.close();
      onError();
      retry = setTimeout(() => open(askAll), againAfterMs);
    });
  };
  const mayTell = () => 'Notification' in window && Notification.permission === 'granted';
  const isBusy = () =>
    mayTell() ||
    api.endpoints.jobs
      .select()(getState())
      .data?.some((job) => job.state === 'queued' || job.state === 'running');
  const lookedAt = () => {
    clearInterval(hidden);
    if (document.hidden)
      hidden = setInterval(() => {
        if (isResting || isBusy()) return;
        isResting = true;
        stream.close();
        clearTimeout(retry);
      }, restsAfterMs);
    else if (isResting) {
      isResting = false;
      open(askAll);
    }
  };
  document.addEventListener('visibilitychange', lookedAt);
  hearFirst(new Promise<void>((resolve) => open(resolve, () => void resolve())), askAll);
  return () => {
    document.removeEventListener('visibilitychange', lookedAt);
    stream.close();
    clearTimeout(retry);
    clearTimeout(flush);
    clearInterval(hidden);
  };
}

import { useEffect } from 'react';
import { announcementSchema } from '@legame/core/contract';
import { api } from '../api/legame.ts';
import { useAppDispatch } from './store.ts';

const tags = { project: 'Project', documents: 'Documents', places: 'Places', jobs: 'Jobs', sets: 'Sets' } as const;
type Tag = (typeof tags)[keyof typeof tags];

/** Listens to the server's event stream and has whatever changed asked for again, a few times a second at most. */
export function useChanges(): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    let stream: EventSource | null = null;
    let retry: ReturnType<typeof setTimeout> | undefined;
    let flush: ReturnType<typeof setTimeout> | undefined;
    const pending = new Set<Tag | 'Projects'>();
    const note = (tag: Tag | 'Projects') => {
      pending.add(tag);
      flush ??= setTimeout(() => {
        flush = undefined;
        const list = [...pending];
        pending.clear();
        dispatch(api.util.invalidateTags(list));
      }, 250);
    };
    const open = () => {
      stream = new EventSource('/api/events');
      stream.addEventListener('change', (event) => {
        const change = announcementSchema.safeParse(JSON.parse((event as MessageEvent<string>).data));
        if (!change.success) return;
        note(tags[change.data.topic]);
        if (change.data.topic === 'project') note('Projects');
      });
      stream.addEventListener('error', () => {
        // The browser does not come back after some failures, so a new stream is opened by hand, and all is asked again.
        stream?.close();
        retry = setTimeout(() => {
          open();
          for (const tag of Object.values(tags)) note(tag);
        }, 1500);
      });
    };
    open();
    return () => {
      stream?.close();
      clearTimeout(retry);
      clearTimeout(flush);
    };
  }, [dispatch]);
}

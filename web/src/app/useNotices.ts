import { useEffect, useRef } from 'react';
import { noticeText } from '@legame/words/notices';
import { api } from '../api/legame.ts';
import { storage } from '../api/storage.ts';
import { watched } from '../api/watched.ts';
import { addNotices, newsBetween, type Looked } from '../session/notices.ts';
import { useAppDispatch, useAppSelector } from './store.ts';

/** Holds what the server tells now against what it told before, and notes what happened in between. */
export function useNotices(projectId: string): void {
  const dispatch = useAppDispatch();
  const jobs = api.useJobsQuery().data;
  const places = storage.usePlacesQuery().data;
  const newer = watched.useWatchedQuery(projectId).data?.newer;
  const { seenUntil, inBrowser } = useAppSelector((state) => state.notices);
  const before = useRef<{ readonly of: string; readonly looked: Looked } | null>(null);
  useEffect(() => {
    if (!jobs || !places || !newer) return;
    const looked = { jobs, places, newer };
    // Of another project other documents are newer: that is no news.
    const last = before.current?.of === projectId ? before.current.looked : null;
    const news = newsBetween(last, looked, seenUntil, new Date().toISOString());
    before.current = { of: projectId, looked };
    if (news.length === 0) return;
    dispatch(addNotices(news));
    if (inBrowser && document.hidden && 'Notification' in window && Notification.permission === 'granted')
      for (const notice of news) new Notification('Legame', { body: noticeText(notice), tag: notice.id });
  }, [jobs, places, newer, projectId, seenUntil, inBrowser, dispatch]);
}

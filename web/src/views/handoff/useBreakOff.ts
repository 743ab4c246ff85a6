import { useEffect, useRef } from 'react';
import { api } from '../../api/legame.ts';
import { useAppDispatch, type AppDispatch } from '../../app/store.ts';

type Asked = Parameters<typeof api.endpoints.handoffPreview.initiate>[0];

/** What a plan would take is worked out no further once its words are others, or nobody looks at it any more. */
export function useBreakOff(asked: Asked): void {
  const dispatch = useAppDispatch();
  const last = useRef(asked);
  const isThere = useRef(false);
  useEffect(() => {
    const before = last.current;
    last.current = asked;
    // The words are put together at each drawing; what counts is whether they say the same.
    if (JSON.stringify(before) !== JSON.stringify(asked)) breakOff(dispatch, before);
  }, [asked, dispatch]);
  useEffect(() => {
    isThere.current = true;
    return () => {
      isThere.current = false;
      // While Legame is made, all comes and goes once before it stays.
      setTimeout(() => !isThere.current && breakOff(dispatch, last.current));
    };
  }, [dispatch]);
}

const breakOff = (dispatch: AppDispatch, asked: Asked) =>
  dispatch(api.util.getRunningQueryThunk('handoffPreview', asked))?.abort();

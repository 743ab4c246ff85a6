import { useEffect } from 'react';
import type { Preferences } from '@legame/core/contract';
import { settings } from '../api/settings.ts';
import { takeOver } from '../session/preferences.ts';
import { useAppDispatch, useAppSelector, type AppDispatch, type RootState } from './store.ts';

/**
 * Changes how somebody likes to work: seen at once, and kept on the server under their name. What is kept there of others
 * is never written over with what was so here for somebody else.
 */
export const prefer = (changed: Partial<Preferences>) => async (dispatch: AppDispatch, getState: () => RootState) => {
  const { person, mine, of } = getState().preferences;
  const asked = of === person ? null : await dispatch(settings.endpoints.preferences.initiate(person));
  if (asked?.error) return { error: asked.error };
  const preferences = { ...(asked?.data ?? mine), ...changed };
  dispatch(takeOver({ of: person, mine: preferences }));
  return dispatch(settings.endpoints.keepPreferences.initiate({ person, preferences }));
};

/** Takes over what is kept for whoever works here. */
export function usePreferences(): Preferences {
  const dispatch = useAppDispatch();
  const { person, mine } = useAppSelector((state) => state.preferences);
  const { currentData } = settings.usePreferencesQuery(person, { refetchOnMountOrArgChange: true });
  useEffect(() => {
    if (currentData) dispatch(takeOver({ of: person, mine: currentData }));
  }, [currentData, person, dispatch]);
  return mine;
}

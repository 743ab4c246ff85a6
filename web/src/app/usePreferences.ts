import type { Preferences } from '@legame/core/contract';
import { settings } from '../api/settings.ts';
import { takeOver } from '../session/preferences.ts';
import { turns } from '../session/turns.ts';
import { useAppSelector, type AppDispatch, type RootState } from './store.ts';

/** What was chosen last is kept last. */
const inTurn = turns();

/**
 * Changes how somebody likes to work: seen at once, and kept on the server under their name. What is kept there of others
 * is never written over with what was so here for somebody else.
 */
export const prefer = (changed: Partial<Preferences>) => async (dispatch: AppDispatch, getState: () => RootState) => {
  const { person, of } = getState().preferences;
  if (of !== person) {
    const asked = await dispatch(settings.endpoints.preferences.initiate(person, { subscribe: false }));
    if (asked.error) return { error: asked.error };
  }
  const preferences = { ...getState().preferences.mine, ...changed };
  dispatch(takeOver({ of: person, mine: preferences }));
  return inTurn(() => dispatch(settings.endpoints.keepPreferences.initiate({ person, preferences })));
};

/** How whoever works here likes it, as it is kept for them. */
export function usePreferences(): Preferences {
  const { person, mine } = useAppSelector((state) => state.preferences);
  settings.usePreferencesQuery(person, { refetchOnMountOrArgChange: true });
  return mine;
}

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { saidPreferencesSchema, standardPreferences, type Preferences } from '@legame/core/contract';

const personKey = 'legame.person';
const cacheKey = 'legame.preferences';

/** Under this name goes whoever gave none. */
export const anybody = 'anybody';

/** What was so the last time, so that nothing jumps while the server is asked. */
function remembered(): Preferences {
  try {
    return saidPreferencesSchema.parse(JSON.parse(localStorage.getItem(cacheKey) ?? '{}'));
  } catch {
    return standardPreferences;
  }
}

export const preferencesSlice = createSlice({
  name: 'preferences',
  initialState: (): {
    person: string;
    mine: Preferences;
    /** Of whom the server said so; null where it is only what was so the last time. */
    of: string | null;
    isOpen: boolean;
  } => ({
    person: localStorage.getItem(personKey) ?? anybody,
    mine: remembered(),
    of: null,
    isOpen: false,
  }),
  reducers: {
    /** What is kept on the server, or was chosen here. */
    takeOver: (state, { payload: { of, mine } }: PayloadAction<{ of: string; mine: Preferences }>) => {
      if (of !== state.person) return;
      [state.of, state.mine] = [of, mine];
      localStorage.setItem(cacheKey, JSON.stringify(mine));
    },
    goAs: (state, { payload }: PayloadAction<string>) => {
      state.person = payload;
      localStorage.setItem(personKey, payload);
    },
    openPreferences: (state, { payload }: PayloadAction<boolean>) => {
      state.isOpen = payload;
    },
  },
});
export const { goAs, openPreferences, takeOver } = preferencesSlice.actions;

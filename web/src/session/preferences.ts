import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { saidPreferencesSchema, standardPreferences, type Preferences } from '@legame/core/contract';
import { settings } from '../api/settings.ts';

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

type State = {
  person: string;
  mine: Preferences;
  /** Of whom the server said so; null where it is only what was so the last time. */
  of: string | null;
  isOpen: boolean;
};
type Known = { readonly of: string; readonly mine: Preferences };

/** What somebody likes who went away meanwhile is not taken over by whoever came. */
function takenOver(state: State, { of, mine }: Known): void {
  if (of !== state.person) return;
  [state.of, state.mine] = [of, mine];
  localStorage.setItem(cacheKey, JSON.stringify(mine));
}

export const preferencesSlice = createSlice({
  name: 'preferences',
  initialState: (): State => ({
    person: localStorage.getItem(personKey) ?? anybody,
    mine: remembered(),
    of: null,
    isOpen: false,
  }),
  extraReducers: (build) =>
    build.addMatcher(settings.endpoints.preferences.matchFulfilled, (state, { payload, meta }) =>
      takenOver(state, { of: meta.arg.originalArgs, mine: payload }),
    ),
  reducers: {
    /** What was chosen here. */
    takeOver: (state, { payload }: PayloadAction<Known>) => takenOver(state, payload),
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

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export type Theme = 'paper' | 'lamp';
const themeKey = 'legame.theme';

const remembered = (): Theme => (localStorage.getItem(themeKey) === 'lamp' ? 'lamp' : 'paper');

export const lookSlice = createSlice({
  name: 'look',
  initialState: (): { theme: Theme } => ({ theme: remembered() }),
  reducers: {
    setTheme: (state, { payload }: PayloadAction<Theme>) => {
      state.theme = payload;
      localStorage.setItem(themeKey, payload);
    },
  },
});
export const { setTheme } = lookSlice.actions;

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export type Theme = 'paper' | 'lamp';
const themeKey = 'legame.theme';
const picturesKey = 'legame.pictures';

const remembered = (): Theme => (localStorage.getItem(themeKey) === 'lamp' ? 'lamp' : 'paper');

export const lookSlice = createSlice({
  name: 'look',
  initialState: (): { theme: Theme; pictures: boolean } => ({
    theme: remembered(),
    pictures: localStorage.getItem(picturesKey) === 'on',
  }),
  reducers: {
    setTheme: (state, { payload }: PayloadAction<Theme>) => {
      state.theme = payload;
      localStorage.setItem(themeKey, payload);
    },
    /** Whether rows of the ledger show a small picture of their file. */
    showPictures: (state, { payload }: PayloadAction<boolean>) => {
      state.pictures = payload;
      localStorage.setItem(picturesKey, payload ? 'on' : 'off');
    },
  },
});
export const { setTheme, showPictures } = lookSlice.actions;

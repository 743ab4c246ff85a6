import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export type Theme = 'paper' | 'lamp';
const themeKey = 'legame.theme';
const picturesKey = 'legame.pictures';
const bayKey = 'legame.bay';

const remembered = (): Theme => (localStorage.getItem(themeKey) === 'lamp' ? 'lamp' : 'paper');

export const lookSlice = createSlice({
  name: 'look',
  initialState: (): {
    theme: Theme;
    pictures: boolean;
    bay: boolean;
    /** What is looked for in the help while it is open. */
    help: string | null;
    /** Whether words are explained where they stand, instead of doing what they do. */
    isAsking: boolean;
    /** The step of the way round. */
    tour: number | null;
  } => ({
    theme: remembered(),
    pictures: localStorage.getItem(picturesKey) === 'on',
    bay: localStorage.getItem(bayKey) === 'on',
    help: null,
    isAsking: false,
    tour: null,
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
    /** Whether the simulated drives of the demo are unfolded beside the places. */
    showBay: (state, { payload }: PayloadAction<boolean>) => {
      state.bay = payload;
      localStorage.setItem(bayKey, payload ? 'on' : 'off');
    },
    askHelp: (state, { payload }: PayloadAction<string | null>) => {
      state.help = payload;
    },
    askWhatThisIs: (state, { payload }: PayloadAction<boolean>) => {
      state.isAsking = payload;
      state.help = null;
    },
    goOnTour: (state, { payload }: PayloadAction<number | null>) => {
      state.tour = payload;
      state.help = null;
    },
  },
});
export const { askHelp, askWhatThisIs, goOnTour, setTheme, showBay, showPictures } = lookSlice.actions;

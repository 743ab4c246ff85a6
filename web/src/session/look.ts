import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

const bayKey = 'legame.bay';

export const lookSlice = createSlice({
  name: 'look',
  initialState: (): {
    bay: boolean;
    /** What is looked for in the help while it is open. */
    help: string | null;
    /** Whether words are explained where they stand, instead of doing what they do. */
    isAsking: boolean;
    /** The step of the way round. */
    tour: number | null;
  } => ({
    bay: localStorage.getItem(bayKey) === 'on',
    help: null,
    isAsking: false,
    tour: null,
  }),
  reducers: {
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
export const { askHelp, askWhatThisIs, goOnTour, showBay } = lookSlice.actions;

import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { speakAs } from '@legame/words/numbers';
import { api } from '../api/legame.ts';
import { lookSlice } from '../session/look.ts';
import { noticesSlice } from '../session/notices.ts';
import { preferencesSlice } from '../session/preferences.ts';
import { selectionSlice } from '../session/selection.ts';

const bareStore = () =>
  configureStore({
    reducer: {
      [api.reducerPath]: api.reducer,
      [selectionSlice.name]: selectionSlice.reducer,
      [lookSlice.name]: lookSlice.reducer,
      [noticesSlice.name]: noticesSlice.reducer,
      [preferencesSlice.name]: preferencesSlice.reducer,
    },
    // Tens of thousands of rows live in the cache; walking through all of them after every action would be felt.
    middleware: (defaults) => defaults({ immutableCheck: false, serializableCheck: false }).concat(api.middleware),
  });

/** Words are told as whoever works here likes them. */
export function makeStore() {
  const store = bareStore();
  const tell = () => speakAs(store.getState().preferences.mine);
  tell();
  store.subscribe(tell);
  return store;
}

export type Store = ReturnType<typeof makeStore>;
export type AppDispatch = Store['dispatch'];
export type RootState = ReturnType<Store['getState']>;
export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();

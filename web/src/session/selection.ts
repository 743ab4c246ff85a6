import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { StatusName } from '@legame/core';

export type StatusFilter = 'to-do' | 'all' | StatusName;
export type SortKey = 'edit' | 'status' | 'name' | 'found' | 'uses';

/** What the hand is on: which clips, through which filter. Apart from what the server knows. */
export type Selection = {
  readonly ids: readonly string[];
  /** The row that the keyboard moves and that the panel shows. */
  readonly focus: string | null;
  /** Where a Shift selection began. */
  readonly anchor: string | null;
  readonly status: StatusFilter;
  readonly text: string;
  readonly sort: SortKey;
  readonly descending: boolean;
};

const initialState: Selection = {
  ids: [],
  focus: null,
  anchor: null,
  status: 'to-do',
  text: '',
  sort: 'edit',
  descending: false,
};

export const selectionSlice = createSlice({
  name: 'selection',
  initialState,
  reducers: {
    pick: (state, { payload }: PayloadAction<string>) => ({
      ...state,
      ids: [payload],
      focus: payload,
      anchor: payload,
    }),
    toggle: (state, { payload }: PayloadAction<string>) => ({
      ...state,
      ids: state.ids.includes(payload) ? state.ids.filter((id) => id !== payload) : [...state.ids, payload],
      focus: payload,
      anchor: payload,
    }),
    /** Extends from the anchor to a row; `order` is the order of rows as they are shown. */
    extend: (state, { payload: { id, order } }: PayloadAction<{ id: string; order: readonly string[] }>) => {
      const [from, to] = [order.indexOf(state.anchor ?? id), order.indexOf(id)].sort((a, b) => a - b) as [
        number,
        number,
      ];
      return { ...state, ids: order.slice(Math.max(0, from), to + 1), focus: id };
    },
    pickMany: (state, { payload }: PayloadAction<readonly string[]>) => ({
      ...state,
      ids: payload,
      focus: payload[0] ?? state.focus,
    }),
    clear: (state) => ({ ...state, ids: [], focus: null, anchor: null }),
    filterStatus: (state, { payload }: PayloadAction<StatusFilter>) => ({ ...state, status: payload }),
    filterText: (state, { payload }: PayloadAction<string>) => ({ ...state, text: payload }),
    sortBy: (state, { payload }: PayloadAction<SortKey>) => ({
      ...state,
      sort: payload,
      descending: state.sort === payload ? !state.descending : payload === 'uses',
    }),
    leaveProject: () => initialState,
  },
});
export const { pick, toggle, extend, pickMany, clear, filterStatus, filterText, sortBy, leaveProject } =
  selectionSlice.actions;

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { statusNames, type StatusName } from '@legame/core/state';

export type StatusFilter = 'to-do' | 'all' | StatusName;

/** What the hand is on: which clips, through which filter. Apart from what the server knows. */
export type Selection = {
  readonly ids: readonly string[];
  /** The row that the keyboard moves and that the panel shows. */
  readonly focus: string | null;
  /** Where a Shift selection began. */
  readonly anchor: string | null;
  readonly status: StatusFilter;
  readonly text: string;
};

/** As a list is before anybody chose anything. */
export const nothingChosen: Selection = {
  ids: [],
  focus: null,
  anchor: null,
  status: 'to-do',
  text: '',
};

export const selectionSlice = createSlice({
  name: 'selection',
  initialState: nothingChosen,
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
    restore: (_, { payload }: PayloadAction<Selection>) => payload,
    leaveProject: () => nothingChosen,
  },
});
export const { pick, toggle, extend, pickMany, clear, filterStatus, filterText, restore, leaveProject } =
  selectionSlice.actions;

const filters: readonly string[] = ['to-do', 'all', ...statusNames] satisfies readonly StatusFilter[];
/** More clips than this make no address that could be passed on; then the one in hand stands for all. */
const mostInAddress = 50;

/** A selection as parameters of the address; what is as usual is left out. */
export function addressOf({ ids, focus, status, text }: Selection): URLSearchParams {
  const address = new URLSearchParams();
  if (status !== nothingChosen.status) address.set('show', status);
  if (text !== '') address.set('find', text);
  const kept = ids.length <= mostInAddress ? ids : [];
  if (focus) address.set('clip', focus);
  if (kept.length > 1 || (kept.length === 1 && kept[0] !== focus)) address.set('clips', kept.join(' '));
  return address;
}

/** The reverse. What an address says that no list knows is as usual. */
export function fromAddress(address: URLSearchParams): Selection {
  const show = address.get('show') ?? '';
  const focus = address.get('clip');
  const ids = address.get('clips')?.split(' ').slice(0, mostInAddress) ?? (focus ? [focus] : []);
  return {
    ids,
    focus,
    anchor: focus,
    status: filters.includes(show) ? (show as StatusFilter) : nothingChosen.status,
    text: address.get('find') ?? '',
  };
}

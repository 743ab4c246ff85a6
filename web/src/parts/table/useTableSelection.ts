import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { extend, pick, pickMany, toggle } from '../../session/selection.ts';
import type { TableSelection } from './columns.ts';

/** The selection that all screens of a project share, as a table changes it. `order` is that of its rows as shown. */
export function useTableSelection(order: readonly string[]): TableSelection {
  const { ids, focus } = useAppSelector((state) => state.selection);
  const dispatch = useAppDispatch();
  return {
    ids,
    focus,
    onPick: (id) => dispatch(pick(id)),
    onToggle: (id) => dispatch(toggle(id)),
    onExtend: (id) => dispatch(extend({ id, order })),
    onMany: (many) => dispatch(pickMany(many)),
  };
}

import type { RefObject } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { TableSelection } from './columns.ts';

export const rowHeight = 42;
export const closeRowHeight = 34;

/** The keys that move about in a table, and extend what is selected. */
export function useTableKeys(
  order: readonly string[],
  { focus, onPick, onExtend }: TableSelection,
  scroller: RefObject<HTMLElement | null>,
  height = rowHeight,
): void {
  const move = (by: number) => (event: KeyboardEvent) => {
    // A menu that is open has the arrows.
    if ((event.target as HTMLElement | null)?.closest?.('[role=menu]')) return;
    event.preventDefault();
    const at = focus ? order.indexOf(focus) : -1;
    const id = order[Math.max(0, Math.min(order.length - 1, at + by))];
    if (id) (event.shiftKey ? onExtend : onPick)(id);
  };
  const page = () => Math.max(1, Math.floor((scroller.current?.clientHeight ?? 600) / height) - 1);
  useHotkeys('down, shift+down', move(1));
  useHotkeys('up, shift+up', move(-1));
  useHotkeys('home, shift+home', move(-order.length));
  useHotkeys('end, shift+end', move(order.length));
  useHotkeys('pageup, shift+pageup', (event) => move(-page())(event));
  useHotkeys('pagedown, shift+pagedown', (event) => move(page())(event));
}

import { useCommand } from '../../commands/useCommand.ts';

/** What keys and the field that finds or does can do on this screen. */
export function useCutCommands({
  step,
  edge,
  dark,
  marker,
  zoom,
  all,
  open,
  mark,
  unmark,
  hasDark,
}: {
  step: (by: number) => void;
  edge: (way: 1 | -1) => void;
  dark: (way: 1 | -1) => void;
  /** Null where the timeline has none. */
  marker: ((way: 1 | -1) => void) | null;
  zoom: (by: number) => void;
  all: () => void;
  /** Null where no nested timeline lies under the playhead. */
  open: (() => void) | null;
  mark: (what: 'first' | 'last') => void;
  /** Null where nothing is marked. */
  unmark: (() => void) | null;
  hasDark: boolean;
}): void {
  const none = hasDark ? null : 'Nothing is dark on this timeline.';
  useCommand('frame-on', () => step(1));
  useCommand('frame-back', () => step(-1));
  useCommand('next-event', () => edge(1));
  useCommand('former-event', () => edge(-1));
  useCommand('next-dark', () => dark(1), none);
  useCommand('former-dark', () => dark(-1), none);
  const noMarker = marker ? null : 'Nobody noted anything on this timeline.';
  useCommand('next-marker', () => marker?.(1), noMarker);
  useCommand('former-marker', () => marker?.(-1), noMarker);
  useCommand('nearer', () => zoom(1.6));
  useCommand('farther', () => zoom(1 / 1.6));
  useCommand('all-of-cut', all);
  useCommand('open-nest', () => open?.(), open ? null : 'No nested timeline lies under the playhead.');
  useCommand('mark-first', () => mark('first'));
  useCommand('mark-last', () => mark('last'));
  useCommand('unmark', () => unmark?.(), unmark ? null : 'Nothing is marked.');
}

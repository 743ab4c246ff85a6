import { useEffect, useRef, useSyncExternalStore } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { toast } from 'sonner';
import { definitionOf, whereWords, type CommandId } from './definitions.ts';

type Live = { readonly run: () => void; readonly why: string | null };

/** What can be done on the screen that is open now: commands are put in by what does them, for as long as it is there. */
class LiveCommands {
  readonly #live = new Map<CommandId, Live>();
  readonly #listeners = new Set<() => void>();
  #version = 0;

  put(id: CommandId, live: Live): void {
    const known = this.#live.get(id);
    this.#live.set(id, live);
    if (known?.why !== live.why) this.#told();
  }
  take(id: CommandId): void {
    if (this.#live.delete(id)) this.#told();
  }
  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  version = (): number => this.#version;
  get = (id: CommandId): Live | undefined => this.#live.get(id);
  #told(): void {
    this.#version += 1;
    for (const listener of this.#listeners) listener();
  }
}
const commands = new LiveCommands();

/** Why a command is not possible now, in a sentence; null where it is. */
export function whyNot(id: CommandId): string | null {
  const live = commands.get(id);
  if (live) return live.why;
  const { where } = definitionOf(id);
  return where === 'anywhere' ? 'Open a project first.' : `This is done at ${whereWords[where]}.`;
}

/** Does a command, or says why it cannot be done now. */
export function runCommand(id: CommandId): void {
  const why = whyNot(id);
  if (why !== null) toast(why, { id: `why-not-${id}` });
  else commands.get(id)?.run();
}

/** Draws again when a command becomes possible or stops being so. */
export const useCommandStates = (): number => useSyncExternalStore(commands.subscribe, commands.version);

const isPressed = (target: EventTarget | null): target is Element =>
  target instanceof Element && target.closest('button, a[href], summary, [role=button]') !== null;

const isGoneTo = (target: Element): boolean => target.matches(':focus-visible');

/**
 * Does a command while this is on the screen: by its key, by the field that finds or does, by buttons and menus.
 * `why` says why it cannot be done now, and null that it can.
 */
export function useCommand(id: CommandId, run: () => void, why: string | null = null): void {
  const latest = useRef(run);
  useEffect(() => {
    latest.current = run;
  });
  useEffect(() => {
    commands.put(id, { run: () => latest.current(), why });
    return () => commands.take(id);
  }, [id, why]);
  const { keys } = definitionOf(id);
  useHotkeys(
    keys ?? 'f24',
    (event) => {
      // Text that somebody marked is what they want to copy, not rows.
      if (id === 'copy-rows' && window.getSelection()?.toString()) return;
      // Space presses what has the focus; Enter, what somebody went to by the keys, for a button that was clicked keeps it.
      if (isPressed(event.target) && (event.key === ' ' || (event.key === 'Enter' && isGoneTo(event.target)))) return;
      event.preventDefault();
      runCommand(id);
    },
    {
      enabled: keys !== undefined, // What a key gives counts where layouts put a sign on different keys.
      ...(keys === '/' || keys === '?' ? { useKey: true } : {}),
    },
    [id],
  );
}

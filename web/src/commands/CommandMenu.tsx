import { useEffect, useEffectEvent, useRef } from 'react';
import { definitionOf, type CommandId } from './definitions.ts';
import { runCommand, useCommandStates, whyNot } from './useCommand.ts';

/** What can be done to what is under the pointer: the menu of a right-click, drawn from the registry. */
export function CommandMenu({
  at,
  ids,
  onClose,
}: {
  at: { readonly x: number; readonly y: number };
  ids: readonly CommandId[];
  onClose: () => void;
}) {
  useCommandStates();
  const menu = useRef<HTMLUListElement>(null);
  const close = useEffectEvent(onClose);
  useEffect(() => {
    menu.current?.querySelector<HTMLElement>('[role=menuitem]')?.focus();
    const away = (event: Event) => {
      if (!menu.current?.contains(event.target as Node)) close();
    };
    const leave = () => close();
    window.addEventListener('pointerdown', away);
    window.addEventListener('blur', leave);
    return () => {
      window.removeEventListener('pointerdown', away);
      window.removeEventListener('blur', leave);
    };
  }, []);
  const step = (by: number) => {
    const items = [...(menu.current?.querySelectorAll<HTMLElement>('[role=menuitem]') ?? [])];
    const now = items.indexOf(document.activeElement as HTMLElement);
    items[(now + by + items.length) % items.length]?.focus();
  };
  return (
    <ul
      ref={menu}
      role="menu"
      aria-label="to the selection"
      className="sheet menu fixed z-40 w-72 p-1"
      style={{
        left: Math.min(at.x, window.innerWidth - 300),
        top: Math.min(at.y, window.innerHeight - 28 * ids.length - 16),
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape' || event.key === 'Tab') onClose();
        else if (event.key === 'ArrowDown') step(1);
        else if (event.key === 'ArrowUp') step(-1);
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      {ids.map((id) => {
        const why = whyNot(id);
        const { title, shown } = definitionOf(id);
        return (
          <li key={id} role="none">
            <button
              type="button"
              role="menuitem"
              aria-disabled={why !== null}
              title={why ?? undefined}
              className={`flex justify-between rounded px-2 py-1 text-left ${why === null ? '' : 'opacity-50'}`}
              onClick={() => {
                onClose();
                runCommand(id);
              }}
            >
              <span>{title}</span>
              {shown && <kbd className="kbd-mark whitespace-nowrap">{shown}</kbd>}
            </button>
          </li>
        );
      })}
    </ul>
  );
}

import { Filter } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { createPortal } from 'react-dom';
import { group } from '@legame/words/numbers';

/** More values than these are found by typing. */
const mostShown = 200;

/** Which values of a column are let through: each with how many rows have it. */
export function ColumnFilter({
  title,
  values,
  chosen,
  onChoose,
}: {
  title: string;
  /** Asked for when it is opened: to count them takes a walk through all rows. */
  values: () => readonly { readonly value: string; readonly rows: number }[];
  chosen: readonly string[] | undefined;
  onChoose: (values: readonly string[] | null) => void;
}) {
  const [at, setAt] = useState<{ x: number; y: number } | null>(null);
  const [text, setText] = useState('');
  const sheet = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!at) return;
    const away = (event: PointerEvent) => {
      if (!sheet.current?.contains(event.target as Node)) setAt(null);
    };
    window.addEventListener('pointerdown', away);
    return () => window.removeEventListener('pointerdown', away);
  }, [at]);
  const all = at ? values() : [];
  const wanted = text.trim().toLowerCase();
  const found = all.filter(({ value }) => value.toLowerCase().includes(wanted));
  const isOn = (value: string) => !chosen || chosen.includes(value);
  const flip = (value: string) => {
    const now = chosen ?? all.map((v) => v.value);
    const next = now.includes(value) ? now.filter((v) => v !== value) : [...now, value];
    onChoose(next.length === all.length ? null : next);
  };
  return (
    <>
      <button
        type="button"
        aria-label={`filter by ${title}`}
        aria-expanded={at !== null}
        title={chosen ? `Only some of ${title} are shown` : `Show only some of ${title}`}
        className={`ml-0.5 shrink-0 rounded p-0.5 hover:text-base-content ${chosen ? 'bg-[var(--bond-wash)] text-primary' : 'opacity-60'}`}
        onClick={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          setAt(at ? null : { x: Math.min(box.left, window.innerWidth - 250), y: box.bottom + 2 });
        }}
      >
        <Filter size={10} aria-hidden fill={chosen ? 'currentColor' : 'none'} />
      </button>
      {at &&
        createPortal(
          <div
            ref={sheet}
            role="dialog"
            aria-label={`filter by ${title}`}
            className="sheet fixed z-40 w-60 p-2 text-base-content"
            style={{ left: at.x, top: at.y }}
            onKeyDown={(event) => {
              if (event.key === 'Escape') setAt(null);
              event.stopPropagation();
            }}
          >
            <input
              // It was just asked for.
              autoFocus
              className="input input-xs w-full"
              aria-label={`find among ${title}`}
              placeholder="Find a value"
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
            <div className="my-1 flex gap-1">
              <button type="button" className="btn btn-plain btn-xs" onClick={() => onChoose(null)}>
                All
              </button>
              <button
                type="button"
                className="btn btn-plain btn-xs"
                onClick={() => onChoose(wanted ? found.map((f) => f.value) : [])}
              >
                {wanted ? 'Only what is found' : 'None'}
              </button>
            </div>
            <ul className="max-h-60 overflow-auto">
              {found.slice(0, mostShown).map(({ value, rows }) => (
                <li key={value}>
                  <label className="flex items-center gap-2 py-0.5">
                    <input
                      type="checkbox"
                      className="checkbox checkbox-xs"
                      checked={isOn(value)}
                      onChange={() => flip(value)}
                    />
                    <span className="min-w-0 flex-1 truncate font-mono">{value || '(empty)'}</span>
                    <span className="text-quiet">{group(rows)}</span>
                  </label>
                </li>
              ))}
              {found.length > mostShown && (
                <li className="text-quiet">and {group(found.length - mostShown)} more: type to find them</li>
              )}
            </ul>
          </div>,
          document.body,
        )}
    </>
  );
}

import * as Popover from '@radix-ui/react-popover';
import { useState, type ReactNode } from 'react';

/** A word of the sentence that is a choice: it opens what can be said instead. */
export function Word({
  says,
  what,
  isWanted = false,
  children,
}: {
  says: string;
  /** What is chosen, for those who do not see where the word stands. */
  what: string;
  /** Nothing is chosen yet, and something has to be. */
  isWanted?: boolean;
  children: (close: () => void) => ReactNode;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        className={`cursor-pointer border-b-2 px-0.5 font-bold hover:bg-[var(--bond-wash)] ${isWanted ? 'border-changed text-changed' : 'border-primary'}`}
        aria-label={`${what}: ${says}`}
      >
        {says}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          className="sheet z-20 max-h-[70vh] w-96 overflow-auto p-3 text-[13px] shadow-lg"
          align="start"
          sideOffset={6}
          aria-label={`choose: ${what}`}
        >
          {children(() => setOpen(false))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** One of a few, chosen and closed at once. */
export function OneOf<T extends string>({
  options,
  chosen,
  onChoose,
}: {
  options: readonly { readonly id: T; readonly title: string; readonly words?: string }[];
  chosen: T;
  onChoose: (id: T) => void;
}) {
  return (
    <ul className="flex flex-col">
      {options.map(({ id, title, words }) => (
        <li key={id}>
          <button
            type="button"
            aria-pressed={id === chosen}
            className={`w-full rounded px-2 py-1.5 text-left ${id === chosen ? 'bg-[var(--bond-wash)] font-semibold' : 'hover:bg-base-200'}`}
            onClick={() => onChoose(id)}
          >
            {title}
            {words && <span className="block font-normal text-quiet">{words}</span>}
          </button>
        </li>
      ))}
    </ul>
  );
}

export function NumberIn({
  label,
  value,
  most,
  onChange,
}: {
  label: string;
  value: number;
  most: number;
  onChange: (value: number) => void;
}) {
  return (
    <label className="flex items-center gap-2">
      <input
        type="number"
        min={0}
        max={most}
        className="input input-sm w-24 text-right font-mono"
        value={value}
        onChange={(e) => onChange(Math.max(0, Math.min(most, Math.round(Number(e.target.value)) || 0)))}
      />
      {label}
    </label>
  );
}

export function TextIn({
  label,
  value,
  onChange,
  onDone,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  onDone: () => void;
}) {
  return (
    <input
      className="input input-sm w-full"
      aria-label={label}
      value={value}
      onChange={(e) => onChange(e.target.value)}
      onKeyDown={(e) => e.key === 'Enter' && onDone()}
    />
  );
}

/** Something that is or is not, with what that means. */
export function Check({
  label,
  words,
  isOn,
  onChange,
}: {
  label: string;
  words?: string;
  isOn: boolean;
  onChange: (isOn: boolean) => void;
}) {
  return (
    <label className="flex items-start gap-2">
      <input
        type="checkbox"
        className="checkbox checkbox-xs mt-0.5"
        checked={isOn}
        onChange={(e) => onChange(e.target.checked)}
      />
      <span>
        {label}
        {words && <span className="block text-quiet">{words}</span>}
      </span>
    </label>
  );
}

/** Clips that somebody chose elsewhere, until all are wanted after all. */
export function ClipsWord({ says, instead, onAll }: { says: string; instead: string; onAll: () => void }) {
  return (
    <Word says={says} what="clips">
      {(close) => (
        <button
          type="button"
          className="btn btn-plain btn-sm"
          onClick={() => {
            onAll();
            close();
          }}
        >
          {instead}
        </button>
      )}
    </Word>
  );
}

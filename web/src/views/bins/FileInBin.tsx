import { useState } from 'react';
import { binKey, type BinNode, type BinPath } from '@legame/core/bins';
import { binText } from '@legame/words/bins';
import { count } from '@legame/words/numbers';

const all = (node: BinNode): BinPath[] => [node.path, ...node.bins.flatMap(all)];

/** Chooses a bin by its name, or makes one: Enter takes the first that is found. */
export function FileInBin({
  root,
  within,
  clips,
  onFile,
  onClose,
}: {
  root: BinNode;
  /** Where a new one is made. */
  within: BinPath;
  clips: number;
  onFile: (bin: BinPath) => void;
  onClose: () => void;
}) {
  const [text, setText] = useState('');
  const name = text.trim();
  const found = all(root).filter((bin) => binText(bin).toLowerCase().includes(name.toLowerCase()));
  const isNew = name !== '' && !found.some((bin) => bin.at(-1)?.toLowerCase() === name.toLowerCase());
  const choices = [
    ...found.map((bin) => ({ bin, isNew: false })),
    ...(isNew ? [{ bin: [...within, name], isNew }] : []),
  ];
  return (
    <dialog
      open
      aria-label="put into a bin"
      className="sheet absolute top-12 left-1/2 z-40 w-96 -translate-x-1/2 p-3 text-base-content shadow-lg"
      onKeyDown={(event) => {
        if (event.key === 'Escape') onClose();
        event.stopPropagation();
      }}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (choices[0]) onFile(choices[0].bin);
        }}
      >
        <h2 className="mb-1.5 font-semibold">Put {count(clips, 'clip')} into</h2>
        <input
          autoFocus
          className="input input-sm w-full"
          aria-label="name of the bin"
          placeholder="Name of a bin, there or new"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <ul className="mt-1.5 max-h-64 overflow-auto">
          {choices.slice(0, 60).map((choice, i) => (
            <li key={`${choice.isNew} ${binKey(choice.bin)}`}>
              <button
                type="button"
                className={`flex w-full justify-between gap-2 rounded px-2 py-1 text-left hover:bg-base-200 ${i === 0 ? 'bg-[var(--bond-wash)]' : ''}`}
                onClick={() => onFile(choice.bin)}
              >
                <span className="truncate">{choice.bin.length === 0 ? 'The project itself' : binText(choice.bin)}</span>
                {choice.isNew && <span className="text-quiet">new</span>}
              </button>
            </li>
          ))}
        </ul>
        <div className="mt-2 flex justify-end gap-1.5">
          <button type="button" className="btn btn-plain btn-sm" onClick={onClose}>
            Cancel
          </button>
          <button type="submit" className="btn btn-primary btn-sm" disabled={choices.length === 0}>
            Put there
          </button>
        </div>
      </form>
    </dialog>
  );
}

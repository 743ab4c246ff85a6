import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { labelColours, labelMarks, type Label } from '@legame/core/bins';
import { LabelMark } from './LabelMark.tsx';

/** The labels of a project: a name, a colour and a mark each, so that nobody needs to see colour to tell them apart. */
export function LabelsEditor({
  labels,
  onKeep,
  onClose,
}: {
  labels: readonly Label[];
  onKeep: (labels: readonly Label[]) => void;
  onClose: () => void;
}) {
  const [now, setNow] = useState(labels);
  const change = (id: string, part: Partial<Label>) => setNow(now.map((l) => (l.id === id ? { ...l, ...part } : l)));
  const isWhole = now.every((l) => l.name.trim() !== '');
  const add = () => {
    const i = now.length;
    const label: Label = {
      id: crypto.randomUUID(),
      name: '',
      colour: labelColours[i % labelColours.length]!,
      mark: labelMarks[i % labelMarks.length]!,
    };
    setNow([...now, label]);
  };
  return (
    <dialog
      open
      aria-label="labels"
      className="sheet absolute top-12 left-1/2 z-40 w-[30rem] -translate-x-1/2 p-3 text-base-content shadow-lg"
      onKeyDown={(event) => {
        if (event.key === 'Escape') onClose();
        event.stopPropagation();
      }}
    >
      <h2 className="mb-1.5 font-semibold">Labels of this project</h2>
      {now.length === 0 && <p className="text-quiet">None yet. A label has a name, a colour and a mark of its own.</p>}
      <ul className="max-h-72 overflow-auto">
        {now.map((label) => (
          <li key={label.id} className="flex items-center gap-1.5 py-0.5">
            <LabelMark label={label} />
            <input
              className="input input-xs flex-1"
              aria-label="name of the label"
              value={label.name}
              autoFocus={label.name === ''}
              onChange={(event) => change(label.id, { name: event.target.value })}
            />
            <select
              className="select select-xs w-24"
              aria-label={`colour of ${label.name}`}
              value={label.colour}
              onChange={(event) => change(label.id, { colour: event.target.value as Label['colour'] })}
            >
              {labelColours.map((colour) => (
                <option key={colour}>{colour}</option>
              ))}
            </select>
            <select
              className="select select-xs w-24"
              aria-label={`mark of ${label.name}`}
              value={label.mark}
              onChange={(event) => change(label.id, { mark: event.target.value as Label['mark'] })}
            >
              {labelMarks.map((mark) => (
                <option key={mark}>{mark}</option>
              ))}
            </select>
            <button
              type="button"
              className="btn btn-ghost btn-xs px-1"
              aria-label={`take ${label.name} away`}
              onClick={() => setNow(now.filter((l) => l.id !== label.id))}
            >
              <Trash2 size={12} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-2 flex gap-1.5">
        <button type="button" className="btn btn-plain btn-sm" onClick={add}>
          <Plus size={13} aria-hidden /> New label
        </button>
        <span className="flex-1" />
        <button type="button" className="btn btn-plain btn-sm" onClick={onClose}>
          Cancel
        </button>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={!isWhole}
          title={isWhole ? undefined : 'Each label needs a name'}
          onClick={() => onKeep(now.map((l) => ({ ...l, name: l.name.trim() })))}
        >
          Keep
        </button>
      </div>
    </dialog>
  );
}

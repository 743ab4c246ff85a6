import { useState } from 'react';
import { sets } from '../../api/sets.ts';
import { FolderChooser } from '../../parts/FolderChooser.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

/** Chooses the set to check. */
export function NewCheck({ onBegun }: { onBegun: (id: string) => void }) {
  const [start, started] = sets.useStartSetCheckMutation();
  const [addGeneration, setAddGeneration] = useState(false);
  return (
    <div className="mx-auto flex w-full max-w-2xl flex-col gap-3 overflow-auto py-4">
      <h1 className="text-[20px] font-bold">Check a received set</h1>
      <p className="text-quiet">
        Choose the folder that was handed over: the one with <span className="font-mono">ascmhl</span> in it, or with a
        list of the version before. Every file is read and held against its hash; nothing in the set is changed.
      </p>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={addGeneration}
          onChange={(e) => setAddGeneration(e.target.checked)}
        />
        Add what is found to its lists, as their next generation
        <span className="text-quiet">(writes into ascmhl, and nowhere else)</span>
      </label>
      <FolderChooser
        verb="Check this set"
        onChoose={(folder) =>
          void start({ folder, addGeneration })
            .unwrap()
            .then(({ id }) => onBegun(id))
            .catch(() => undefined)
        }
      />
      <ProblemNote error={started.error} onClose={started.reset} />
    </div>
  );
}

import { X } from 'lucide-react';
import { useState } from 'react';
import type { PlaceView } from '@legame/core/contract';
import { storage } from '../../api/storage.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

/** The names other machines know a place by; an edit's remembered paths are understood through them. */
export function PlaceNames({ place }: { place: PlaceView }) {
  const [change, changed] = storage.useChangePlaceMutation();
  const [text, setText] = useState('');
  const save = (knownAs: string[]) => void change({ id: place.id, knownAs });
  return (
    <div className="mt-1.5 flex flex-wrap items-center gap-1.5">
      <span
        className="text-quiet"
        title="A drive letter, a mount point or a share name under which an edit remembers this place"
      >
        also known as
      </span>
      {place.knownAs.map((name) => {
        const isLearned = place.learnedNames.includes(name);
        return (
          <span
            key={name}
            title={isLearned ? 'Learned from clips that were linked into this place' : 'Given by hand'}
            className={`inline-flex items-center gap-1 rounded border border-base-300 px-1.5 font-mono ${isLearned ? 'border-dashed' : ''}`}
          >
            {name}
            {isLearned && <span className="font-sans text-[11px] text-quiet">learned</span>}
            <button
              type="button"
              aria-label={`remove the name ${name}`}
              onClick={() => save(place.knownAs.filter((n) => n !== name))}
            >
              <X size={11} />
            </button>
          </span>
        );
      })}
      <form
        className="inline-flex gap-1"
        onSubmit={(event) => {
          event.preventDefault();
          if (!text.trim()) return;
          save([...new Set([...place.knownAs, text.trim()])]);
          setText('');
        }}
      >
        <input
          className="input input-xs w-32 font-mono"
          placeholder="S: or a name"
          aria-label={`another name of ${place.name}`}
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <button type="submit" className="btn btn-plain btn-xs" disabled={!text.trim() || changed.isLoading}>
          Add
        </button>
      </form>
      <ProblemNote error={changed.error} onClose={changed.reset} />
    </div>
  );
}

import { X } from 'lucide-react';
import { placeChangeSchema, type PlaceView } from '@legame/core/contract';
import { storage } from '../../api/storage.ts';
import { NameForm } from '../../parts/NameForm.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

/** The names other machines know a place by; an edit's remembered paths are understood through them. */
export function PlaceNames({ place }: { place: PlaceView }) {
  const [change, changed] = storage.useChangePlaceMutation();
  const save = (knownAs: string[]) => change({ id: place.id, knownAs }).unwrap();
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
              onClick={() => void save(place.knownAs.filter((n) => n !== name)).catch(() => undefined)}
            >
              <X size={11} />
            </button>
          </span>
        );
      })}
      <NameForm
        size="xs"
        inputClass="w-32 font-mono"
        schema={placeChangeSchema.shape.knownAs.unwrap().unwrap().element}
        label={`another name of ${place.name}`}
        hint="S: or a name"
        verb="Add"
        busy={changed.isLoading}
        onName={(name) => save([...new Set([...place.knownAs, name])])}
      />
      <ProblemNote error={changed.error} onClose={changed.reset} />
    </div>
  );
}

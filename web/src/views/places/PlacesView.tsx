import { useState } from 'react';
import { api } from '../../api/legame.ts';
import { FolderChooser } from '../../parts/FolderChooser.tsx';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { PlaceCard } from './PlaceCard.tsx';

/** Where media may be: drives, cards, shares, folders; which are there, and what was found in them. */
export function PlacesView() {
  const places = api.usePlacesQuery();
  const jobs = api.useJobsQuery();
  const [addPlace, added] = api.useAddPlaceMutation();
  const [adding, setAdding] = useState(false);
  const isEmpty = places.data?.length === 0;
  return (
    <div className="h-full overflow-auto p-4">
      <div className="mb-3 flex items-center justify-between gap-4">
        <p className="text-quiet">
          A place is searched whole. Nothing in it is ever changed or deleted. Drives that come back are noticed by
          themselves.
        </p>
        {!isEmpty && (
          <button type="button" className="btn btn-primary btn-sm" onClick={() => setAdding(!adding)}>
            {adding ? 'Close' : 'Add a place…'}
          </button>
        )}
      </div>
      {(adding || isEmpty) && (
        <div className="mb-4">
          <p className="mb-1">Choose a drive, card, share or folder. It is indexed at once.</p>
          <FolderChooser
            verb="Add this place"
            onChoose={(path) =>
              void addPlace({ path, knownAs: [] })
                .unwrap()
                .then(() => setAdding(false))
                .catch(() => undefined)
            }
          />
          <div className="mt-2">
            <ProblemNote error={added.error} onClose={added.reset} />
          </div>
        </div>
      )}
      {!places.data ? (
        <Waiting what="places" error={places.error} />
      ) : (
        <ul className="flex flex-col gap-3" aria-label="places">
          {places.data.map((place) => (
            <li key={place.id}>
              <PlaceCard
                place={place}
                job={jobs.data?.find(
                  (j) =>
                    j.kind === 'index-place' &&
                    j.subject === place.id &&
                    (j.state === 'running' || j.state === 'queued'),
                )}
              />
            </li>
          ))}
        </ul>
      )}
      {isEmpty && <p className="mt-3 text-quiet">No place yet. Without one there is nowhere to look for media.</p>}
    </div>
  );
}

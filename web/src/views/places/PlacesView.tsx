import { ListAndPanel } from '../../parts/ListAndPanel.tsx';
import { Cable } from 'lucide-react';
import { useState } from 'react';
import { useParams } from 'react-router';
import { api } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { useAsked } from '../../session/useAsked.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { showBay } from '../../session/look.ts';
import { FolderChooser } from '../../parts/FolderChooser.tsx';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { DriveBayPanel } from './DriveBayPanel.tsx';
import { PlaceCard } from './PlaceCard.tsx';
import { RoomOverview } from './RoomOverview.tsx';
import { PlacePanel } from './PlacePanel.tsx';

/** Where media may be: drives, cards, shares, folders; which are there, and what was found in them. */
export function PlacesView() {
  const { projectId = '' } = useParams();
  const places = storage.usePlacesQuery();
  const bay = storage.useDriveBayQuery();
  const jobs = api.useJobsQuery();
  const [addPlace, added] = storage.useAddPlaceMutation();
  const [adding, setAdding] = useState(false);
  const [chosen, setChosen] = useAsked('place');
  const isBayOpen = useAppSelector((state) => state.look.bay);
  const dispatch = useAppDispatch();
  const isEmpty = places.data?.length === 0;
  const shown = places.data?.find((p) => p.id === chosen);
  return (
    <ListAndPanel
      name="places"
      listClass="min-w-0 overflow-auto! p-4"
      panelSize="372px"
      panelAtMost="60%"
      panel={
        <>
          {shown ? (
            <PlacePanel key={shown.id} place={shown} onForgotten={() => setChosen(null)} />
          ) : bay.data && isBayOpen ? (
            <DriveBayPanel bay={bay.data} />
          ) : (
            <RoomOverview projectId={projectId} />
          )}
        </>
      }
    >
      <div className="mb-3 flex items-center justify-between gap-4">
        <p className="text-quiet">
          A place is searched whole. Nothing in it is ever changed or deleted. Drives that come back are noticed by
          themselves, under any path.
        </p>
        <div className="flex shrink-0 gap-2">
          {bay.data && (
            <button
              type="button"
              className="btn btn-plain btn-sm"
              aria-pressed={isBayOpen && !shown}
              title="Simulated drives of the demo: plug, unplug, fill and slow them"
              onClick={() => {
                dispatch(showBay(!isBayOpen || shown !== undefined));
                setChosen(null);
              }}
            >
              <Cable size={14} aria-hidden /> Drive bay
            </button>
          )}
          {!isEmpty && (
            <button type="button" className="btn btn-primary btn-sm" onClick={() => setAdding(!adding)}>
              {adding ? 'Close' : 'Add a place…'}
            </button>
          )}
        </div>
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
        <ul className="flex flex-col gap-2.5" aria-label="places">
          {places.data.map((place) => (
            <li key={place.id}>
              <PlaceCard
                projectId={projectId}
                place={place}
                isChosen={place.id === chosen}
                onChoose={() => setChosen(place.id === chosen ? null : place.id)}
                job={jobs.data?.find(
                  (j) =>
                    j.kind === 'index-place' &&
                    j.payload.placeId === place.id &&
                    (j.state === 'running' || j.state === 'queued'),
                )}
              />
            </li>
          ))}
        </ul>
      )}
      {isEmpty && <p className="mt-3 text-quiet">No place yet. Without one there is nowhere to look for media.</p>}
    </ListAndPanel>
  );
}

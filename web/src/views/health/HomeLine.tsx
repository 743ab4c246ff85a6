import { useState } from 'react';
import type { Health } from '@legame/core/contract';
import type { Home } from '@legame/core/health';
import type { PlaceId } from '@legame/core/model';
import { health as api } from '../../api/health.ts';
import { storage } from '../../api/storage.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

/** The folder in which all media should lie: which it is, which suggests itself, and the way to say another. */
export function HomeLine({ projectId, health: { home, proposedHome } }: { projectId: string; health: Health }) {
  const places = storage.usePlacesQuery();
  const [setHome, set] = api.useSetHomeMutation();
  const [isChoosing, setChoosing] = useState(false);
  const pathOf = ({ placeId, folder }: Home) =>
    [places.data?.find((p) => p.id === placeId)?.name ?? '', folder].filter(Boolean).join('/');
  const say = (next: Home | null) =>
    setHome({ projectId, home: next })
      .unwrap()
      .then(
        () => setChoosing(false),
        () => undefined,
      );
  const another = (label: string) => (
    <button type="button" className="btn btn-plain btn-xs" onClick={() => setChoosing(!isChoosing)}>
      {label}
    </button>
  );
  return (
    <section className="sheet mb-2.5 px-3 py-2" aria-label="home folder">
      <p className="flex flex-wrap items-baseline gap-1.5">
        {home ? (
          <>
            <span className="min-w-0 flex-1">
              Home of this project is <b className="font-mono [overflow-wrap:anywhere]">{pathOf(home)}</b>.
            </span>
            {another('Change…')}
            <button type="button" className="btn btn-plain btn-xs" onClick={() => void say(null)}>
              No home
            </button>
          </>
        ) : (
          <>
            <span className="min-w-0 flex-1">
              {proposedHome ? (
                <>
                  This project has no home folder. Most of what is used lies in{' '}
                  <b className="font-mono [overflow-wrap:anywhere]">{pathOf(proposedHome)}</b>.
                </>
              ) : (
                'This project has no home folder yet.'
              )}
            </span>
            {proposedHome && (
              <button
                type="button"
                className="btn btn-primary btn-xs"
                disabled={set.isLoading}
                onClick={() => void say(proposedHome)}
              >
                Make it home
              </button>
            )}
            {another('Another…')}
          </>
        )}
      </p>
      {isChoosing && (
        <HomeForm
          places={places.data ?? []}
          initial={home ?? proposedHome}
          isBusy={set.isLoading}
          onHome={(next) => void say(next)}
        />
      )}
      <ProblemNote error={set.error} onClose={set.reset} />
    </section>
  );
}

function HomeForm({
  places,
  initial,
  isBusy,
  onHome,
}: {
  places: readonly { readonly id: PlaceId; readonly name: string }[];
  initial: Home | null;
  isBusy: boolean;
  onHome: (home: Home) => void;
}) {
  const [placeId, setPlaceId] = useState(initial?.placeId ?? places[0]?.id);
  const [folder, setFolder] = useState(initial?.folder ?? '');
  if (!placeId) return <p className="text-quiet">Add a place at Places (g p) first.</p>;
  return (
    <form
      className="flex flex-wrap items-center gap-1.5 pt-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        onHome({ placeId, folder });
      }}
    >
      <select
        className="select select-sm w-auto"
        aria-label="place of the home folder"
        value={placeId}
        onChange={(e) => setPlaceId(e.target.value as PlaceId)}
      >
        {places.map((place) => (
          <option key={place.id} value={place.id}>
            {place.name}
          </option>
        ))}
      </select>
      <input
        className="input input-sm min-w-40 flex-1 font-mono"
        aria-label="folder in it"
        placeholder="folder in it; empty for the place itself"
        value={folder}
        onChange={(e) => setFolder(e.target.value)}
      />
      <button type="submit" className="btn btn-plain btn-sm" disabled={isBusy}>
        Make it home
      </button>
    </form>
  );
}

import { useState } from 'react';
import type { PlaceId } from '@legame/core/model';
import { storage } from '../api/storage.ts';

type FolderOfPlace = { readonly placeId: PlaceId; readonly folder: string };

/** One folder of a place: which place, and which folder in it. */
export function FolderOfPlaceForm({
  of,
  verb,
  initial,
  isBusy,
  onFolder,
}: {
  /** What it is for, for whoever cannot see it. */
  of: string;
  verb: string;
  initial: FolderOfPlace | null;
  isBusy: boolean;
  onFolder: (chosen: FolderOfPlace) => void;
}) {
  const places = storage.usePlacesQuery().data ?? [];
  const [chosen, setChosen] = useState<PlaceId | null>(initial?.placeId ?? null);
  const [folder, setFolder] = useState(initial?.folder ?? '');
  const placeId = chosen ?? places[0]?.id;
  if (!placeId) return <p className="text-quiet">Add a place at Places (g p) first.</p>;
  return (
    <form
      className="flex flex-wrap items-center gap-1.5 pt-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        onFolder({ placeId, folder });
      }}
    >
      <select
        className="select select-sm w-auto"
        aria-label={`place of ${of}`}
        value={placeId}
        onChange={(e) => setChosen(e.target.value as PlaceId)}
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
        placeholder="folder in it, or none"
        value={folder}
        onChange={(e) => setFolder(e.target.value)}
      />
      <button type="submit" className="btn btn-plain btn-sm" disabled={isBusy}>
        {verb}
      </button>
    </form>
  );
}

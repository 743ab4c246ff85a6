import { useState } from 'react';
import type { MatchRules } from '@legame/core/match';
import type { PlaceView } from '@legame/core/contract';
import { api } from '../../api/legame.ts';

type Within = MatchRules['within'];

/** Where matching looks: everywhere, or in chosen places or folders and all below them. */
export function SearchedFolders({
  places,
  within,
  onChange,
}: {
  places: readonly PlaceView[];
  within: Within;
  onChange: (within: Within) => void;
}) {
  const [adding, setAdding] = useState<{ placeId: string; folder: string } | null>(null);
  const names = new Map<string, string>(places.map((p) => [p.id, p.name]));
  return (
    <div className="mt-2">
      <div className="flex flex-wrap items-center gap-1.5">
        <span className="text-quiet">Look in:</span>
        {within === null && <span>all places</span>}
        {within?.map((w, i) => (
          <button
            key={i}
            type="button"
            className="rounded border border-base-300 px-1.5 font-mono"
            title="take it out again"
            onClick={() => {
              const rest = within.filter((_, at) => at !== i);
              onChange(rest.length ? rest : null);
            }}
          >
            {[names.get(w.placeId) ?? '?', w.folder].filter(Boolean).join('/')} ×
          </button>
        ))}
        {!adding && places[0] && (
          <button
            type="button"
            className="btn btn-plain btn-xs"
            onClick={() => setAdding({ placeId: places[0]!.id, folder: '' })}
          >
            {within ? 'Another…' : 'Only in…'}
          </button>
        )}
      </div>
      {adding && (
        <FolderPick
          places={places}
          at={adding}
          onMove={setAdding}
          onClose={() => setAdding(null)}
          onTake={() => {
            const placeId = places.find((p) => p.id === adding.placeId)!.id;
            onChange([...(within ?? []), { placeId, folder: adding.folder }]);
            setAdding(null);
          }}
        />
      )}
    </div>
  );
}

function FolderPick({
  places,
  at,
  onMove,
  onTake,
  onClose,
}: {
  places: readonly PlaceView[];
  at: { placeId: string; folder: string };
  onMove: (at: { placeId: string; folder: string }) => void;
  onTake: () => void;
  onClose: () => void;
}) {
  const files = api.usePlaceFilesQuery(at);
  const up = at.folder.split('/').slice(0, -1).join('/');
  return (
    <div className="mt-1 rounded border border-base-300 p-2">
      <select
        className="select select-sm w-full"
        aria-label="place"
        value={at.placeId}
        onChange={(e) => onMove({ placeId: e.target.value, folder: '' })}
      >
        {places.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </select>
      <p className="mt-1 truncate font-mono" title={at.folder}>
        {at.folder || 'the whole place'}
      </p>
      <ul className="max-h-32 overflow-auto">
        {at.folder && (
          <li>
            <button type="button" className="font-mono hover:underline" onClick={() => onMove({ ...at, folder: up })}>
              ..
            </button>
          </li>
        )}
        {files.currentData?.folders.map((folder) => (
          <li key={folder}>
            <button
              type="button"
              className="font-mono hover:underline"
              onClick={() => onMove({ ...at, folder: at.folder ? `${at.folder}/${folder}` : folder })}
            >
              {folder}/
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-1 flex gap-1.5">
        <button type="button" className="btn btn-plain btn-xs" onClick={onTake}>
          Look here and below
        </button>
        <button type="button" className="btn btn-plain btn-xs" onClick={onClose}>
          Close
        </button>
      </div>
    </div>
  );
}

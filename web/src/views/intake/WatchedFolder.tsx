import { useState } from 'react';
import type { NewerDocument, Watched } from '@legame/core/contract';
import type { Home } from '@legame/core/health';
import { changesText } from '@legame/words/documents';
import { count, when } from '@legame/words/numbers';
import { api } from '../../api/legame.ts';
import { watched as watchedApi } from '../../api/watched.ts';
import { FolderOfPlaceForm } from '../../parts/FolderOfPlaceForm.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

/** Where newer versions of what was brought in are looked for, and what is there. */
export function WatchedFolder({ projectId, onBroughtIn }: { projectId: string; onBroughtIn: (id: string) => void }) {
  const { data, error } = watchedApi.useWatchedQuery(projectId);
  const [watch, watching] = watchedApi.useWatchFolderMutation();
  const [isChoosing, setChoosing] = useState(false);
  if (!data) return <ProblemNote error={error} />;
  const say = (folder: Home | null) =>
    void watch({ projectId, folder })
      .unwrap()
      .then(
        () => setChoosing(false),
        // What went wrong is shown below.
        () => undefined,
      );
  const { folder, newer } = data;
  return (
    <section className="mt-3" aria-label="watched folder">
      <p className="flex flex-wrap items-baseline gap-1.5 text-quiet">
        <span className="min-w-0 flex-1">
          <WhereLooked watched={data} />
        </span>
        <button type="button" className="btn btn-plain btn-xs" onClick={() => setChoosing(!isChoosing)}>
          {folder ? 'Another folder…' : 'Watch a folder…'}
        </button>
        {folder && (
          <button type="button" className="btn btn-plain btn-xs" onClick={() => say(null)}>
            Watch no more
          </button>
        )}
      </p>
      {isChoosing && (
        <FolderOfPlaceForm
          of="the watched folder"
          verb="Watch it"
          initial={folder}
          isBusy={watching.isLoading}
          onFolder={say}
        />
      )}
      <ProblemNote error={watching.error ?? error} onClose={watching.reset} />
      {folder && newer.length > 0 && (
        <ul className="mt-1.5 flex flex-col gap-2" aria-label="newer versions">
          {newer.map((one) => (
            <li key={`${one.path} ${one.modifiedAt}`}>
              <Newer projectId={projectId} placeId={folder.placeId} newer={one} onBroughtIn={onBroughtIn} />
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function WhereLooked({ watched: { folder, isThere, documents, newer } }: { watched: Watched }) {
  if (!folder) return 'No folder is watched for newer versions of what was brought in.';
  const path = (
    <b className="font-mono [overflow-wrap:anywhere]">{[folder.placeName, folder.folder].filter(Boolean).join('/')}</b>
  );
  if (!isThere) return <>{path} is watched for newer versions; it is not there now.</>;
  return (
    <>
      {path} is watched for newer versions: {count(documents, 'document')} there,{' '}
      {newer.length === 0 ? 'none newer.' : `${newer.length} newer.`}
    </>
  );
}

/** One that may be newer than one that was brought in: what it would change, and the one click that brings it in. */
function Newer({
  projectId,
  placeId,
  newer: { path, name, modifiedAt, replaces },
  onBroughtIn,
}: {
  projectId: string;
  placeId: string;
  newer: NewerDocument;
  onBroughtIn: (id: string) => void;
}) {
  const changes = watchedApi.useWouldChangeQuery({ projectId, path, replaces: replaces.id, version: modifiedAt });
  const [bringIn, bringing] = api.useBringInFromPlaceMutation();
  const [passOver, passing] = watchedApi.usePassOverMutation();
  return (
    <article className="sheet flex items-start gap-3 border-primary p-3" aria-label={`newer: ${name}`}>
      <div className="min-w-0 flex-1">
        <b className="font-mono [overflow-wrap:anywhere]">{name}</b>
        <span className="block text-quiet">
          written {when(modifiedAt)}; newer than{' '}
          <span className="font-mono [overflow-wrap:anywhere]">
            {replaces.name === name ? 'what was brought in' : replaces.name}
          </span>
        </span>
        <span className="block" role="status">
          {changes.data ? changesText(changes.data) : changes.error ? '' : 'Comparing…'}
        </span>
        <ProblemNote error={changes.error ?? bringing.error ?? passing.error} />
      </div>
      <div className="flex shrink-0 flex-col gap-1.5">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={bringing.isLoading}
          onClick={() =>
            void bringIn({ projectId, placeId, path, reading: {}, replaces: replaces.id })
              .unwrap()
              .then(
                (document) => onBroughtIn(document.id),
                // What went wrong is shown beside it.
                () => undefined,
              )
          }
        >
          Bring it in
        </button>
        <button
          type="button"
          className="btn btn-plain btn-sm"
          disabled={passing.isLoading}
          title="It is not told again, unless it is written over"
          onClick={() => void passOver({ projectId, path })}
        >
          Not this one
        </button>
      </div>
    </article>
  );
}

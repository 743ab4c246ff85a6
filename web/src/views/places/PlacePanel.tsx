import { useState } from 'react';
import { formatPosition } from '@legame/core/time';
import { placeChangeSchema, type PlaceView } from '@legame/core/contract';
import { storage } from '../../api/storage.ts';
import { FolderChooser } from '../../parts/FolderChooser.tsx';
import { NameForm } from '../../parts/NameForm.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { bytes, count, when } from '@legame/words/numbers';
import { placeState, remedyWords, skippedWords, unreadableWords } from '@legame/words/storage';

/** One place in full: what cannot be used and why, recordings of several files, what is left out, its memory. */
export function PlacePanel({ place, onForgotten }: { place: PlaceView; onForgotten: () => void }) {
  return (
    <section className="flex h-full flex-col gap-5 overflow-auto p-3.5" aria-label="place in full">
      <header>
        <h2 className="text-[15px] font-semibold">{place.name}</h2>
        <p className="text-quiet">
          {placeState(place)} · <span className="font-mono [overflow-wrap:anywhere]">{place.path}</span>
        </p>
      </header>
      {!place.there && <WhereItIs place={place} />}
      <Trouble place={place} />
      <Recordings place={place} />
      <LeftOut place={place} />
      <Memory place={place} />
      <Forget place={place} onForgotten={onForgotten} />
    </section>
  );
}

/** For a drive that was not recognised by itself: a person says where it is. */
function WhereItIs({ place }: { place: PlaceView }) {
  const [change, changed] = storage.useChangePlaceMutation();
  const [choosing, setChoosing] = useState(false);
  return (
    <div>
      {place.awayBecause === 'another-drive' && (
        <button
          type="button"
          className="btn btn-plain btn-sm mr-2"
          disabled={changed.isLoading}
          onClick={() => void change({ id: place.id, isSame: true })}
        >
          It is this place all the same
        </button>
      )}
      <button type="button" className="btn btn-plain btn-sm" onClick={() => setChoosing(!choosing)}>
        {choosing ? 'Close' : 'It lies elsewhere now…'}
      </button>
      {choosing && (
        <div className="mt-2">
          <FolderChooser
            verb={`This is ${place.name}`}
            onChoose={(path) =>
              void change({ id: place.id, path })
                .unwrap()
                .then(() => setChoosing(false))
                .catch(() => undefined)
            }
          />
        </div>
      )}
      <ProblemNote error={changed.error} onClose={changed.reset} />
    </div>
  );
}

function Trouble({ place }: { place: PlaceView }) {
  const { data, error } = storage.useTroubleQuery(place.id);
  const [reread, reading] = storage.useRereadMutation();
  if (!data) return <ProblemNote error={error} />;
  return (
    <div>
      <div className="flex items-baseline justify-between">
        <h3 className="font-semibold">
          {data.length === 0 ? 'Every file that was read can be used' : `${count(data.length, 'file')} cannot be used`}
        </h3>
        {data.length > 1 && (
          <button
            type="button"
            className="btn btn-plain btn-xs"
            disabled={reading.isLoading || !place.there}
            onClick={() => void reread({ mediaFileIds: data.map((f) => f.mediaFileId) })}
          >
            Read all {data.length} again
          </button>
        )}
      </div>
      <ul aria-label="files that cannot be used">
        {data.map((file) => (
          <li key={file.mediaFileId} className="line-b py-2">
            <div className="flex items-baseline justify-between gap-2">
              <span
                className="font-mono font-semibold [overflow-wrap:anywhere]"
                title={[place.name, file.folder, file.name].filter(Boolean).join('/')}
              >
                {file.name}
              </span>
              <button
                type="button"
                className="btn btn-plain btn-xs shrink-0"
                disabled={reading.isLoading || !place.there}
                onClick={() => void reread({ mediaFileIds: [file.mediaFileId] })}
              >
                Read again
              </button>
            </div>
            {file.folder && <p className="font-mono text-[12px] text-quiet">{file.folder}</p>}
            <p className="text-unreadable [overflow-wrap:anywhere] first-letter:uppercase">
              {unreadableWords(file.reason)}
            </p>
            <p className="text-quiet">
              {remedyWords(file.reason)}
              {file.quarantined && ' Set apart.'}
            </p>
          </li>
        ))}
      </ul>
      <ProblemNote error={reading.error} onClose={reading.reset} />
    </div>
  );
}

function Recordings({ place }: { place: PlaceView }) {
  const { data } = storage.useRecordingsQuery(place.id);
  if (!data || data.length === 0) return null;
  return (
    <div>
      <h3 className="font-semibold">{count(data.length, 'recording')} of several files</h3>
      <ul>
        {data.map((recording) => (
          <li key={`${recording.folder}/${recording.name}`} className="line-b py-1.5">
            <span className="font-mono">{recording.name}</span>
            <p className="text-quiet">
              {count(recording.parts.length, 'part')},{' '}
              <span className="font-mono">
                {formatPosition(recording.range.start, recording.rate, recording.counting)}–
                {formatPosition(recording.range.end, recording.rate, recording.counting)}
              </span>
              , without a gap
            </p>
            <p className="font-mono text-[12px] text-quiet">{recording.parts.map((p) => p.name).join(' · ')}</p>
          </li>
        ))}
      </ul>
    </div>
  );
}

function LeftOut({ place }: { place: PlaceView }) {
  const [change, changed] = storage.useChangePlaceMutation();
  const skipped = place.skipped ? skippedWords(place.skipped) : [];
  const save = (excluded: string[]) => change({ id: place.id, excluded }).unwrap();
  return (
    <div>
      <h3 className="font-semibold">Left out of the index</h3>
      <p className="text-quiet">{skipped.length ? `${skipped.join(' · ')}.` : 'Nothing was passed over.'}</p>
      {place.skipped && place.skipped.unlisted.length > 0 && (
        <p className="font-mono text-[12px] [overflow-wrap:anywhere]">{place.skipped.unlisted.join(' · ')}</p>
      )}
      <ul className="mt-1 flex flex-wrap gap-1.5" aria-label="patterns">
        {place.excluded.map((pattern) => (
          <li key={pattern} className="rounded border border-base-300 px-1.5 font-mono">
            {pattern}{' '}
            <button
              type="button"
              aria-label={`no longer leave out ${pattern}`}
              onClick={() => void save(place.excluded.filter((p) => p !== pattern)).catch(() => undefined)}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      <NameForm
        className="mt-1"
        size="xs"
        inputClass="flex-1 font-mono"
        schema={placeChangeSchema.shape.excluded.unwrap().unwrap().element}
        label="pattern to leave out"
        hint="*.tmp or proxies/**"
        verb="Leave out"
        busy={changed.isLoading}
        onName={(pattern) => save([...new Set([...place.excluded, pattern])])}
      />
      <ProblemNote error={changed.error} onClose={changed.reset} />
    </div>
  );
}

/** What is remembered of a place can be measured anew, or set aside under a date and brought back. */
function Memory({ place }: { place: PlaceView }) {
  const archives = storage.useArchivesQuery(place.id);
  const [reread, reading] = storage.useRereadMutation();
  const [setAside, setting] = storage.useSetIndexAsideMutation();
  const [setAllAside, settingAll] = storage.useSetAllAsideMutation();
  const [restore, restoring] = storage.useRestoreIndexMutation();
  const isBusy = reading.isLoading || setting.isLoading || settingAll.isLoading || restoring.isLoading;
  return (
    <div>
      <h3 className="font-semibold">What is remembered of it</h3>
      <p className="text-quiet">
        Facts of {count(place.files - place.unread, 'file')}, {bytes(place.sizeInBytes)}. Links stay in any case.
      </p>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        <button
          type="button"
          className="btn btn-plain btn-sm"
          disabled={isBusy || !place.there}
          title="Forget what was measured, and measure every file again"
          onClick={() => void reread({ placeId: place.id, folder: '' })}
        >
          Read all again
        </button>
        <button
          type="button"
          className="btn btn-plain btn-sm"
          disabled={isBusy}
          title="Keep what was measured under today's date, and build the index anew"
          onClick={() => void setAside(place.id)}
        >
          Set the index aside
        </button>
        <button
          type="button"
          className="btn btn-plain btn-sm"
          disabled={isBusy}
          title="The same for every place, in one act; they come back in one, too"
          onClick={() => void setAllAside()}
        >
          …of all places
        </button>
      </div>
      <ul className="mt-1.5" aria-label="indexes set aside">
        {archives.data?.map((archive) => (
          <li key={archive.id} className="flex items-center justify-between gap-2 py-0.5">
            <span>
              {when(archive.setAsideAt)} · {count(archive.files, 'file')}
              {archive.places > 1 && ` · with ${count(archive.places - 1, 'other place')}`}
            </span>
            <button
              type="button"
              className="btn btn-plain btn-xs"
              disabled={isBusy}
              onClick={() => void restore(archive.id)}
            >
              Bring back
            </button>
          </li>
        ))}
      </ul>
      {restoring.data && <p role="status">Brought back for {count(restoring.data.files, 'file')}.</p>}
      <ProblemNote error={reading.error ?? setting.error ?? settingAll.error ?? restoring.error} />
    </div>
  );
}

function Forget({ place, onForgotten }: { place: PlaceView; onForgotten: () => void }) {
  const [forget, forgotten] = storage.useForgetPlaceMutation();
  const [asking, setAsking] = useState(false);
  return (
    <div className="line-t pt-3">
      <button type="button" className="btn btn-plain btn-sm" onClick={() => setAsking(!asking)}>
        Forget…
      </button>
      {asking && (
        <div className="mt-2">
          <p className="mb-1">Links into it are gone with it, and its index. Its files are not touched.</p>
          <button
            type="button"
            className="btn btn-error btn-sm"
            disabled={forgotten.isLoading}
            onClick={() =>
              void forget(place.id)
                .unwrap()
                .then(onForgotten)
                .catch(() => undefined)
            }
          >
            Forget {place.name}
          </button>
        </div>
      )}
      <ProblemNote error={forgotten.error} onClose={forgotten.reset} />
    </div>
  );
}

import { HardDrive, Unplug, X } from 'lucide-react';
import { useState } from 'react';
import { defaultHeadroomShare } from '@legame/core';
import type { Job, PlaceView } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { JobProgress } from '../../parts/JobProgress.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { bytes, count, when } from '../../words/numbers.ts';

export function PlaceCard({ place, job }: { place: PlaceView; job: Job | undefined }) {
  const [index, indexing] = api.useIndexPlaceMutation();
  const [forget, forgotten] = api.useForgetPlaceMutation();
  const [asking, setAsking] = useState(false);
  return (
    <article
      className={`sheet grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_240px] gap-5 p-3 ${place.there ? '' : 'border-dashed'}`}
    >
      <div className="min-w-0">
        <div className="flex items-center gap-2">
          {place.there ? (
            <HardDrive size={16} className="text-linked" aria-hidden />
          ) : (
            <Unplug size={16} className="text-missing" aria-hidden />
          )}
          <b className="text-[15px]">{place.name}</b>
          <span className={place.there ? 'text-linked' : 'font-semibold text-missing'}>
            {place.there ? 'there' : 'not plugged in'}
          </span>
        </div>
        <p className="font-mono text-quiet [overflow-wrap:anywhere]">{place.path}</p>
        <AlsoKnownAs place={place} />
      </div>
      <div>
        <p>
          {count(place.files, 'media file')}, {bytes(place.sizeInBytes)}
          {place.unread > 0 && <span className="text-changed"> · {place.unread} still to be read</span>}
          {place.unreadable > 0 && <span className="text-unreadable"> · {place.unreadable} unreadable</span>}
        </p>
        <p className="text-quiet">{place.indexedAt ? `indexed ${when(place.indexedAt)}` : 'not indexed yet'}</p>
        {place.room && <RoomBar {...place.room} />}
        {!place.there && (
          <p className="mt-1">What is known of it stays. Clips that lie here come back by themselves when it does.</p>
        )}
      </div>
      <div className="flex flex-col items-end gap-2">
        {job ? (
          <div className="w-full">
            <JobProgress job={job} />
          </div>
        ) : (
          <div className="flex gap-2">
            {place.there && (
              <button
                type="button"
                className="btn btn-plain btn-sm"
                disabled={indexing.isLoading}
                onClick={() => void index(place.id)}
                title="Look for new and changed files; only those are read again"
              >
                Index again
              </button>
            )}
            <button type="button" className="btn btn-plain btn-sm" onClick={() => setAsking(!asking)}>
              Forget…
            </button>
          </div>
        )}
        {asking && (
          <div className="text-right">
            <p className="mb-1">Links into it are gone with it, and its index. Its files are not touched.</p>
            <button
              type="button"
              className="btn btn-error btn-sm"
              disabled={forgotten.isLoading}
              onClick={() => void forget(place.id)}
            >
              Forget {place.name}
            </button>
          </div>
        )}
        <ProblemNote error={indexing.error ?? forgotten.error} onClose={indexing.reset} />
      </div>
    </article>
  );
}

/** The names other machines know a place by; an edit's remembered paths are understood through them. */
function AlsoKnownAs({ place }: { place: PlaceView }) {
  const [change, changed] = api.useChangePlaceMutation();
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
      {place.knownAs.map((name) => (
        <span key={name} className="inline-flex items-center gap-1 rounded border border-base-300 px-1.5 font-mono">
          {name}
          <button
            type="button"
            aria-label={`remove the name ${name}`}
            onClick={() => save(place.knownAs.filter((n) => n !== name))}
          >
            <X size={11} />
          </button>
        </span>
      ))}
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
          className="input input-xs w-28 font-mono"
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

/** Free room of a drive, with the line below which it should not be filled. */
export function RoomBar({
  freeInBytes,
  totalInBytes,
  plannedInBytes = 0,
}: {
  freeInBytes: number;
  totalInBytes: number;
  plannedInBytes?: number;
}) {
  if (totalInBytes === 0) return null;
  const used = ((totalInBytes - freeInBytes) / totalInBytes) * 100;
  const planned = (plannedInBytes / totalInBytes) * 100;
  return (
    <div className="mt-1.5">
      <div className="relative h-2 overflow-hidden rounded-[2px] border border-base-300 bg-base-100">
        <div className="absolute h-full bg-base-content/35" style={{ width: `${used}%` }} />
        <div
          className="absolute h-full bg-primary"
          style={{ left: `${used}%`, width: `${plannedInBytes > 0 ? Math.max(planned, 0.5) : 0}%` }}
        />
        <div
          className="absolute h-full w-px bg-changed"
          style={{ left: `${(1 - defaultHeadroomShare) * 100}%` }}
          title={`${defaultHeadroomShare * 100} % headroom is kept free`}
        />
      </div>
      <span className="text-[12px] text-quiet">
        {bytes(freeInBytes)} free of {bytes(totalInBytes)}
      </span>
    </div>
  );
}

import { HardDrive, LayoutGrid, Unplug } from 'lucide-react';
import { Link } from 'react-router';
import type { Job, PlaceView } from '@legame/core/contract';
import { storage } from '../../api/storage.ts';
import { JobProgress } from '../../parts/JobProgress.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { bytes, count, when } from '@legame/words/numbers';
import { placeSentence, placeState } from '@legame/words/storage';
import { PlaceNames } from './PlaceNames.tsx';
import { RoomBar } from './RoomBar.tsx';

/** What is not known has no colour that says more. */
const stateText = ({ there, slow, silent }: PlaceView): string => {
  if (silent) return 'text-quiet';
  if (!there) return 'font-semibold text-missing';
  return slow ? 'text-changed' : 'text-linked';
};

/** One place: is it there, what lies in it, how full it is. Choosing it shows it in full beside. */
export function PlaceCard({
  projectId,
  place,
  job,
  isChosen,
  onChoose,
}: {
  projectId: string;
  place: PlaceView;
  job: Job | undefined;
  isChosen: boolean;
  onChoose: () => void;
}) {
  const [index, indexing] = storage.useIndexPlaceMutation();
  const sentence = placeSentence(place);
  return (
    <article
      aria-label={place.name}
      className={`sheet grid grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)_auto] gap-x-5 gap-y-1 p-3 ${place.there ? '' : 'border-dashed'} ${isChosen ? 'border-l-[3px] border-l-primary!' : ''}`}
    >
      <div className="min-w-0">
        <button type="button" className="flex items-center gap-2 text-left" aria-pressed={isChosen} onClick={onChoose}>
          {place.there ? (
            <HardDrive size={16} className="text-linked" aria-hidden />
          ) : (
            <Unplug size={16} className="text-missing" aria-hidden />
          )}
          <b className="text-[15px] hover:underline">{place.name}</b>
          <span className={stateText(place)}>{placeState(place)}</span>
        </button>
        <p className="font-mono text-quiet [overflow-wrap:anywhere]">{place.path}</p>
        {place.movedFrom && place.movedFrom !== place.path && (
          <p className="text-linked">
            Recognised: it lay at <span className="font-mono">{place.movedFrom}</span> before.
          </p>
        )}
        <PlaceNames place={place} />
      </div>
      <div>
        <p>
          {count(place.files, 'file')}, {bytes(place.sizeInBytes)}
          {place.unread > 0 && <span className="text-changed"> · {place.unread} still to be read</span>}
          {place.unreadable > 0 && (
            <>
              {' · '}
              <button type="button" className="text-unreadable underline underline-offset-2" onClick={onChoose}>
                {place.unreadable} cannot be used
              </button>
            </>
          )}
        </p>
        <p className="text-quiet">{place.indexedAt ? `indexed ${when(place.indexedAt)}` : 'not indexed yet'}</p>
        {place.room && <RoomBar {...place.room} />}
        {sentence && <p className="mt-1">{sentence}</p>}
      </div>
      <div className="flex w-[150px] flex-col items-stretch gap-1.5">
        {job ? (
          <JobProgress job={job} />
        ) : (
          place.there && (
            <button
              type="button"
              className="btn btn-plain btn-sm"
              disabled={indexing.isLoading}
              onClick={() => void index({ id: place.id })}
              title="Look for new and changed files; only those are read again"
            >
              Index again
            </button>
          )
        )}
        <Link to={`/projects/${projectId}/places/${place.id}/room`} className="btn btn-plain btn-sm">
          <LayoutGrid size={13} aria-hidden /> Room map
        </Link>
        <ProblemNote error={indexing.error} onClose={indexing.reset} />
      </div>
    </article>
  );
}

import { useState } from 'react';
import type { Health } from '@legame/core/contract';
import { parentOf } from '@legame/core/folders';
import type { Home } from '@legame/core/health';
import { folders } from '../../api/folders.ts';
import { health as api } from '../../api/health.ts';
import { storage } from '../../api/storage.ts';
import { FolderOfPlaceForm } from '../../parts/FolderOfPlaceForm.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

/** The folder in which all media should lie: which it is, which suggests itself, and the way to say another. */
export function HomeLine({
  projectId,
  health: { home, proposedHome },
  onFolders,
}: {
  projectId: string;
  health: Health;
  onFolders: () => void;
}) {
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
      <Folders projectId={projectId} onFolders={onFolders} />
      {isChoosing && (
        <FolderOfPlaceForm
          of="the home folder"
          verb="Make it home"
          initial={home ?? proposedHome}
          isBusy={set.isLoading}
          onFolder={(next) => void say(next)}
        />
      )}
      <ProblemNote error={set.error} onClose={set.reset} />
    </section>
  );
}

/** The folders in it, and the way to say others. */
function Folders({ projectId, onFolders }: { projectId: string; onFolders: () => void }) {
  const { data } = folders.useFolderTemplateQuery(projectId);
  if (!data) return null;
  const top = data.template.filter((f) => parentOf(f.path) === '').map((f) => f.path);
  return (
    <p className="flex flex-wrap items-baseline gap-1.5 pt-1">
      <span className="min-w-0 flex-1 text-quiet">
        Its folders{data.isOwn ? '' : ', as every project has them'}:{' '}
        <span className="font-mono [overflow-wrap:anywhere]">{top.join(' · ')}</span>
      </span>
      <button type="button" className="btn btn-plain btn-xs" onClick={onFolders}>
        Folders…
      </button>
    </p>
  );
}

import { useState } from 'react';
import { toast } from 'sonner';
import type { FolderState } from '@legame/core/contract';
import type { Home } from '@legame/core/health';
import { folderStateWords } from '@legame/words/folders';
import { count } from '@legame/words/numbers';
import { folders } from '../../api/folders.ts';
import { FolderOfPlaceForm } from '../../parts/FolderOfPlaceForm.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

/** What was asked for lies below what asked. */
const intoSight = (list: HTMLElement | null) => list?.parentElement?.scrollIntoView?.({ block: 'end' });

/** Makes the folders of a project somewhere, after it was shown which are there already. */
export function MakeFolders({ projectId, home }: { projectId: string; home: Home | null }) {
  const [at, setAt] = useState<Home | null>(null);
  const found = folders.useFoldersAtQuery({ projectId, ...at! }, { skip: !at, refetchOnMountOrArgChange: true });
  const [make, made] = folders.useMakeFoldersMutation();
  const lie = at ? found.currentData?.folders : undefined;
  const are = (state: FolderState) => lie?.filter((f) => f.is === state) ?? [];
  const [absent, blocked] = [are('absent'), are('file-there')];
  return (
    <section className="line-t px-3 py-2" aria-label="make the folders">
      <h4 className="font-semibold">Make them in a place</h4>
      <p className="text-quiet">Empty folders, nothing else; those that are there stay as they are.</p>
      <FolderOfPlaceForm
        of="the folders"
        verb="Look there"
        initial={home}
        isBusy={found.isFetching}
        onFolder={(next) => setAt({ ...next })}
      />
      <ProblemNote error={at ? (made.error ?? found.error) : undefined} onClose={() => setAt(null)} />
      {lie && (
        <>
          <ul className="pt-1.5" aria-label="folders there" ref={intoSight}>
            {lie.map(({ path, is }) => (
              <li key={path} className="flex gap-2">
                <span className="min-w-0 flex-1 truncate font-mono" title={path}>
                  {path}
                </span>
                <span className={is === 'file-there' ? 'text-missing' : 'text-quiet'}>{folderStateWords[is]}</span>
              </li>
            ))}
          </ul>
          <button
            type="button"
            className="btn btn-primary btn-sm mt-2"
            disabled={absent.length === 0 || blocked.length > 0 || made.isLoading || found.isFetching}
            onClick={() =>
              void make({ projectId, ...at! })
                .unwrap()
                .then(() => toast(`${count(absent.length, 'folder')} made.`))
                .catch(() => undefined)
            }
          >
            {absent.length === 0 ? 'All are there' : `Make ${count(absent.length, 'folder')}`}
          </button>
        </>
      )}
    </section>
  );
}

import { ChevronUp, Folder } from 'lucide-react';
import { useState } from 'react';
import { api } from '../api/legame.ts';
import { ProblemNote } from './ProblemNote.tsx';

/** Chooses a folder of this machine, from the allowed roots down; a path can be typed as well. */
export function FolderChooser({ verb, onChoose }: { verb: string; onChoose: (path: string) => void }) {
  const [path, setPath] = useState('');
  const [typed, setTyped] = useState('');
  const { data, error, isFetching } = api.useFoldersQuery(path, { refetchOnMountOrArgChange: true });
  const here = typed.trim() || data?.path || '';
  const go = (to: string) => {
    setPath(to);
    setTyped(to);
  };
  return (
    <div className="sheet flex flex-col">
      <form
        className="line-b flex items-center gap-2 p-2"
        onSubmit={(event) => {
          event.preventDefault();
          setPath(typed.trim());
        }}
      >
        <button
          type="button"
          className="btn btn-plain btn-sm"
          disabled={!data || data.parent === null}
          onClick={() => go(data?.parent ?? '')}
          aria-label="up one folder"
        >
          <ChevronUp size={14} />
        </button>
        <input
          className="input input-sm min-w-0 flex-1 font-mono"
          value={typed}
          placeholder="/path/to/a/folder"
          aria-label="folder path"
          onChange={(e) => setTyped(e.target.value)}
        />
        <button type="button" className="btn btn-primary btn-sm" disabled={!here} onClick={() => onChoose(here)}>
          {verb}
        </button>
      </form>
      {error ? (
        <div className="p-2">
          <ProblemNote error={error} />
        </div>
      ) : (
        <ul className="max-h-52 overflow-auto p-1" aria-label="folders">
          {data?.folders.map((folder) => (
            <li key={folder.path}>
              <button
                type="button"
                className="flex w-full items-center gap-2 rounded px-2 py-1 text-left hover:bg-[var(--bond-wash)]"
                onClick={() => go(folder.path)}
              >
                <Folder size={14} className="shrink-0 text-quiet" aria-hidden />
                <span className="font-mono [overflow-wrap:anywhere]">{folder.name}</span>
              </button>
            </li>
          ))}
          {data && data.folders.length === 0 && (
            <li className="px-2 py-1 text-quiet">No folders in here.{path && ' This one can be chosen.'}</li>
          )}
          {!data && isFetching && <li className="px-2 py-1 text-quiet">Looking…</li>}
        </ul>
      )}
    </div>
  );
}

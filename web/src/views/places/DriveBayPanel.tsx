import { useState } from 'react';
import { driveChangeSchema, type DriveBay } from '@legame/core/contract';
import { storage } from '../../api/storage.ts';
import { NameForm } from '../../parts/NameForm.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { bytes } from '@legame/words/numbers';

type Drive = DriveBay['drives'][number];
const conditions = [
  ['readOnly', 'read-only'],
  ['full', 'full'],
  ['slow', 'slow'],
  ['stalling', 'stalling'],
] as const;
const shelfTitles = { recycle: 'Recycle shelf', vault: 'Tape vault' } as const;

/** The simulated drives of the demo: what happens to real ones can be tried here, and looks the same to all the rest. */
export function DriveBayPanel({ bay }: { bay: DriveBay }) {
  const [ask, asked] = storage.useAskShelfMutation();
  return (
    <section className="flex h-full flex-col gap-4 overflow-auto p-3.5" aria-label="drive bay">
      <header>
        <h2 className="text-[15px] font-semibold">Drive bay</h2>
        <p className="text-quiet">
          Simulated drives, for trying what storage does to an edit. Everything else takes them for real.
        </p>
      </header>
      <ul aria-label="drives">
        {bay.drives.map((drive) => (
          <DriveRow key={drive.name} drive={drive} />
        ))}
      </ul>
      {(['recycle', 'vault'] as const).map((shelf) => {
        const files = bay.shelved.filter((f) => f.shelf === shelf);
        return (
          <div key={shelf}>
            <h3 className="font-semibold">{shelfTitles[shelf]}</h3>
            {files.length === 0 && <p className="text-quiet">Nothing on it.</p>}
            <ul aria-label={shelfTitles[shelf]}>
              {files.map((file) => (
                <li key={file.path} className="line-b flex items-center justify-between gap-2 py-1.5">
                  <span className="min-w-0">
                    <span className="block font-mono [overflow-wrap:anywhere]">{file.path.split('/').at(-1)}</span>
                    <span className="block font-mono text-[12px] text-quiet [overflow-wrap:anywhere]">
                      from {file.path.split('/').slice(0, -1).join('/')} · {bytes(file.sizeInBytes)}
                    </span>
                  </span>
                  <button
                    type="button"
                    className="btn btn-plain btn-xs shrink-0"
                    disabled={file.coming || asked.isLoading}
                    onClick={() => void ask({ shelf, path: file.path })}
                  >
                    {file.coming ? 'On its way…' : 'Ask for it'}
                  </button>
                </li>
              ))}
            </ul>
          </div>
        );
      })}
      <ProblemNote error={asked.error} onClose={asked.reset} />
    </section>
  );
}

function DriveRow({ drive }: { drive: Drive }) {
  const [change, changed] = storage.useChangeDriveMutation();
  const [isNaming, setNaming] = useState(false);
  return (
    <li className="line-b py-2" aria-label={drive.name}>
      <div className="flex items-center gap-2">
        {isNaming ? (
          <div className="flex-1" onKeyDown={(e) => e.key === 'Escape' && setNaming(false)}>
            <NameForm
              size="xs"
              inputClass="flex-1 font-mono"
              schema={driveChangeSchema.shape.name.unwrap()}
              label={`new name of ${drive.name}`}
              hint={drive.name}
              initial={drive.name}
              focused
              verb="Rename"
              busy={changed.isLoading}
              onName={(name) =>
                change({ drive: drive.name, name })
                  .unwrap()
                  .then(() => setNaming(false))
              }
            />
          </div>
        ) : (
          <>
            <b className="flex-1 font-mono">{drive.name}</b>
            <button type="button" className="btn btn-ghost btn-xs" onClick={() => setNaming(true)}>
              Rename…
            </button>
          </>
        )}
        <button
          type="button"
          className="btn btn-plain btn-xs w-[62px]"
          disabled={changed.isLoading}
          onClick={() => void change({ drive: drive.name, plugged: !drive.plugged })}
        >
          {drive.plugged ? 'Unplug' : 'Plug in'}
        </button>
      </div>
      <div className="mt-1 flex flex-wrap gap-x-3">
        {drive.plugged ? (
          conditions.map(([key, word]) => (
            <label key={key} className="flex items-center gap-1">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={(changed.isLoading ? changed.originalArgs?.[key] : undefined) ?? drive[key]}
                disabled={changed.isLoading}
                onChange={(e) => void change({ drive: drive.name, [key]: e.target.checked })}
              />
              {word}
            </label>
          ))
        ) : (
          <span className="text-missing">not plugged in</span>
        )}
      </div>
      <ProblemNote error={changed.error} onClose={changed.reset} />
    </li>
  );
}

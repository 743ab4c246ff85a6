import { FolderChooser } from '../../parts/FolderChooser.tsx';
import type { Draft } from './draft.ts';
import { Word } from '../../parts/Word.tsx';

const lastOf = (folder: string): string => folder.split('/').at(-1)!;

/** Where it is written: into one folder, or into two on two drives at once. */
export function TargetWords({ draft, onChange }: { draft: Draft; onChange: (change: Partial<Draft>) => void }) {
  const { targetFolder, secondFolder } = draft;
  return (
    <>
      <Word
        says={targetFolder ? lastOf(targetFolder) : 'a drive to be chosen'}
        what="target"
        isWanted={targetFolder === ''}
      >
        {(close) => (
          <FolderChooser
            verb="Put it here"
            onChoose={(folder) => {
              onChange({ targetFolder: folder });
              close();
            }}
          />
        )}
      </Word>
      {targetFolder !== '' && (
        <>
          {' '}
          {secondFolder && 'and '}
          <Word says={secondFolder ? lastOf(secondFolder) : 'alone'} what="second target">
            {(close) => (
              <>
                <p className="mb-2 text-quiet">
                  Written onto a second drive as well, the sources are read only once for both.
                </p>
                {secondFolder && (
                  <button
                    type="button"
                    className="btn btn-plain btn-sm mb-2"
                    onClick={() => {
                      onChange({ secondFolder: null });
                      close();
                    }}
                  >
                    Onto {lastOf(targetFolder)} alone
                  </button>
                )}
                <FolderChooser
                  verb="Put it here as well"
                  onChoose={(folder) => {
                    onChange({ secondFolder: folder });
                    close();
                  }}
                />
              </>
            )}
          </Word>
        </>
      )}
    </>
  );
}

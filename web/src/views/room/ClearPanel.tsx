import { notClearedText } from '@legame/words/problems';
import { useState } from 'react';
import type { Cleared, RoomMap } from '@legame/core/contract';
import { storage } from '../../api/storage.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { bytes, count, when } from '@legame/words/numbers';
import { useWords } from '@legame/words/storage';

/** The server lists no more; the largest of them. */
const listedAtMost = 200;
type Tab = 'unused' | 'largest' | 'held';

/** Lists of what could go, and the one act that moves it: into the holding folder of its place, with a way back. */
export function ClearPanel({
  map,
  marked,
  onMark,
  onDone,
}: {
  map: RoomMap;
  marked: ReadonlySet<string>;
  onMark: (mediaFileId: string) => void;
  onDone: () => void;
}) {
  const [tab, setTab] = useState<Tab>('unused');
  const held = storage.useClearedQuery(map.placeId);
  const [clear, cleared] = storage.useClearFilesMutation();
  const [restore, restored] = storage.useRestoreClearedMutation();
  const known = new Map([...map.largest, ...map.unused].map((f) => [f.mediaFileId as string, f]));
  const chosen = [...marked].flatMap((id) => known.get(id) ?? []);
  const isFree = (f: RoomMap['largest'][number]) => f.usedBy.length === 0 && f.wantedBy.length === 0;
  const inUse = chosen.filter((f) => !isFree(f));
  const movable = chosen.filter(isFree);
  const size = movable.reduce((sum, f) => sum + f.sizeInBytes, 0);
  const files = tab === 'unused' ? map.unused : map.largest;
  const tabButton = (name: Tab, label: string) => (
    <button
      type="button"
      aria-pressed={tab === name}
      className={`border-b-2 px-1 pb-1 ${tab === name ? 'border-primary font-semibold' : 'border-transparent text-quiet'}`}
      onClick={() => setTab(name)}
    >
      {label}
    </button>
  );
  return (
    <section className="flex h-full flex-col" aria-label="files of the place">
      <div className="line-b flex gap-3 px-3.5 pt-3">
        {tabButton('unused', `Not used ${map.unused.length}${map.unused.length === listedAtMost ? '+' : ''}`)}
        {tabButton('largest', 'Largest')}
        {tabButton('held', `Holding folder ${held.data?.length ?? 0}`)}
      </div>
      <ul className="min-h-0 flex-1 overflow-auto px-3.5" aria-label="files">
        {tab === 'held'
          ? held.data?.map((file) => (
              <HeldRow key={file.id} file={file} isBusy={restored.isLoading} onRestore={() => void restore(file.id)} />
            ))
          : files.map((file) => (
              <FileRow
                key={file.mediaFileId}
                file={file}
                isMarked={marked.has(file.mediaFileId)}
                onMark={() => onMark(file.mediaFileId)}
              />
            ))}
        {tab === 'unused' && files.length === 0 && (
          <li className="py-2 text-quiet">Everything in here is used, or not read yet.</li>
        )}
        {tab === 'held' && held.data?.length === 0 && (
          <li className="py-2 text-quiet">
            Nothing was cleared. What is cleared is moved here, never deleted, and can be put back.
          </li>
        )}
      </ul>
      <div className="line-t p-3.5">
        {chosen.length === 0 ? (
          <p className="text-quiet">Choose files to move them into the holding folder. Nothing is deleted.</p>
        ) : (
          <p>
            {count(chosen.length, 'file')} chosen.
            {inUse.length > 0 && (
              <span className="text-missing">
                {' '}
                {count(
                  inUse.length,
                  'of them is used, or may be, and stays',
                  'of them are used, or may be, and stay',
                )}: {inUse.map((f) => f.name).join(', ')}.
              </span>
            )}
          </p>
        )}
        <button
          type="button"
          className="btn btn-error btn-sm mt-1.5"
          disabled={movable.length === 0 || cleared.isLoading}
          onClick={() =>
            void clear({ placeId: map.placeId, mediaFileIds: movable.map((f) => f.mediaFileId) })
              .unwrap()
              .then(onDone)
              .catch(() => undefined)
          }
        >
          {movable.length > 0 ? `Clear ${count(movable.length, 'file')}, ${bytes(size)}` : 'Clear'}
        </button>
        {cleared.data && (
          <p role="status" className="mt-1.5">
            Moved {count(cleared.data.cleared.length, 'file')} into the holding folder.
            {cleared.data.skipped.map((s) => ` ${s.name} stays: ${notClearedText(s.why)}.`)}
          </p>
        )}
        {restored.data && (
          <p role="status" className="mt-1.5">
            Back at <span className="font-mono">{restored.data.path}</span>.
          </p>
        )}
        <ProblemNote error={cleared.error ?? restored.error} onClose={cleared.reset} />
      </div>
    </section>
  );
}

/** A file in the holding folder, and its way back. */
const HeldRow = ({ file, isBusy, onRestore }: { file: Cleared; isBusy: boolean; onRestore: () => void }) => (
  <li className="line-b flex items-center justify-between gap-2 py-1.5">
    <span className="min-w-0">
      <span className="block font-mono [overflow-wrap:anywhere]">{file.original}</span>
      <span className="text-[12px] text-quiet">
        {bytes(file.sizeInBytes)}, cleared {when(file.clearedAt)}
      </span>
    </span>
    <button type="button" className="btn btn-plain btn-xs shrink-0" disabled={isBusy} onClick={onRestore}>
      Put it back
    </button>
  </li>
);

/** A file of the place, with what uses it. */
const FileRow = ({
  file,
  isMarked,
  onMark,
}: {
  file: RoomMap['largest'][number];
  isMarked: boolean;
  onMark: () => void;
}) => (
  <li className="line-b py-1.5">
    <label className="flex items-start gap-2">
      <input
        type="checkbox"
        className="checkbox checkbox-xs mt-0.5"
        aria-label={`choose ${file.name}`}
        checked={isMarked}
        onChange={onMark}
      />
      <span className="min-w-0 flex-1">
        <span className="block font-mono [overflow-wrap:anywhere]">{file.name}</span>
        <span className="block text-[12px] text-quiet [overflow-wrap:anywhere]">
          {file.folder && <span className="font-mono">{file.folder} · </span>}
          {file.usedBy.length > 0
            ? `used by ${file.usedBy.join(', ')}`
            : file.wantedBy.length > 0
              ? `may be what ${file.wantedBy.join(', ')} needs`
              : useWords[file.use]}
        </span>
      </span>
      <span className="shrink-0 font-mono">{bytes(file.sizeInBytes)}</span>
    </label>
  </li>
);

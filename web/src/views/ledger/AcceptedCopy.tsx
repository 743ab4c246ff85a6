import { problemText } from '@legame/words/problems';
import { useState } from 'react';
import type { WeighedFile } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { storage } from '../../api/storage.ts';
import { FolderChooser } from '../../parts/FolderChooser.tsx';
import { JobProgress } from '../../parts/JobProgress.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

const forms = [
  ['ffv1', 'FFV1 in Matroska', 'lossless, every frame by itself'],
  ['dnxhd', 'VC-3 in MOV', 'for cutting, every frame by itself'],
  ['h264', 'H.264 in MOV', 'small'],
  ['mjpeg', 'Motion JPEG in MOV', 'plays nearly everywhere'],
] as const;

/** Makes a copy that the project accepts: same name, frames, timecode and reel; linked in the original's stead when proven. */
export function AcceptedCopy({
  projectId,
  weighed,
  onClose,
}: {
  projectId: string;
  weighed: WeighedFile;
  onClose: () => void;
}) {
  const { file } = weighed;
  const [make, making] = storage.useMakeAcceptedCopyMutation();
  const jobs = api.useJobsQuery();
  const [codec, setCodec] = useState<string>('dnxhd');
  const job = jobs.data?.find((j) => j.id === making.data?.id);
  const isOver = job?.state === 'done' || job?.state === 'failed' || job?.state === 'cancelled';
  return (
    <section className="flex h-full flex-col gap-3 overflow-auto p-3.5" aria-label="make an accepted copy">
      <header className="flex items-start justify-between gap-2">
        <h2 className="text-[15px] font-semibold [overflow-wrap:anywhere]">
          An accepted copy of <span className="font-mono">{file.name}</span>
        </h2>
        <button type="button" className="btn btn-plain btn-xs" onClick={onClose}>
          Close
        </button>
      </header>
      <p className="text-quiet">
        Same name, frames, timecode and reel. It is held against the original before it is linked in its stead; the
        original stays as it is. Undo is one step.
      </p>
      <fieldset className="flex flex-col gap-1">
        {forms.map(([id, title, what]) => (
          <label key={id} className="flex items-baseline gap-2">
            <input
              type="radio"
              className="radio radio-xs"
              name="form"
              checked={codec === id}
              onChange={() => setCodec(id)}
            />
            <span>
              <b>{title}</b> <span className="text-quiet">{what}</span>
            </span>
          </label>
        ))}
      </fieldset>
      <FolderChooser
        verb="Make it here"
        onChoose={(targetFolder) => void make({ projectId, mediaFileId: file.id, targetFolder, codec })}
      />
      {job && !isOver && <JobProgress job={job} />}
      {job?.state === 'done' && <p role="status">Made, proven, and linked.</p>}
      {job?.problem && <p role="alert">{problemText(job.problem)}</p>}
      <ProblemNote error={making.error} onClose={making.reset} />
    </section>
  );
}

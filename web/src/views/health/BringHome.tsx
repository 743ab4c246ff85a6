import { useState } from 'react';
import type { BringingHome } from '@legame/core/contract';
import { whyNotHomeWords } from '@legame/words/health';
import { bytes, count } from '@legame/words/numbers';
import { problemText } from '@legame/words/problems';
import { health, type HomeCheck } from '../../api/health.ts';
import { api } from '../../api/legame.ts';
import { JobProgress } from '../../parts/JobProgress.tsx';
import { PathText } from '../../parts/PathText.tsx';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';

/** What bringing home would copy, file by file and where to; then how far it is. Nothing is written before it is said. */
export function BringHome({ projectId, check, onClose }: { projectId: string; check: HomeCheck; onClose: () => void }) {
  const preview = health.useBringingHomeQuery({ projectId, check }, { refetchOnMountOrArgChange: true });
  const [bring, brought] = health.useBringHomeMutation();
  const jobs = api.useJobsQuery();
  // While they are copied, what lies at home by then is not asked about again.
  const [underWay, setUnderWay] = useState<BringingHome | null>(null);
  if (!preview.data) return <Waiting what="what would be copied" error={preview.error} />;
  const job = jobs.data?.find((j) => j.id === brought.data?.id);
  const planned = underWay ?? preview.data;
  const { home, files, left, sizeInBytes, usableInBytes } = planned;
  const isOver = job?.state === 'done' || job?.state === 'failed' || job?.state === 'cancelled';
  const fits = usableInBytes === null || sizeInBytes <= usableInBytes;
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label="bring home">
      <div className="line-b px-3 py-2">
        <p>
          {count(files.length, 'file')}, {bytes(sizeInBytes)}, would be copied to <b className="font-mono">{home}</b>,
          proven there, and every link moved to its copy in one act. The originals stay as they are.
        </p>
        {usableInBytes !== null && (
          <p className={fits ? 'text-quiet' : 'text-missing'}>
            {bytes(usableInBytes)} can be used there with headroom kept{fits ? '.' : ': not enough.'}
          </p>
        )}
        <div className="flex gap-1.5 pt-2">
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={files.length === 0 || !fits || underWay !== null}
            onClick={() => {
              setUnderWay(planned);
              void bring({ projectId, check })
                .unwrap()
                .catch(() => setUnderWay(null));
            }}
          >
            Copy {count(files.length, 'file')} home
          </button>
          <button type="button" className="btn btn-plain btn-sm" onClick={onClose}>
            Back
          </button>
        </div>
        {job && !isOver && <JobProgress job={job} />}
        {job?.state === 'done' && (
          <p role="status" className="pt-1.5">
            {count(files.length, 'file')} brought home, proven, and linked there. Undo takes the links back; the copies
            stay.
          </p>
        )}
        {job?.state === 'cancelled' && (
          <p role="status" className="pt-1.5">
            Stopped. What was copied by then is linked at home; the rest lies where it lay.
          </p>
        )}
        {job?.problem && (
          <p role="alert" className="pt-1.5 text-missing">
            {problemText(job.problem)}
          </p>
        )}
        <ProblemNote error={brought.error} onClose={brought.reset} />
      </div>
      <ul className="min-h-0 flex-1 overflow-auto" aria-label="what would be copied" tabIndex={0}>
        {files.map(({ path, target, sizeInBytes: size }) => (
          <li key={path} className="line-b px-3 py-1.5">
            <span className="flex gap-2">
              <PathText path={path} className="flex-1" />
              <span className="text-quiet">{bytes(size)}</span>
            </span>
            <span className="flex gap-1.5 text-quiet">
              to <PathText path={target} className="flex-1" />
            </span>
          </li>
        ))}
        {left.map(({ path, why }) => (
          <li key={path} className="line-b px-3 py-1.5 text-quiet">
            <PathText path={path} />
            stays: {whyNotHomeWords[why]}
          </li>
        ))}
      </ul>
    </section>
  );
}

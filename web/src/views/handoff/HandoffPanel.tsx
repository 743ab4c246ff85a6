import { problemText } from '@legame/words/problems';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';
import type { Handoff } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { PathText } from '../../parts/PathText.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { bytes, count } from '@legame/words/numbers';
import { RoomBar } from '../places/RoomBar.tsx';
import { RunningCopy } from './RunningCopy.tsx';

const reasonWords = {
  missing: 'no file is linked',
  'place-away': 'its drive is not plugged in',
  unreadable: 'its file cannot be read',
  waived: 'needs no media',
  parked: 'parked',
} as const;

/** A plan, its run and its proof, in one place. */
export function HandoffPanel({ handoff }: { handoff: Handoff }) {
  const [run, ran] = api.useRunHandoffMutation();
  const jobs = api.useJobsQuery();
  const { plan } = handoff;
  const job = jobs.data?.find((j) => j.id === handoff.jobId && (j.state === 'running' || j.state === 'queued'));
  const verified = handoff.copied.filter((f) => f.state === 'verified');
  const failed = handoff.copied.filter((f) => f.state === 'failed');
  const left = handoff.copied.length - verified.length;
  return (
    <article aria-label="handoff">
      <h1 className="text-[17px] font-bold [overflow-wrap:anywhere]">{handoff.folder.split('/').at(-1)}</h1>
      <p className="font-mono text-quiet [overflow-wrap:anywhere]">{handoff.folder}</p>
      <div className="sheet my-3 grid grid-cols-[minmax(0,1fr)_260px] gap-5 p-3">
        <div>
          {handoff.state === 'done' ? (
            <p role="status">
              <b className="text-linked">Done and verified.</b> {count(verified.length, 'file')},{' '}
              {bytes(plan.sizeInBytes)}: each was hashed while it was copied, flushed, read back and compared.
              manifest.json lists size and xxh64 of every file; {count(plan.timelines.length, 'timeline document')}{' '}
              beside it open on the copies.
            </p>
          ) : handoff.state === 'planned' ? (
            <p>
              <b>Nothing is copied yet.</b> This will copy {count(handoff.copied.length, 'file')},{' '}
              {bytes(plan.sizeInBytes)}, into a new folder, with {plan.timelines.join(' and ')} relinked to the copies.
            </p>
          ) : handoff.state === 'running' ? (
            job ? (
              <RunningCopy job={job} />
            ) : (
              <p>Finishing…</p>
            )
          ) : (
            <p role="status">
              <b className="text-changed">{handoff.state === 'cancelled' ? 'Stopped by hand.' : 'Stopped.'}</b>{' '}
              {verified.length} of {handoff.copied.length} files are verified and stay.{' '}
              {handoff.problem && problemText(handoff.problem)}
            </p>
          )}
          {handoff.state === 'planned' && plan.leftOut.length > 0 && (
            <p className="mt-1 text-missing">{count(plan.leftOut.length, 'clip')} cannot come along: see below.</p>
          )}
          <div className="mt-2">
            {handoff.state === 'planned' && (
              <button
                type="button"
                className="btn btn-primary btn-sm"
                disabled={ran.isLoading || !plan.room.fits}
                onClick={() => void run(handoff.id)}
              >
                Copy {count(handoff.copied.length, 'file')}, {bytes(plan.sizeInBytes)}
              </button>
            )}
            {(handoff.state === 'failed' || handoff.state === 'cancelled') && (
              <button
                type="button"
                className="btn btn-primary btn-sm"
                disabled={ran.isLoading}
                onClick={() => void run(handoff.id)}
              >
                Continue with {count(left, 'file')}
              </button>
            )}
          </div>
          <div className="mt-2">
            <ProblemNote error={ran.error} onClose={ran.reset} />
          </div>
        </div>
        <div>
          <RoomBar
            freeInBytes={plan.room.freeInBytes}
            totalInBytes={plan.room.totalInBytes}
            plannedInBytes={plan.sizeInBytes}
          />
          <p className={plan.room.fits ? 'text-quiet' : 'font-semibold text-missing'}>
            {plan.room.fits
              ? `${bytes(plan.room.usableInBytes)} can be used beside the headroom of ${plan.room.headroomShare * 100} %`
              : `Does not fit: only ${bytes(plan.room.usableInBytes)} can be used beside the headroom of ${plan.room.headroomShare * 100} %. Choose another drive.`}
          </p>
        </div>
      </div>
      {failed.length > 0 && (
        <section className="mb-3" aria-label="failed files">
          <h2 className="mb-1 font-semibold">Not copied</h2>
          <ul>
            {failed.map((f) => (
              <li key={f.target} className="line-b py-1 [overflow-wrap:anywhere]">
                <span className="font-mono">{f.target}</span>: {f.problem && problemText(f.problem)}
              </li>
            ))}
          </ul>
        </section>
      )}
      {plan.leftOut.length > 0 && (
        <section className="mb-3" aria-label="left out">
          <h2 className="mb-1 font-semibold">Cannot come along</h2>
          <ul className="columns-2 gap-6">
            {plan.leftOut.map((l) => (
              <li key={l.clipId} className="py-0.5">
                <span className="font-mono">{l.clipName}</span>{' '}
                <span className="text-quiet">{reasonWords[l.reason]}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <h2 className="mb-1 font-semibold">{count(plan.files.length, 'media file')}</h2>
      <FileTable handoff={handoff} />
    </article>
  );
}

const columns = 'grid grid-cols-[minmax(0,1.2fr)_minmax(0,1.2fr)_minmax(0,1fr)_70px_150px] gap-3 px-2 items-center';

function FileTable({ handoff }: { handoff: Handoff }) {
  const scroller = useRef<HTMLDivElement>(null);
  const { files } = handoff.plan;
  const virtual = useVirtualizer({
    count: files.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 28,
    overscan: 10,
  });
  const copies = new Map(handoff.copied.map((f) => [f.target, f]));
  const folderOf = (path: string) => path.replace(/[^/]*$/, '');
  const proofOf = (target: string, isMany: boolean) => {
    const single = copies.get(target);
    if (single) return single.state === 'verified' ? (single.xxh64 ?? '') : single.state === 'failed' ? 'failed' : '';
    if (!isMany) return '';
    const parts = handoff.copied.filter((f) => folderOf(f.target) === folderOf(target));
    const done = parts.filter((f) => f.state === 'verified').length;
    return done ? `${done} of ${parts.length} verified` : '';
  };
  return (
    <div className="sheet" role="table" aria-label="planned files">
      <div className={`${columns} line-b h-7 text-quiet`} role="row">
        <span role="columnheader">From</span>
        <span role="columnheader">To</span>
        <span role="columnheader">Used by</span>
        <span role="columnheader" className="text-right">
          Size
        </span>
        <span role="columnheader">xxh64, read back</span>
      </div>
      <div ref={scroller} className="max-h-[420px] overflow-auto" role="rowgroup" tabIndex={0}>
        <div className="relative" role="presentation" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const file = files[item.index]!;
            return (
              <div
                key={file.mediaFileId}
                role="row"
                className={`${columns} line-b absolute inset-x-0`}
                style={{ height: 28, transform: `translateY(${item.start}px)` }}
              >
                <span role="cell" className="min-w-0">
                  <PathText path={`${file.placeName}/${file.source}`} />
                </span>
                <span role="cell" className="flex min-w-0 items-center gap-1">
                  <PathText path={file.target} />
                  {file.renamed && (
                    <span
                      className="shrink-0 text-changed"
                      title="The name was taken by another file, or not every file system takes it"
                    >
                      renamed
                    </span>
                  )}
                </span>
                <span role="cell" className="truncate text-quiet" title={file.usedBy.join(', ')}>
                  {file.usedBy.join(', ')}
                </span>
                <span role="cell" className="text-right font-mono">
                  {bytes(file.sizeInBytes)}
                </span>
                <span role="cell" className="font-mono text-linked">
                  {proofOf(file.target, file.files > 1)}
                </span>
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}

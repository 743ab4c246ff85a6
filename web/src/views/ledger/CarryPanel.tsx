import { useState } from 'react';
import type { ClipDetail } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { EvidenceLegend, EvidenceStrip } from '../../parts/EvidenceStrip.tsx';
import { MarkedDifference } from '../../parts/PathText.tsx';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { count } from '../../words/numbers.ts';
import { listWords } from '../../words/statuses.ts';

/** What one decision reveals, and every other dark clip it fits: seen before it is applied, taken back in one step. */
export function CarryPanel({
  projectId,
  clip,
  mediaFileId,
  onClose,
}: {
  projectId: string;
  clip: ClipDetail;
  mediaFileId: string;
  onClose: () => void;
}) {
  const preview = api.useCarryQuery({ projectId, clipId: clip.id, mediaFileId }, { refetchOnMountOrArgChange: true });
  const [link, linked] = api.useLinkMutation();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  if (!preview.data) return <Waiting what="what this carries to" error={preview.error} />;
  const { pattern, carried } = preview.data;
  const fitting = carried.filter((c) => c.fits);
  const refused = carried.filter((c) => !c.fits);
  const going = fitting.filter((c) => !left.has(c.clipId));
  const isLinkedAlready = clip.tied?.mediaFileId === mediaFileId;
  const total = going.length + (isLinkedAlready ? 0 : 1);
  const go = () => {
    const own = isLinkedAlready ? [] : [{ clipId: clip.id as string, mediaFileId: mediaFileId }];
    void link({
      projectId,
      by: 'carry',
      links: [...own, ...going.map((c) => ({ clipId: c.clipId, mediaFileId: c.file.mediaFileId }))],
    })
      .unwrap()
      .then((act) => act.skipped.length === 0 && onClose())
      .catch(() => undefined);
  };
  return (
    <section className="flex h-full flex-col p-3.5" aria-label="carry">
      <h2 className="text-[15px] font-semibold">
        Carry from <span className="font-mono">{clip.fileName}</span>
      </h2>
      {!pattern ? (
        <p className="my-2">
          This link reveals nothing that other clips could share: the edit remembers no path for it, or the file has a
          wholly different name.
        </p>
      ) : (
        <>
          <p className="my-1.5 font-mono">
            <MarkedDifference text={pattern.from || '/'} other={pattern.to} /> →{' '}
            <MarkedDifference text={pattern.to || '/'} other={pattern.from} />
          </p>
          {(pattern.before || pattern.after || pattern.extension) && (
            <p className="mb-1.5 text-quiet">
              Names:{' '}
              {[
                pattern.before && `“${pattern.before}” in front`,
                pattern.after && `“${pattern.after}” behind`,
                pattern.extension && `ending “${pattern.extension}”`,
              ]
                .filter(Boolean)
                .join(', ')}
            </p>
          )}
          <p className="mb-2">
            {fitting.length
              ? `${count(fitting.length, 'other dark clip')} lead to a file the same way, and the evidence holds.`
              : 'No other dark clip leads to a file the same way.'}
          </p>
          <ul className="line-t min-h-0 flex-1 overflow-auto" aria-label="carried">
            {fitting.map((c) => (
              <li key={c.clipId} className="line-b flex items-center gap-2 py-1.5">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  aria-label={`carry to ${c.clipName}`}
                  checked={!left.has(c.clipId)}
                  onChange={() =>
                    setLeft(
                      (before) =>
                        new Set(
                          before.has(c.clipId) ? [...before].filter((id) => id !== c.clipId) : [...before, c.clipId],
                        ),
                    )
                  }
                />
                <span
                  className="min-w-0 flex-1 truncate font-mono"
                  title={`${c.file.placeName}/${c.file.folder}/${c.file.name}`}
                >
                  {c.file.name}
                </span>
                <EvidenceStrip verdicts={c.verdicts} />
              </li>
            ))}
            {refused.length > 0 && <li className="py-1.5 font-semibold">These lead to a file too, but do not fit:</li>}
            {refused.map((c) => (
              <li key={c.clipId} className="line-b flex items-center gap-2 py-1.5">
                <span className="min-w-0 flex-1">
                  <span className="block truncate font-mono">{c.clipName}</span>
                  <span className="text-missing">
                    {c.differs.length
                      ? `${listWords(c.differs)} ${c.differs.length === 1 ? 'differs' : 'differ'}`
                      : 'the file cannot be read'}
                  </span>
                </span>
                <EvidenceStrip verdicts={c.verdicts} />
              </li>
            ))}
          </ul>
        </>
      )}
      {linked.data && linked.data.skipped.length > 0 && (
        <p role="status" className="py-2">
          Linked {count(linked.data.count, 'clip')}; {count(linked.data.skipped.length, 'clip')} left alone:{' '}
          {linked.data.skipped[0]!.why}.
        </p>
      )}
      <ProblemNote error={linked.error} onClose={linked.reset} />
      <div className="flex gap-2 py-2.5">
        {pattern && (
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={total === 0 || linked.isLoading}
            onClick={go}
          >
            Link {total}
          </button>
        )}
        <button type="button" className="btn btn-plain btn-sm" onClick={onClose}>
          Close
        </button>
      </div>
      <EvidenceLegend />
    </section>
  );
}

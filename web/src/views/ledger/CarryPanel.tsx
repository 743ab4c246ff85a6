import { skippedText } from '@legame/words/problems';
import { useState } from 'react';
import { isRenamed } from '@legame/core/paths';
import type { ClipDetail } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { EvidenceLegend } from '../../parts/EvidenceStrip.tsx';
import { MemberList } from '../../parts/MemberList.tsx';
import { MarkedDifference } from '../../parts/PathText.tsx';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { displacementWords, renamedWords } from '@legame/words/causes';
import { count } from '@legame/words/numbers';

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
  const { pattern, members } = preview.data;
  const fitting = members.filter((m) => m.fits);
  const going = fitting.filter((m) => !left.has(m.clipId));
  const isLinkedAlready = clip.tied?.mediaFileId === mediaFileId;
  const total = going.length + (isLinkedAlready ? 0 : 1);
  const go = () => {
    const first = isLinkedAlready ? [] : [{ clipId: clip.id as string, mediaFileId }];
    void link({
      projectId,
      by: 'carry',
      links: [
        ...first,
        ...going.map((m) => ({
          clipId: m.clipId,
          mediaFileId: m.file!.mediaFileId,
          ...(m.interpretation ? { interpretation: m.interpretation } : {}),
        })),
      ],
    })
      .unwrap()
      .then((act) => act.skipped.length === 0 && onClose())
      .catch(() => undefined);
  };
  const leave = (id: string) =>
    setLeft((before) => new Set(before.has(id) ? [...before].filter((other) => other !== id) : [...before, id]));
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
          {isRenamed(pattern.renaming) && <p className="mb-1.5 text-quiet">{renamedWords(pattern.renaming)}</p>}
          {pattern.timecode && (
            <p className="mb-1.5 text-quiet">timecode: {displacementWords(pattern.timecode, clip.rate)}</p>
          )}
          <p className="mb-2">
            {fitting.length
              ? `${count(fitting.length, 'other dark clip')} lead to a file the same way, and the evidence holds.`
              : 'No other dark clip leads to a file the same way.'}
            {members.length > fitting.length && ` ${members.length - fitting.length} nearly fit, listed last.`}
          </p>
          <MemberList members={members} left={left} onLeave={leave} label="carried" />
        </>
      )}
      {linked.data && linked.data.skipped.length > 0 && (
        <p role="status" className="py-2">
          Linked {count(linked.data.count, 'clip')}; {count(linked.data.skipped.length, 'clip')} left alone:{' '}
          {skippedText[linked.data.skipped[0]!.why]}.
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

import { useState } from 'react';
import { isRenamed } from '@legame/core/paths';
import type { ClipDetail } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { ActPanel } from '../../parts/ActPanel.tsx';
import { MemberList } from '../../parts/MemberList.tsx';
import { MarkedDifference } from '../../parts/PathText.tsx';
import { Waiting } from '../../parts/ProblemNote.tsx';
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
  if (!preview.currentData) return <Waiting what="what this carries to" error={preview.error} />;
  const { pattern, members } = preview.currentData;
  const fitting = members.filter((m) => m.fits);
  const leftOut = members.filter((m) => m.leftOut).length;
  const nearly = members.length - fitting.length - leftOut;
  const going = fitting.filter((m) => !left.has(m.clipId));
  const isLinkedAlready = clip.tied?.mediaFileId === mediaFileId;
  const total = going.length + (isLinkedAlready ? 0 : 1);
  const go = () => {
    const first = isLinkedAlready ? [] : [{ clipId: clip.id as string, mediaFileId }];
    return link({
      projectId,
      by: 'carry',
      from: clip.id,
      links: [
        ...first,
        ...going.map((m) => ({
          clipId: m.clipId,
          mediaFileId: m.file!.mediaFileId,
          ...(m.interpretation ? { interpretation: m.interpretation } : {}),
        })),
      ],
    }).unwrap();
  };
  const leave = (id: string) =>
    setLeft((before) => new Set(before.has(id) ? [...before].filter((other) => other !== id) : [...before, id]));
  return (
    <ActPanel
      label="carry"
      title={
        <>
          Carry from <span className="font-mono">{clip.fileName}</span>
        </>
      }
      verb={pattern && `Link ${total}`}
      isPossible={total > 0}
      asked={linked}
      onAct={go}
      onClose={onClose}
    >
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
            {nearly > 0 && ` ${nearly} nearly fit, listed last.`}
            {leftOut > 0 && ` ${leftOut} left out, listed last.`}
          </p>
          <MemberList members={members} left={left} onLeave={leave} label="carried" />
        </>
      )}
    </ActPanel>
  );
}

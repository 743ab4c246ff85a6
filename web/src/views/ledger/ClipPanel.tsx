import { useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { isDark } from '@legame/core/state';
import type { ClipDetail } from '@legame/core/contract';
import { api } from '../../api/legame.ts';
import { useCommand } from '../../commands/useCommand.ts';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { StatusMark } from '../../parts/StatusMark.tsx';
import { statusSentence, whySentence } from '@legame/words/statuses';
import { AcceptedCopy } from './AcceptedCopy.tsx';
import { CarryPanel } from './CarryPanel.tsx';
import { ClipActs } from './ClipActs.tsx';
import { ClipUses } from './ClipUses.tsx';
import { Compare } from './Compare.tsx';
import { ComparePictures } from './ComparePictures.tsx';
import { DecisionNote } from './DecisionNote.tsx';
import type { Mode } from './mode.ts';
import { PointByHand } from './PointByHand.tsx';
import { SwapPanel } from './SwapPanel.tsx';
import { useShownFile, type ShownFile } from './useShownFile.ts';
import { WaivePanel } from './WaivePanel.tsx';

/** One clip in full: why it is dark, its candidates side by side with what is remembered, and what can be done. */
export function ClipPanel({ projectId, clipId, chosen }: { projectId: string; clipId: string; chosen: number }) {
  const { data: clip, error } = api.useClipQuery(clipId);
  const [mode, setMode] = useState<Mode>({ kind: 'compare' });
  const file = useShownFile(clipId, clip);
  const { shown } = file;
  useCommand('point', () => setMode({ kind: 'point' }));
  useCommand(
    'carry',
    () => shown && setMode({ kind: 'carry', mediaFileId: shown.file.id }),
    shown ? null : 'There is no file whose link could be carried.',
  );
  useHotkeys('esc', () => setMode({ kind: 'compare' }), { enabled: mode.kind !== 'compare' });

  if (!clip) return <Waiting what="the clip" error={error} />;
  if (mode.kind !== 'compare')
    return (
      <Deciding
        projectId={projectId}
        clip={clip}
        mode={mode}
        file={file}
        onClose={() => setMode({ kind: 'compare' })}
      />
    );
  return (
    <section className="flex h-full flex-col" aria-label="clip" data-takes-files={clip.id}>
      <div className="min-h-0 flex-1 overflow-auto p-3.5 pb-2">
        <div className="flex items-start justify-between gap-2">
          <h2 className="font-mono text-[15px]! font-semibold [overflow-wrap:anywhere]">{clip.fileName}</h2>
          {chosen > 1 && <span className="shrink-0 text-quiet">1 of {chosen} selected</span>}
        </div>
        {clip.name !== clip.fileName && <p className="text-quiet">called “{clip.name}” in the edit</p>}
        <div className="mt-1 flex items-baseline gap-2">
          <StatusMark status={clip.status.status} />
          <span className="[overflow-wrap:anywhere]">
            {clip.why && isDark(clip.status.status) ? whySentence(clip.why) : statusSentence(clip.status)}
          </span>
        </div>
        <DecisionNote clip={clip} />
        <Candidates file={file} />
        {!file.isPointed && !file.isTied && clip.decision === 'ask' && file.candidates[0] && file.candidates[1] && (
          <ComparePictures one={file.candidates[0]} other={file.candidates[1]} />
        )}
        {file.isPointed && <p className="mt-2 text-quiet">A file chosen by hand. It is linked only when you say so.</p>}
        {file.isPointed && !shown ? (
          <Waiting what="the file" error={file.pointError} />
        ) : (
          <Compare clip={clip} weighed={shown} />
        )}
        <ClipUses clip={clip} />
      </div>
      <ClipActs projectId={projectId} clip={clip} file={file} onMode={setMode} />
    </section>
  );
}

/** The candidates by name, to look at one after the other. */
function Candidates({ file }: { file: ShownFile }) {
  if (!file.isAmongCandidates || file.candidates.length < 2) return null;
  return (
    <div className="mt-2 flex flex-wrap gap-1.5" role="group" aria-label="candidates">
      {file.candidates.map((c, i) => (
        <button
          key={c.file.id}
          type="button"
          aria-pressed={i === file.candidateAt}
          className={`rounded border px-2 py-0.5 font-mono ${i === file.candidateAt ? 'border-base-content font-semibold' : 'border-base-300'}`}
          title={`${c.file.placeName}/${c.file.folder}/${c.file.name}`}
          onClick={() => file.setCandidateAt(i)}
        >
          {c.file.folder.split('/').at(-1) || c.file.placeName}/{c.file.name}
        </button>
      ))}
    </div>
  );
}

/** What is being decided, in place of the comparison. */
function Deciding({
  projectId,
  clip,
  mode,
  file,
  onClose,
}: {
  projectId: string;
  clip: ClipDetail;
  mode: Exclude<Mode, { kind: 'compare' }>;
  file: ShownFile;
  onClose: () => void;
}) {
  switch (mode.kind) {
    case 'point':
      return (
        <PointByHand
          clipName={clip.fileName}
          startAt={file.shown ? { placeId: file.shown.file.placeId, folder: file.shown.file.folder } : null}
          onClose={onClose}
          onChoose={(mediaFileId) => {
            file.setPointed(mediaFileId);
            onClose();
          }}
        />
      );
    case 'carry':
      return <CarryPanel projectId={projectId} clip={clip} mediaFileId={mode.mediaFileId} onClose={onClose} />;
    case 'swap':
      return <SwapPanel projectId={projectId} clip={clip} weighed={mode.weighed} onClose={onClose} />;
    case 'waive':
      return <WaivePanel projectId={projectId} rows={[clip]} onClose={onClose} />;
    case 'copy':
      return <AcceptedCopy projectId={projectId} weighed={mode.weighed} onClose={onClose} />;
  }
}

import { lazy, Suspense, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { ClipDetail } from '@legame/core/contract';
import { isDark } from '@legame/core/state';
import { api } from '../../api/legame.ts';
import { useCommand } from '../../commands/useCommand.ts';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { StatusMark } from '../../parts/StatusMark.tsx';
import { statusSentence, whySentence } from '@legame/words/statuses';
import { ClipActs } from './ClipActs.tsx';
import { ClipUses } from './ClipUses.tsx';
import { Compare } from './Compare.tsx';
import { ComparePictures } from './ComparePictures.tsx';
import { canBeSeen, LookInShort } from './KeptPicture.tsx';
import { DecisionNote } from './DecisionNote.tsx';
import type { Mode } from './mode.ts';
import { useShownFile, type ShownFile } from './useShownFile.ts';

/** What is decided seldom is fetched when it is. */
const Deciding = lazy(async () => ({ default: (await import('./Deciding.tsx')).Deciding }));

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
      <Suspense fallback={<Waiting what="it" />}>
        <Deciding
          projectId={projectId}
          clip={clip}
          mode={mode}
          file={file}
          onClose={() => setMode({ kind: 'compare' })}
        />
      </Suspense>
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
        <Candidates clip={clip} file={file} />
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
function Candidates({ clip, file }: { clip: ClipDetail; file: ShownFile }) {
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
          {clip.kept && canBeSeen(c.file) && <LookInShort clip={clip} file={c.file} />}
        </button>
      ))}
    </div>
  );
}

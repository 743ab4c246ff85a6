import { useState } from 'react';
import type { CauseView } from '@legame/core/contract';
import { comesBack } from '@legame/core/state';
import { acts } from '../../api/acts.ts';
import { EvidenceLegend } from '../../parts/EvidenceStrip.tsx';
import { MemberList } from '../../parts/MemberList.tsx';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { causeSentence, mendWords } from '@legame/words/causes';
import { clock, count } from '@legame/words/numbers';

/** What mending a cause would do, clip by clip, and what would stay. Nothing has been done yet. */
export function CausePanel({
  projectId,
  cause,
  isBusy,
  onMend,
  onLedger,
}: {
  projectId: string;
  cause: CauseView;
  isBusy: boolean;
  onMend: (how: { alternative?: string; except?: string[] }) => void;
  onLedger: () => void;
}) {
  const preview = acts.useCausePreviewQuery({ projectId, key: cause.key });
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  if (!preview.data) return <Waiting what="what it would do" error={preview.error} />;
  const { members, backSeconds, alternatives } = preview.data;
  const fitting = members.filter((m) => m.fits);
  const staying = members.length - fitting.filter(comesBack).length;
  const going = fitting.filter((m) => !left.has(m.clipId)).length;
  const isLikely = cause.certainty === 'likely';
  const isShift = cause.kind.code === 'displaced' && cause.kind.timecode !== null;
  const except = left.size > 0 ? { except: [...left] } : {};
  const leave = (id: string) =>
    setLeft((before) => new Set(before.has(id) ? [...before].filter((other) => other !== id) : [...before, id]));
  return (
    <section className="flex h-full flex-col p-3.5" aria-label="preview of mending">
      <h2 className="text-[15px] font-semibold">
        {fitting.length > 0
          ? `What “${mendWords({ ...cause, links: going })}” will do`
          : causeSentence(cause.kind, members.length)}
      </h2>
      <p className="mt-1 mb-2 text-quiet">
        {fitting.length > 0 ? (
          <>
            {isLikely && 'Only likely: look at a few before you say so. '}
            No edit decision changes{isShift && '; the clips are read with another timecode from then on'}.{' '}
            {going < fitting.length && 'At most '}
            {clock(backSeconds)} of screen time comes back.
            {staying > 0 && ` ${count(staying, 'clip')} would stay dark, listed last.`}
            {going < fitting.length && ` Left out by you: ${fitting.length - going}.`} Undo is one step.
          </>
        ) : (
          `${count(members.length, 'clip')}. ${alternatives.length > 0 ? 'Nothing proves these: look at a few, then say.' : 'Nothing here can be linked by one decision.'}`
        )}
      </p>
      <MemberList
        members={members}
        left={left}
        onLeave={leave}
        canLeave={(m) => m.fits || alternatives.length > 0}
        label="clips of this cause"
      />
      {alternatives.length > 0 && (
        <div className="flex flex-col items-start gap-1.5 py-2">
          {alternatives.map((folder) => (
            <button
              key={folder}
              type="button"
              className="btn btn-plain btn-sm"
              disabled={isBusy}
              onClick={() => onMend({ alternative: folder, ...except })}
            >
              Take {members.length === 1 ? 'the one' : 'those'} in <span className="font-mono">{folder}</span>
            </button>
          ))}
        </div>
      )}
      <div className="flex gap-2 py-2.5">
        {fitting.length > 0 && (
          <button
            type="button"
            className={`btn btn-sm ${isLikely ? 'btn-plain' : 'btn-primary'}`}
            disabled={isBusy || going === 0}
            onClick={() => onMend(except)}
          >
            {mendWords({ ...cause, links: going })}
          </button>
        )}
        <button type="button" className="btn btn-plain btn-sm" onClick={onLedger}>
          See in the ledger
        </button>
      </div>
      <EvidenceLegend />
    </section>
  );
}

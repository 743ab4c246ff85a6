import { useState } from 'react';
import { formatRate } from '@legame/core/time';
import type { BenchRow } from '@legame/core/contract';
import { acts } from '../../api/acts.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { count } from '@legame/words/numbers';
import { draftFor, offsetGroups, ratesToReadAt, uncoveredWhen, type Draft } from './drafts.ts';

/** Found offsets as groups, and what can be done to the selection, with what it would do to coverage. */
export function BenchPanel({
  projectId,
  rows,
  chosen,
  draft,
  onDraft,
  onChoose,
}: {
  projectId: string;
  rows: readonly BenchRow[];
  chosen: readonly BenchRow[];
  draft: Draft | null;
  onDraft: (draft: Draft | null) => void;
  onChoose: (rows: readonly BenchRow[]) => void;
}) {
  const [text, setText] = useState('01:00:00:00');
  const way = (label: string, title: string, make: Draft) => (
    <button
      type="button"
      aria-pressed={JSON.stringify(draft) === JSON.stringify(make)}
      className={`btn btn-plain btn-sm ${JSON.stringify(draft) === JSON.stringify(make) ? 'border-base-content! font-semibold' : ''}`}
      title={title}
      disabled={chosen.length === 0}
      onClick={() => onDraft(make)}
    >
      {label}
    </button>
  );
  return (
    <section className="flex h-full flex-col overflow-auto p-3.5" aria-label="timecode of the selection">
      <FoundOffsets
        rows={rows}
        onTake={(list) => {
          onChoose(list);
          onDraft({ kind: 'as-found' });
        }}
      />
      <h2 className="mt-4 text-[15px] font-semibold">{count(chosen.length, 'clip')} selected</h2>
      {chosen.length === 0 && <p className="mt-1 text-quiet">Choose clips at the left, or an offset above.</p>}
      <div className="mt-2 flex flex-wrap gap-1.5">
        {way('By what was found', 'Each clip by what stands between it and its file', { kind: 'as-found' })}
        {way('From the first frame', 'The edit counts from the first frame of the file', { kind: 'from-first-frame' })}
        {way('As stated', 'Forget how it was counted otherwise', { kind: 'as-stated' })}
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-1.5">
        <input
          className="input input-sm w-32 font-mono"
          aria-label="timecode"
          value={text}
          onChange={(e) => {
            setText(e.target.value);
            if (draft?.kind === 'shift' || draft?.kind === 'start-at') onDraft({ ...draft, text: e.target.value });
          }}
        />
        {way('Later by it', 'Add it to every address', { kind: 'shift', text, back: false })}
        {way('Earlier by it', 'Take it off every address', { kind: 'shift', text, back: true })}
        {way('Start at it', 'The first address becomes this', { kind: 'start-at', text })}
      </div>
      <label className="mt-2 flex items-center gap-2">
        Count at
        <select
          className="select select-sm w-40"
          aria-label="rate to count at"
          disabled={chosen.length === 0}
          value={draft?.kind === 'at-rate' ? formatRate(draft.rate) : ''}
          onChange={(e) => {
            const rate = ratesToReadAt.find((r) => formatRate(r) === e.target.value);
            onDraft(rate ? { kind: 'at-rate', rate } : null);
          }}
        >
          <option value="">its own rate</option>
          {ratesToReadAt.map((r) => (
            <option key={formatRate(r)} value={formatRate(r)}>
              {formatRate(r)}
            </option>
          ))}
        </select>
      </label>
      {draft && <Outcome projectId={projectId} chosen={chosen} draft={draft} onDone={() => onDraft(null)} />}
    </section>
  );
}

/** How files stand apart from their clips, in groups: one decision for each. */
function FoundOffsets({ rows, onTake }: { rows: readonly BenchRow[]; onTake: (rows: readonly BenchRow[]) => void }) {
  const groups = offsetGroups(rows);
  return (
    <>
      <h2 className="text-[15px] font-semibold">Found offsets</h2>
      {groups.length === 0 ? (
        <p className="mt-1 text-quiet">Every file counts as its clip does.</p>
      ) : (
        <ul className="mt-1" aria-label="offsets">
          {groups.map((group) => (
            <li key={group.key} className="line-b flex items-center gap-2 py-1.5">
              <span className="min-w-0 flex-1 font-mono [overflow-wrap:anywhere]">{group.label}</span>
              <button type="button" className="btn btn-plain btn-xs" onClick={() => onTake(group.rows)}>
                Take these {group.rows.length}
              </button>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

/** What a draft would do to coverage, and the act. */
function Outcome({
  projectId,
  chosen,
  draft,
  onDone,
}: {
  projectId: string;
  chosen: readonly BenchRow[];
  draft: Draft;
  onDone: () => void;
}) {
  const [interpret, interpreted] = acts.useInterpretMutation();
  const drafted = chosen.map((row) => ({ row, to: draftFor(row, draft) }));
  const going = drafted.flatMap(({ row, to }) => (to.ok ? [{ row, interpretation: to.interpretation }] : []));
  const uncovered = (list: readonly (number | null)[]) => list.reduce<number>((sum, n) => sum + (n ?? 0), 0);
  const [before, after] = [
    uncovered(going.map(({ row }) => row.uncoveredInFrames)),
    uncovered(going.map(({ row, interpretation }) => uncoveredWhen(row, interpretation))),
  ];
  const apply = () =>
    void interpret({
      projectId,
      clips: going.map(({ row, interpretation }) => ({ clipId: row.clipId, interpretation })),
    })
      .unwrap()
      .then(() => onDone())
      .catch(() => undefined);
  return (
    <>
      <div className="mt-3" role="status">
        <p>
          {count(going.length, 'clip')} would be counted otherwise
          {drafted.length > going.length && `, ${drafted.length - going.length} cannot be`}.
        </p>
        <p>
          Used frames that no file covers: <b className="font-mono">{before}</b> →{' '}
          <b className={`font-mono ${after ? 'text-missing' : 'text-linked'}`}>{after}</b>
        </p>
        <div className="mt-2 flex gap-1.5">
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={going.length === 0 || interpreted.isLoading}
            onClick={apply}
          >
            Apply to {going.length}
          </button>
          <button type="button" className="btn btn-plain btn-sm" onClick={() => onDone()}>
            Leave it
          </button>
        </div>
      </div>
      <ProblemNote error={interpreted.error} onClose={interpreted.reset} />
    </>
  );
}

import { Image } from 'lucide-react';
import { useMemo } from 'react';
import { isDark, statusNames, type StatusName } from '@legame/core/state';
import type { ClipRow } from '@legame/core/contract';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { prefer } from '../../app/usePreferences.ts';
import { CommandButton } from '../../commands/CommandButton.tsx';
import { StatusMark } from '../../parts/StatusMark.tsx';
import { filterStatus, filterText, type StatusFilter } from '../../session/selection.ts';
import { group } from '@legame/words/numbers';
import type { Preview } from './preview.ts';

const order: readonly StatusName[] = [...statusNames.filter((status) => status !== 'linked'), 'linked'];

function counted(rows: readonly ClipRow[]) {
  const counts = new Map<StatusName, number>();
  for (const { status } of rows) counts.set(status.status, (counts.get(status.status) ?? 0) + 1);
  const toDo = [...counts].reduce((sum, [status, n]) => sum + (isDark(status) ? n : 0), 0);
  return { counts, toDo, certain: rows.filter((row) => row.certainNow).length };
}

/** Filters with their counts, and what holds for the whole project. */
export function LedgerTools({ rows, onPreview }: { rows: readonly ClipRow[]; onPreview: (preview: Preview) => void }) {
  const { status, text } = useAppSelector((state) => state.selection);
  const pictures = useAppSelector((state) => state.preferences.mine.arePicturesShown);
  const dispatch = useAppDispatch();
  const { counts, toDo, certain } = useMemo(() => counted(rows), [rows]);
  const chip = (filter: StatusFilter, label: React.ReactNode) => (
    <button
      key={filter}
      type="button"
      aria-pressed={status === filter}
      className={`flex h-[26px] items-center gap-1 rounded border px-2 whitespace-nowrap ${status === filter ? 'border-base-content bg-base-100 font-semibold' : 'border-base-300 bg-base-100'}`}
      onClick={() => dispatch(filterStatus(filter))}
    >
      {label}
    </button>
  );
  return (
    <div className="line-b flex flex-wrap items-center gap-1 bg-base-200 px-2.5 py-2">
      {chip('to-do', <>To do {group(toDo)}</>)}
      {order
        .filter((s) => counts.has(s))
        .map((s) =>
          chip(
            s,
            <>
              <StatusMark status={s} /> {group(counts.get(s)!)}
            </>,
          ),
        )}
      {chip('all', <>All {group(rows.length)}</>)}
      <input
        className="input input-sm h-[26px] w-24"
        placeholder="filter…"
        aria-label="filter clips"
        value={text}
        onChange={(e) => dispatch(filterText(e.target.value))}
        // Out of the field, so that the keys work on the rows again.
        onKeyDown={(e) => (e.key === 'Escape' || e.key === 'Enter') && e.currentTarget.blur()}
      />
      <span className="ml-auto flex flex-wrap justify-end gap-1.5">
        <button
          type="button"
          className="btn btn-plain btn-sm h-[26px] px-2"
          aria-pressed={pictures}
          aria-label="pictures"
          title="A small picture of each row's file"
          onClick={() => void dispatch(prefer({ arePicturesShown: !pictures }))}
        >
          <Image size={14} aria-hidden />
        </button>
        <CommandButton id="reconnect" className="btn btn-plain btn-sm h-[26px]">
          Files…
        </CommandButton>
        <button
          type="button"
          className="btn btn-plain btn-sm h-[26px]"
          title="What matching goes by, attribute by attribute"
          onClick={() => onPreview({ kind: 'rules' })}
        >
          Rules…
        </button>
        <button
          type="button"
          className="btn btn-plain btn-sm h-[26px]"
          title="Which containers, codecs, depths and rates this project’s edit can use; other files count as unreadable"
          onClick={() => onPreview({ kind: 'acceptance' })}
        >
          Codecs…
        </button>
        <button
          type="button"
          className="btn btn-primary btn-sm h-[26px]"
          disabled={certain === 0}
          onClick={() => onPreview({ kind: 'certain' })}
          title="Run the rules: what has one certain candidate. You see it before it is done."
        >
          {certain ? `Link ${group(certain)} certain…` : 'Nothing certain to link'}
        </button>
      </span>
    </div>
  );
}

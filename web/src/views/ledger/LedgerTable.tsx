import { Clock, Pin } from 'lucide-react';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type MouseEvent } from 'react';
import type { ClipRow } from '@legame/core/contract';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { SelectAllCell, SelectCell } from '../../parts/SelectCells.tsx';
import { EvidenceStrip } from '../../parts/EvidenceStrip.tsx';
import { pictureUrl } from '../../api/legame.ts';
import { PathText } from '../../parts/PathText.tsx';
import { StatusMark } from '../../parts/StatusMark.tsx';
import { extend, pick, pickMany, sortBy, toggle, type SortKey } from '../../session/selection.ts';
import { statusSentence, whySentence } from '@legame/words/statuses';
import { unreadableWords } from '@legame/words/storage';
import { foundPath } from './rows.ts';

export const rowHeight = 42;
const columns =
  'grid grid-cols-[26px_104px_minmax(140px,1fr)_142px_minmax(140px,1.1fr)_38px] items-center gap-x-3 px-3 @max-2xl:grid-cols-[18px_24px_minmax(100px,1fr)_142px_minmax(100px,1.1fr)_28px] @max-2xl:gap-x-1.5 @max-2xl:px-2';
/** Narrower than this the table is moved sideways. */
const narrowest = 'min-w-[470px]';
const heads: readonly (readonly [SortKey | null, string])[] = [
  ['status', 'Status'],
  ['name', 'The edit remembers'],
  [null, 'Evidence'],
  ['found', 'On the storage'],
  ['uses', 'uses'],
];

/** A virtual list: only the rows in sight exist, however many there are. */
export function LedgerTable({ rows, order }: { rows: readonly ClipRow[]; order: readonly string[] }) {
  const scroller = useRef<HTMLDivElement>(null);
  const { ids, focus, sort, descending } = useAppSelector((state) => state.selection);
  const pictures = useAppSelector((state) => state.look.pictures);
  const dispatch = useAppDispatch();
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const chosen = new Set(ids);
  const focusAt = focus ? order.indexOf(focus) : -1;
  useEffect(() => {
    if (focusAt >= 0) virtual.scrollToIndex(focusAt, { align: 'auto' });
    // Only when the focus moves: a list must not jump because its rows were loaded again.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [focus]);

  const click = (row: ClipRow) => (event: MouseEvent) => {
    if (event.shiftKey) dispatch(extend({ id: row.id, order }));
    else if (event.ctrlKey || event.metaKey) dispatch(toggle(row.id));
    else dispatch(pick(row.id));
  };
  return (
    <div
      className="@container flex min-h-0 flex-1 flex-col overflow-x-auto bg-base-100"
      role="grid"
      aria-multiselectable
      aria-label="clips"
      aria-rowcount={rows.length + 1}
    >
      <div className={`${columns} line-b h-7 ${narrowest} text-quiet`} role="row">
        <SelectAllCell
          isOn={rows.length > 0 && rows.every((row) => chosen.has(row.id))}
          onChange={(isOn) => dispatch(pickMany(isOn ? order : []))}
        />
        {heads.map(([key, title]) => (
          <span
            key={title}
            role="columnheader"
            aria-sort={key === sort ? (descending ? 'descending' : 'ascending') : 'none'}
            className={`truncate ${title === 'uses' ? 'text-right' : ''}`}
          >
            {key ? (
              <button type="button" className="hover:text-base-content" onClick={() => dispatch(sortBy(key))}>
                {title}
                {key === sort && (descending ? ' ↓' : ' ↑')}
              </button>
            ) : (
              title
            )}
          </span>
        ))}
      </div>
      {rows.length === 0 && <p className="p-4 text-quiet">No clip passes this filter.</p>}
      <div
        ref={scroller}
        role={rows.length > 0 ? 'rowgroup' : undefined}
        className={`min-h-0 flex-1 overflow-x-hidden overflow-y-auto ${narrowest}`}
        tabIndex={rows.length > 0 ? 0 : -1}
      >
        <div className="relative" role="presentation" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index]!;
            const isChosen = chosen.has(row.id);
            return (
              <div
                key={row.id}
                role="row"
                aria-selected={isChosen}
                aria-rowindex={item.index + 2}
                data-clip={row.fileName}
                className={`${columns} line-b absolute inset-x-0 cursor-default select-none ${isChosen ? 'bg-[var(--bond-wash)]' : 'hover:bg-base-200'} ${row.id === focus ? 'shadow-[inset_3px_0_0_var(--color-primary)]' : ''}`}
                style={{ height: rowHeight, transform: `translateY(${item.start}px)` }}
                onClick={click(row)}
              >
                <SelectCell name={row.fileName} isOn={isChosen} onToggle={() => dispatch(toggle(row.id))} />
                <span role="gridcell" title={statusSentence(row.status)} className="min-w-0 overflow-hidden">
                  <StatusMark status={row.status.status} />
                </span>
                <span role="gridcell" className="min-w-0">
                  <span className="flex min-w-0 items-center gap-1 font-mono" title={row.fileName}>
                    <span className="truncate">{row.fileName}</span>
                    {row.pinned && <Pin size={12} className="shrink-0" role="img" aria-label="pinned" />}
                    {row.interpreted && (
                      <Clock size={12} className="shrink-0" role="img" aria-label="timecode counted otherwise" />
                    )}
                  </span>
                  <span className="flex min-w-0 gap-1.5 text-[12px] text-quiet">
                    {row.reel && <span className="shrink-0 font-mono">{row.reel}</span>}
                    <PathText path={row.folder || 'no path'} />
                  </span>
                </span>
                <span role="gridcell">{row.verdicts && <EvidenceStrip verdicts={row.verdicts} />}</span>
                <span role="gridcell" className="flex min-w-0 items-center gap-2">
                  {pictures && <Thumbnail row={row} />}
                  <Found row={row} />
                </span>
                <span role="gridcell" className="text-right font-mono">
                  {row.uses}
                </span>
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}

/** A small picture of the tied file or the candidate, made when it is scrolled to. */
function Thumbnail({ row }: { row: ClipRow }) {
  const found = row.tied ?? row.candidate;
  const isShown =
    found && row.status.status !== 'missing' ? row.kind !== 'sound' : row.candidate && row.kind !== 'sound';
  if (!found || !isShown) return <span className="w-[58px] shrink-0" />;
  const source = pictureUrl({ id: found.mediaFileId, version: found.version }, 0, 160);
  return (
    <img
      src={source}
      alt=""
      loading="lazy"
      className="h-[33px] w-[58px] shrink-0 rounded-[2px] bg-base-300 object-cover"
    />
  );
}

/** What lies on the storage: the tied file, the candidate, or why there is none. */
function Found({ row }: { row: ClipRow }) {
  const found = row.tied ?? row.candidate;
  const needsWords =
    !found ||
    row.decision === 'refused' ||
    (row.why && ['several', 'contested', 'place-away', 'still-reading'].includes(row.why.code));
  if (!row.tied && needsWords && row.why) {
    return (
      <span className="line-clamp-2 min-w-0 text-quiet" title={whySentence(row.why)}>
        {whySentence(row.why)}
      </span>
    );
  }
  if (row.tied && row.status.status === 'unreadable') {
    const said = unreadableWords(row.status.reason);
    return (
      <span className="min-w-0">
        <span className="block truncate font-mono" title={row.tied.name}>
          {row.tied.name}
        </span>
        <span className="block truncate text-[12px] text-unreadable" title={said}>
          {said}
        </span>
      </span>
    );
  }
  // Tied, and not there: why counts for more than where.
  if (row.tied && row.status.status === 'missing') {
    const said = row.why?.code === 'place-away' ? whySentence(row.why) : statusSentence(row.status);
    return (
      <span className="line-clamp-2 min-w-0 text-quiet" title={said}>
        {said}
      </span>
    );
  }
  if (!found)
    return (
      <span className="text-quiet">
        {row.decision === 'not-matched-yet' ? 'being matched…' : statusSentence(row.status)}
      </span>
    );
  return (
    <span className="min-w-0">
      <span className="block truncate font-mono" title={found.name}>
        {found.name}
      </span>
      <span className="flex min-w-0 gap-1.5 text-[12px] text-quiet">
        {!row.tied && <span className="shrink-0">{row.certainty ?? 'refused'}:</span>}
        <PathText path={foundPath(row)} />
      </span>
    </span>
  );
}

import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef } from 'react';
import type { DeskRowView } from '@legame/core/contract';
import { sourceName } from '@legame/core/report';
import { rangeLength } from '@legame/core/time';
import { clock, timecode, when } from '@legame/words/numbers';
import { deskStateWords } from '@legame/words/pulls';

const secondsOf = ({ ranges, rate }: DeskRowView): number =>
  (ranges.reduce((sum, range) => sum + rangeLength(range), 0) * rate.den) / rate.num;

/** A reel, with all of its sources, or one of them. */
type Line = { readonly reel: string; readonly of: readonly DeskRowView[] } | { readonly row: DeskRowView };

function linesOf(rows: readonly DeskRowView[]): Line[] {
  const reels = new Map<string, DeskRowView[]>();
  for (const row of rows) {
    const reel = row.reel ?? 'no reel';
    const known = reels.get(reel);
    if (known) known.push(row);
    else reels.set(reel, [row]);
  }
  return [...reels].flatMap(([reel, of]) => [{ reel, of }, ...of.map((row) => ({ row }))]);
}

const lineHeight = 27;
const columns = 'grid grid-cols-[36px_minmax(0,1fr)_190px_72px_minmax(0,1fr)] items-center';

/**
 * Sources by reel, to choose by one, by reel or all; the first stretch of each is told, and how many more there are. A
 * virtual list: it may be twenty thousand.
 */
export function PullTable({
  rows,
  selected,
  inHand,
  onSelect,
  onInHand,
}: {
  rows: readonly DeskRowView[];
  selected: ReadonlySet<string>;
  inHand: string | null;
  onSelect: (keys: ReadonlySet<string>) => void;
  onInHand: (key: string) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const lines = useMemo(() => linesOf(rows), [rows]);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => lineHeight,
    overscan: 12,
    initialRect: { width: 700, height: 600 },
  });
  const box = (label: string, list: readonly DeskRowView[]) => (
    <input
      type="checkbox"
      className="checkbox checkbox-xs ml-3.5"
      aria-label={label}
      checked={list.every((r) => selected.has(r.key))}
      onClick={(event) => event.stopPropagation()}
      onChange={() => {
        const next = new Set(selected);
        const areAll = list.every((r) => selected.has(r.key));
        for (const { key } of list)
          if (areAll) next.delete(key);
          else next.add(key);
        onSelect(next);
      }}
    />
  );
  const isMarked = ({ key }: DeskRowView) => key === inHand || selected.has(key);
  return (
    <div
      ref={scroller}
      role="table"
      aria-label="pull list"
      aria-rowcount={rows.length}
      tabIndex={0}
      className="min-h-0 flex-1 overflow-auto"
    >
      <div role="row" className={`${columns} line-b sticky top-0 z-10 bg-base-200 py-1 text-quiet`}>
        <span role="columnheader" aria-label="chosen">
          {box('select all', rows)}
        </span>
        <span role="columnheader">File</span>
        <span role="columnheader">From</span>
        <span role="columnheader" className="pr-3 text-right">
          Length
        </span>
        <span role="columnheader">How it stands</span>
      </div>
      <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map((item) => {
          const line = lines[item.index]!;
          const at = { height: lineHeight, top: item.start };
          if ('reel' in line)
            return (
              <div
                key={`reel ${line.reel}`}
                role="row"
                style={at}
                className={`${columns} line-b absolute inset-x-0 bg-base-100`}
              >
                <span role="cell">{box(`select reel ${line.reel}`, line.of)}</span>
                <span role="rowheader" className="col-span-4 truncate font-semibold">
                  {line.reel}{' '}
                  <span className="font-normal text-quiet">
                    {clock(line.of.reduce((sum, row) => sum + secondsOf(row), 0))}
                  </span>
                </span>
              </div>
            );
          const { row } = line;
          return (
            <div
              key={row.key}
              role="row"
              aria-selected={isMarked(row)}
              style={at}
              className={`${columns} line-b absolute inset-x-0 cursor-pointer ${isMarked(row) ? 'bg-[var(--bond-wash)]' : ''}`}
              onClick={() => onInHand(row.key)}
            >
              <span role="cell">{box(`select ${sourceName(row)}`, [row])}</span>
              <span role="cell" className="truncate pr-2">
                <button type="button" className="max-w-full truncate font-mono" title={row.names.join(', ')}>
                  {row.file}
                  {row.folder && <span className="text-quiet"> in {row.folder}</span>}
                </button>
              </span>
              <span role="cell" className="font-mono">
                <Stretch row={row} />
              </span>
              <span role="cell" className="pr-3 text-right font-mono">
                {clock(secondsOf(row))}
              </span>
              <span role="cell" className="truncate pr-2">
                <State row={row} />
              </span>
            </div>
          );
        })}
      </div>
    </div>
  );
}

function Stretch({ row: { ranges, rate, counting } }: { row: DeskRowView }) {
  const [first] = ranges;
  if (!first) return null;
  return (
    <>
      {timecode(first.start, rate, counting)}
      {ranges.length > 1 && <span className="text-quiet"> +{ranges.length - 1}</span>}
    </>
  );
}

function State({ row: { state, request, beyond, here } }: { row: DeskRowView }) {
  const of = request?.holder ? ` of ${request.holder}` : '';
  const text = state === 'asked' ? `asked${of}` : deskStateWords[state];
  return (
    <span title={request ? when(request.at) : undefined}>
      <span className={state === 'wanted' ? '' : 'font-semibold'}>{text}</span>
      {beyond.length > 0 && <span className="text-quiet">, more is wanted since</span>}
      {state !== 'arrived' && here.length > 0 && <span className="text-quiet">, a file waits</span>}
    </span>
  );
}

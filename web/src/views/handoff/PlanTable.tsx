import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState } from 'react';
import type { Handoff, PlannedContent, PlannedRecording } from '@legame/core/contract';
import { treatmentText } from '@legame/words/handoffs';
import { bytes, count } from '@legame/words/numbers';
import {
  filters,
  planRows,
  sortings,
  type Filter,
  type PlanRow,
  type Proof,
  type Sorting,
  type Treatable,
} from './planRows.ts';
import { SpanRuler } from './SpanRuler.tsx';

const columns = 'grid items-center gap-4 px-2';
const widths = {
  kept: 'minmax(0,1fr) minmax(0,1.4fr) minmax(0,1.5fr) 76px 56px',
  chosen: 'minmax(0,1fr) minmax(0,1.2fr) 104px minmax(0,1.5fr) 76px 56px',
} as const;
const tones = { missing: 'text-missing', changed: 'text-changed', quiet: 'text-quiet' } as const;

/** One row a recording: what of it goes, as what, with how many bytes; and every clip that cannot come. */
export function PlanTable({
  plan,
  copied,
  onTreat = null,
}: {
  plan: PlannedContent;
  copied: Handoff['copied'] | null;
  /** While it is still chosen: what is done with one recording; null for what is done with its kind. */
  onTreat?: OnTreat | null;
}) {
  const [sorting, setSorting] = useState<Sorting>('saved');
  const [filter, setFilter] = useState<Filter>('all');
  const scroller = useRef<HTMLDivElement>(null);
  const style = { gridTemplateColumns: widths[onTreat ? 'chosen' : 'kept'] };
  const rows = planRows(plan, copied, { sorting, filter });
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 44,
    overscan: 10,
  });
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-center gap-3 py-1.5 text-quiet">
        <Choice label="rows shown" options={filters} chosen={filter} onChoose={setFilter} />
        <span className="flex-1" />
        <span>{count(rows.length, 'row')}, sorted by</span>
        <Choice label="sorted by" options={sortings} chosen={sorting} onChoose={setSorting} />
      </div>
      <div className="sheet flex min-h-0 flex-1 flex-col" role="table" aria-label="what goes">
        <div className={`${columns} line-b h-7 shrink-0 text-quiet`} style={style} role="row">
          <span role="columnheader">Recording</span>
          <span role="columnheader" className="truncate">
            What of it goes{onTreat ? '' : ': used, handles, left behind'}
          </span>
          {onTreat && <span role="columnheader">Done with it</span>}
          <span role="columnheader">{copied ? 'As, and its xxh64 read back' : 'As'}</span>
          <span role="columnheader" className="text-right">
            Bytes
          </span>
          <span role="columnheader" className="text-right">
            of whole
          </span>
        </div>
        <div ref={scroller} className="min-h-40 flex-1 overflow-auto" role="rowgroup" tabIndex={0}>
          <div className="relative" role="presentation" style={{ height: virtual.getTotalSize() }}>
            {virtual.getVirtualItems().map((item) => (
              <div
                key={rows[item.index]!.key}
                role="row"
                className={`${columns} line-b absolute inset-x-0`}
                style={{ ...style, height: 44, transform: `translateY(${item.start}px)` }}
              >
                <RowCells row={rows[item.index]!} onTreat={onTreat} />
              </div>
            ))}
          </div>
        </div>
      </div>
    </div>
  );
}

type OnTreat = (mediaFileId: Treatable['mediaFileId'], treatment: Treatable['chosen']) => void;

/** What is done with one recording, where that is not what is done with its kind. */
function TreatedAs({ row: { treatable, recording, name }, onTreat }: { row: PlanRow; onTreat: OnTreat }) {
  if (!treatable) return null;
  const { mediaFileId, options, chosen } = treatable;
  return (
    <select
      className={`select select-xs w-full ${chosen ? 'font-semibold' : 'text-quiet'}`}
      aria-label={`done with ${name}`}
      value={chosen ?? ''}
      onChange={(e) => onTreat(mediaFileId, options.find((t) => t === e.target.value) ?? null)}
    >
      <option value="">{recording && chosen === null ? treatmentText[recording.treatment] : 'as its kind'}</option>
      {options.map((t) => (
        <option key={t} value={t}>
          {treatmentText[t]}
        </option>
      ))}
    </select>
  );
}

function RowCells({ row, onTreat }: { row: PlanRow; onTreat: OnTreat | null }) {
  const { recording, remark, sizeInBytes, wholeInBytes } = row;
  const isGuessed = recording?.coded !== undefined && recording.coded !== null && !row.proof?.sizeInBytes;
  const share = sizeInBytes !== null && wholeInBytes ? Math.round((sizeInBytes / wholeInBytes) * 100) : null;
  return (
    <>
      <span role="cell" className="min-w-0">
        <b className="block truncate font-mono" title={row.name}>
          {row.name}
        </b>
        <span className="block truncate font-mono text-[12px] text-quiet" title={row.where}>
          {row.where || 'nowhere'}
        </span>
      </span>
      <span role="cell">
        {recording ? (
          <SpanRuler recording={recording} />
        ) : (
          <span className="block h-3.5 border border-dashed border-base-content/30" />
        )}
      </span>
      {onTreat && (
        <span role="cell">
          <TreatedAs row={row} onTreat={onTreat} />
        </span>
      )}
      <span role="cell" className="min-w-0">
        {recording && <As recording={recording} />}
        <span className="flex gap-2">
          {row.proof && <Proven proof={row.proof} />}
          {remark && (
            <span className={`min-w-0 truncate ${tones[remark.tone]}`} title={remark.text}>
              {remark.text}
            </span>
          )}
        </span>
      </span>
      <span role="cell" className="text-right font-mono">
        {sizeInBytes === null ? '–' : `${isGuessed ? '≈ ' : ''}${bytes(sizeInBytes)}`}
      </span>
      <span role="cell" className="text-right font-mono">
        {share === null ? '–' : `${share} %`}
      </span>
    </>
  );
}

function As({ recording: { outs } }: { recording: PlannedRecording }) {
  const first = outs[0]!;
  return (
    <span className="block truncate font-mono" title={first.target}>
      {first.target.replace(/^media\//, '')}
      {outs.length > 1 && <span className="text-quiet"> +{outs.length - 1}</span>}
      {first.files > 1 && <span className="text-quiet"> · {count(first.files, 'frame')}</span>}
    </span>
  );
}

function Proven({ proof: { xxh64, of, verified } }: { proof: Proof }) {
  const says = xxh64 ?? (of > 1 && verified > 0 ? `${verified} of ${of} verified` : null);
  return says && <span className="shrink-0 font-mono text-[12px] text-linked">{says}</span>;
}

function Choice<T extends string>({
  label,
  options,
  chosen,
  onChoose,
}: {
  label: string;
  options: Readonly<Record<T, string>>;
  chosen: T;
  onChoose: (id: T) => void;
}) {
  return (
    <select
      className="select select-xs w-auto"
      aria-label={label}
      value={chosen}
      onChange={(e) => onChoose(e.target.value as T)}
    >
      {(Object.entries(options) as [T, string][]).map(([id, title]) => (
        <option key={id} value={id}>
          {title}
        </option>
      ))}
    </select>
  );
}

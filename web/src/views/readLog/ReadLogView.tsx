import { ListAndPanel } from '../../parts/ListAndPanel.tsx';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState } from 'react';
import { useParams } from 'react-router';
import { storage } from '../../api/storage.ts';
import { ProblemNote, Waiting } from '../../parts/ProblemNote.tsx';
import { saveAs } from '../../parts/saveAs.ts';
import { count } from '@legame/words/numbers';
import { LogRow } from './LogRow.tsx';
import { logAsCsv } from './logAsCsv.ts';
import { TrialPanel } from './TrialPanel.tsx';

type Only = 'open' | 'trouble' | undefined;
const rowHeight = 40;
/** With the reason why it cannot be read, and what to do about it, in up to three lines. */
const reasonHeight = 72;
const mostShown = 2000;

/** What is being opened, by which worker, for how long, and what got stuck; beside it, trial reads. */
export function ReadLogView() {
  const { projectId = '' } = useParams();
  const [text, setText] = useState('');
  const [only, setOnly] = useState<Only>(undefined);
  const query = { limit: mostShown, ...(text.trim() ? { text: text.trim() } : {}), ...(only ? { only } : {}) };
  const log = storage.useReadLogQuery(query, { pollingInterval: 1000, refetchOnMountOrArgChange: true });
  const scroller = useRef<HTMLDivElement>(null);
  const rows = log.data ?? [];
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => (rows[i]?.reason ? reasonHeight : rowHeight),
    getItemKey: (i) => `${rows[i]?.id} ${rows[i]?.reason ? 'reason' : ''}`,
    overscan: 12,
  });
  const chip = (value: Only, label: string) => (
    <button
      type="button"
      aria-pressed={only === value}
      className={`h-[26px] rounded border bg-base-100 px-2 ${only === value ? 'border-base-content font-semibold' : 'border-base-300'}`}
      onClick={() => setOnly(value)}
    >
      {label}
    </button>
  );
  return (
    <ListAndPanel
      name="read-log"
      listClass="flex min-w-0 flex-col"
      panelSize="400px"
      panelAtMost="60%"
      panel={<TrialPanel projectId={projectId} />}
    >
      <div className="line-b flex flex-wrap items-center gap-1.5 bg-base-200 px-2.5 py-2">
        {chip(undefined, 'All')}
        {chip('open', 'Open now')}
        {chip('trouble', 'With trouble')}
        <input
          className="input input-sm h-[26px] w-48"
          placeholder="filter by path…"
          aria-label="filter the read log"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <span className="ml-auto text-quiet">{log.data && count(rows.length, 'entry', 'entries')}</span>
        <button
          type="button"
          className="btn btn-plain btn-sm h-[26px]"
          disabled={rows.length === 0}
          onClick={() => saveAs(new Blob([logAsCsv(rows)], { type: 'text/csv' }), 'read log.csv')}
        >
          Export CSV
        </button>
      </div>
      <div className="line-b grid grid-cols-[76px_minmax(0,1fr)_72px_140px_96px] gap-2 bg-base-200 px-3 py-1 text-quiet">
        <span>What</span>
        <span>Opened</span>
        <span className="text-right">Took</span>
        <span>Outcome</span>
        <span>By</span>
      </div>
      {!log.data ? (
        <Waiting what="the read log" error={log.error} />
      ) : rows.length === 0 ? (
        <p className="p-4 text-quiet">
          {only === 'open'
            ? 'Nothing is open now. What takes longer than a moment appears here while it is being read.'
            : 'Nothing yet. Every file that Legame opens leaves a line here.'}
        </p>
      ) : (
        <div
          ref={scroller}
          className="min-h-0 flex-1 overflow-auto"
          role="group"
          aria-label="what was read"
          tabIndex={0}
        >
          <div role="list" aria-label="read log" className="relative" style={{ height: virtual.getTotalSize() }}>
            {virtual.getVirtualItems().map((item) => {
              const entry = rows[item.index]!;
              return (
                <div
                  key={entry.id}
                  role="listitem"
                  className="absolute inset-x-0"
                  style={{ height: item.size, transform: `translateY(${item.start}px)` }}
                >
                  <LogRow entry={entry} />
                </div>
              );
            })}
          </div>
        </div>
      )}
      <ProblemNote error={log.data ? log.error : null} />
    </ListAndPanel>
  );
}

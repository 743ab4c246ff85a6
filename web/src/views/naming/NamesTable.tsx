import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState } from 'react';
import type { NamedFile } from '@legame/core/contract';
import { renameFaultWords } from '@legame/words/naming';
import { MarkedDifference } from '../../parts/PathText.tsx';

const columns = 'grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_minmax(0,1fr)_64px] items-center gap-4 px-2';

/** One row a file: what it is called, what it would be, who uses it and what stands in the way. */
export function NamesTable({
  files,
  onWrite,
}: {
  files: readonly NamedFile[];
  /** A name of a person's own; null goes by the pattern again. */
  onWrite: (mediaFileId: NamedFile['mediaFileId'], name: string | null) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  // What stands in the way first, then what changes.
  const rank = (f: NamedFile) => (f.fault ? 0 : f.to !== f.from ? 1 : 2);
  const rows = files.toSorted((a, b) => rank(a) - rank(b));
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 44,
    overscan: 10,
  });
  return (
    <div className="sheet flex min-h-0 flex-1 flex-col" role="table" aria-label="names">
      <div className={`${columns} line-b h-7 shrink-0 text-quiet`} role="row">
        <span role="columnheader">Called</span>
        <span role="columnheader">To be called</span>
        <span role="columnheader">Used by</span>
        <span role="columnheader" />
      </div>
      <div ref={scroller} className="min-h-0 flex-1 overflow-auto">
        <div style={{ height: `${virtual.getTotalSize()}px`, position: 'relative' }}>
          {virtual.getVirtualItems().map((item) => (
            <div
              key={rows[item.index]!.mediaFileId}
              className={`${columns} line-b absolute inset-x-0`}
              style={{ top: `${item.start}px`, height: `${item.size}px` }}
              role="row"
            >
              <Row file={rows[item.index]!} onWrite={(name) => onWrite(rows[item.index]!.mediaFileId, name)} />
            </div>
          ))}
        </div>
      </div>
    </div>
  );
}

function Row({ file, onWrite }: { file: NamedFile; onWrite: (name: string | null) => void }) {
  const { from, to, fault, placeName, folder, clips, elsewhere, isSidecar } = file;
  const [draft, setDraft] = useState<string | null>(null);
  const isKept = to === from;
  const users = [...clips, ...elsewhere.map((name) => `project ${name}`)].join(', ');
  const done = () => {
    if (draft !== null && draft.trim() !== to) onWrite(draft);
    setDraft(null);
  };
  return (
    <>
      <span role="cell" className="min-w-0">
        <span className="block truncate font-mono" title={from}>
          {isKept ? from : <MarkedDifference text={from} other={to} />}
        </span>
        <span className="block truncate font-mono text-[12px] text-quiet" title={folder}>
          {[placeName, folder].filter(Boolean).join('/')}
        </span>
      </span>
      <span role="cell" className="min-w-0">
        {isSidecar ? (
          <span className="block truncate pl-2 font-mono">{to}</span>
        ) : (
          <input
            className={`input input-xs w-full font-mono ${isKept ? 'text-quiet' : ''}`}
            aria-label={`name of ${from}`}
            value={draft ?? to}
            onChange={(e) => setDraft(e.target.value)}
            onBlur={done}
            onKeyDown={(e) => {
              if (e.key === 'Enter') done();
              if (e.key === 'Escape') setDraft(null);
            }}
          />
        )}
        {fault && <span className="block truncate pl-2 text-[12px] text-missing">{renameFaultWords[fault]}</span>}
      </span>
      <span role="cell" className="min-w-0 truncate text-quiet" title={users}>
        {isSidecar ? 'goes with its recording' : users}
      </span>
      <span role="cell" className="text-right">
        {!isKept && !isSidecar && (
          <button
            type="button"
            className="btn btn-plain btn-xs"
            aria-label={`keep ${from}`}
            title="It stays as it is called"
            onClick={() => onWrite(from)}
          >
            Keep
          </button>
        )}
      </span>
    </>
  );
}

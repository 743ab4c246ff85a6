import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import type { SetCheck, SetFile } from '@legame/core/contract';
import { bytes, group } from '@legame/words/numbers';
import { checkStateText } from '@legame/words/sets';
import { sets } from '../../api/sets.ts';
import { Waiting } from '../../parts/ProblemNote.tsx';

const columns = 'grid grid-cols-[120px_minmax(0,1.6fr)_150px_minmax(0,1fr)] items-center gap-4 px-2';
const rowHeight = 40;
const tones: Readonly<Record<SetFile['state'], string>> = {
  verified: 'text-linked',
  changed: 'text-missing',
  missing: 'text-missing',
  unreadable: 'text-unreadable',
  unproven: 'text-changed',
  moved: 'text-changed',
  new: 'text-changed',
  waiting: 'text-quiet',
};

/** Every file of a set with what became of it; what is wrong comes first, and any one state can be shown alone. */
export function SetFiles({
  check,
  state,
  onState,
}: {
  check: SetCheck;
  state: SetFile['state'] | null;
  onState: (state: SetFile['state'] | null) => void;
}) {
  const asked = sets.useSetFilesInfiniteQuery({ checkId: check.id, state });
  const scroller = useRef<HTMLDivElement>(null);
  const files = asked.data?.pages.flatMap((page) => page.files) ?? [];
  const virtual = useVirtualizer({
    count: files.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const isAtEnd = (items.at(-1)?.index ?? 0) >= files.length - 20;
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = asked;
  useEffect(() => {
    if (isAtEnd && hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [isAtEnd, hasNextPage, isFetchingNextPage, fetchNextPage]);
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2">
      <States check={check} state={state} onState={onState} />
      {!asked.data ? (
        <Waiting what="files" error={asked.error} />
      ) : (
        <div className="sheet flex min-h-0 flex-1 flex-col" role="table" aria-label="files of the set">
          <div className={`${columns} line-b h-7 shrink-0 text-quiet`} role="row">
            <span role="columnheader">State</span>
            <span role="columnheader">File</span>
            <span role="columnheader" className="text-right">
              Bytes
            </span>
            <span role="columnheader">Hash</span>
          </div>
          <div ref={scroller} className="min-h-32 flex-1 overflow-auto" role="rowgroup" tabIndex={0}>
            <div className="relative" role="presentation" style={{ height: virtual.getTotalSize() }}>
              {items.map((item) => (
                <div
                  key={item.key}
                  role="row"
                  className={`${columns} line-b absolute inset-x-0`}
                  style={{ height: rowHeight, transform: `translateY(${item.start}px)` }}
                >
                  <FileCells file={files[item.index]!} />
                </div>
              ))}
            </div>
          </div>
        </div>
      )}
    </div>
  );
}

function States({ check, state, onState }: Parameters<typeof SetFiles>[0]) {
  const there = (Object.keys(check.counts) as SetFile['state'][]).filter((s) => check.counts[s].files > 0);
  const choice = (of: SetFile['state'] | null, text: string) => (
    <button
      key={text}
      type="button"
      aria-pressed={state === of}
      className={`btn btn-xs ${state === of ? 'btn-primary' : 'btn-plain'}`}
      onClick={() => onState(of)}
    >
      {text}
    </button>
  );
  return (
    <div className="flex flex-wrap gap-1.5" role="group" aria-label="files shown">
      {choice(null, 'all')}
      {there.map((s) => choice(s, `${group(check.counts[s].files)} ${checkStateText[s]}`))}
    </div>
  );
}

function FileCells({ file }: { file: SetFile }) {
  const { path, listedPath, state, listedInBytes, foundInBytes, listed, found, detail } = file;
  const name =
    (Object.keys(found) as (keyof typeof found)[]).find((key) => listed?.[key]) ??
    (Object.keys(listed ?? found)[0] as keyof typeof found | undefined);
  const differs = listedInBytes !== null && foundInBytes !== null && listedInBytes !== foundInBytes;
  const size = foundInBytes ?? listedInBytes;
  return (
    <>
      <span role="cell" className={tones[state]}>
        {checkStateText[state]}
      </span>
      <span role="cell" className="min-w-0">
        <b className="block truncate font-mono" title={path}>
          {path}
        </b>
        {(listedPath ?? detail) && (
          <span className="block truncate text-[12px] text-quiet" title={listedPath ?? detail ?? ''}>
            {listedPath ? `listed as ${listedPath}` : detail}
          </span>
        )}
      </span>
      <span role="cell" className="text-right font-mono">
        {size === null ? '–' : bytes(size)}
        {differs && <span className="block text-[12px] text-missing">listed: {bytes(listedInBytes)}</span>}
      </span>
      <span role="cell" className="min-w-0 font-mono text-[12px]">
        {name && (
          <span className="block truncate" title={found[name] ?? listed?.[name]}>
            <span className="text-quiet">{name}</span> {found[name] ?? listed?.[name] ?? '–'}
          </span>
        )}
        {name && state === 'changed' && found[name] && (
          <span className="block truncate text-missing" title={listed?.[name]}>
            listed: {listed?.[name]}
          </span>
        )}
      </span>
    </>
  );
}

import { useEffect, useState } from 'react';
import type { OpeningView } from '@legame/core/contract';
import { PathText } from '../../parts/PathText.tsx';
import { count } from '@legame/words/numbers';
import { openingWords, outcomeWords, saidOf } from '@legame/words/storage';
import { secondsBetween } from './logAsCsv.ts';

/** What is open for longer than this has got stuck. */
const stuckSeconds = 5;

/** One entry of the read log; while it is open its time runs. */
export function LogRow({ entry }: { entry: OpeningView }) {
  const now = useNow(entry.endedAt === null);
  const seconds = entry.endedAt
    ? secondsBetween(entry.begunAt, entry.endedAt)
    : (now - new Date(entry.begunAt).getTime()) / 1000;
  const isOpen = entry.endedAt === null;
  const isStuck = isOpen && seconds > stuckSeconds;
  const said = saidOf(entry);
  const isTrouble = entry.outcome !== null && entry.outcome !== 'ok';
  return (
    <div className="line-b grid h-full grid-cols-[76px_minmax(0,1fr)_72px_140px_96px] items-center gap-2 px-3">
      <span className="text-quiet">{openingWords[entry.what]}</span>
      <span className="min-w-0">
        <PathText path={entry.path} />
        <span
          className={`text-[12px] leading-4 text-quiet ${entry.reason ? 'line-clamp-3' : 'block truncate'}`}
          title={said || undefined}
        >
          {entry.files > 1 ? `and ${count(entry.files - 1, 'other')}, quickly` : said}
        </span>
      </span>
      <span className={`text-right font-mono ${isStuck ? 'font-bold text-missing' : ''}`}>
        {seconds < 1 ? `${Math.max(1, Math.round(seconds * 1000))} ms` : `${seconds.toFixed(1)} s`}
      </span>
      <span
        className={
          isStuck ? 'font-semibold text-missing' : isTrouble ? 'text-unreadable' : isOpen ? 'text-linked' : 'text-quiet'
        }
      >
        {isStuck ? 'stuck: no end yet' : isOpen ? 'open now' : outcomeWords[entry.outcome ?? 'ok']}
      </span>
      <span className="truncate font-mono text-[12px] text-quiet" title={entry.worker}>
        {entry.worker}
      </span>
    </div>
  );
}

function useNow(isRunning: boolean): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (!isRunning) return;
    const timer = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(timer);
  }, [isRunning]);
  return now;
}

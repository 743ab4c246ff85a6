import { useState } from 'react';
import type { BinFinding } from '@legame/core/bins';
import { findingSentence } from '@legame/words/bins';
import { count } from '@legame/words/numbers';

/** What is odd in a bin, each in a sentence that selects the clips it is about. */
export function Findings({
  findings,
  titleOf,
  onShow,
}: {
  findings: readonly BinFinding[];
  titleOf: (column: string) => string;
  onShow: (finding: BinFinding) => void;
}) {
  const [isOpen, setOpen] = useState(false);
  if (findings.length === 0) return null;
  return (
    <section className="line-b bg-base-100 px-2.5 py-1" aria-label="what is odd here">
      <button type="button" className="font-semibold" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
        {isOpen ? '▾' : '▸'} {count(findings.length, 'thing')} {findings.length === 1 ? 'is' : 'are'} odd here
      </button>
      {isOpen && (
        <ul className="max-h-36 overflow-auto pb-1">
          {findings.map((finding, i) => (
            <li key={i} className="flex items-baseline gap-2 py-0.5">
              <span className="min-w-0 flex-1">{findingSentence(finding, titleOf)}</span>
              <button type="button" className="btn btn-plain btn-xs" onClick={() => onShow(finding)}>
                Select
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

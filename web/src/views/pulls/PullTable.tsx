import type { DeskRowView } from '@legame/core/contract';
import { rangeLength } from '@legame/core/time';
import { clock, timecode, when } from '@legame/words/numbers';
import { deskStateWords } from '@legame/words/pulls';

export const secondsOf = ({ ranges, rate }: DeskRowView): number =>
  (ranges.reduce((sum, range) => sum + rangeLength(range), 0) * rate.den) / rate.num;

/** Sources by reel, to choose by one, by reel or all; the first stretch of each is told, and how many more there are. */
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
  const reels = new Map<string, DeskRowView[]>();
  for (const row of rows) {
    const reel = row.reel ?? 'no reel';
    reels.set(reel, [...(reels.get(reel) ?? []), row]);
  }
  const toggle = (list: readonly DeskRowView[]) => {
    const keys = list.map((r) => r.key);
    const others = [...selected].filter((key) => !keys.includes(key));
    onSelect(new Set(list.every((r) => selected.has(r.key)) ? others : [...others, ...keys]));
  };
  const box = (label: string, list: readonly DeskRowView[]) => (
    <input
      type="checkbox"
      className="checkbox checkbox-xs"
      aria-label={label}
      checked={list.every((r) => selected.has(r.key))}
      onChange={() => toggle(list)}
    />
  );
  return (
    <div className="min-h-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label="sources">
      <table className="w-full table-fixed text-left" aria-label="pull list">
        <thead className="sticky top-0 z-10 bg-base-200 text-quiet">
          <tr>
            <th className="w-9 py-1 pl-3.5 font-normal">{box('select all', rows)}</th>
            <th className="font-normal">File</th>
            <th className="w-44 font-normal">From</th>
            <th className="w-20 pr-3 text-right font-normal">Length</th>
            <th className="w-[34%] font-normal">How it stands</th>
          </tr>
        </thead>
        {[...reels].map(([reel, list]) => (
          <tbody key={reel}>
            <tr className="line-b bg-base-100">
              <td className="py-1 pl-3.5">{box(`select reel ${reel}`, list)}</td>
              <th scope="rowgroup" colSpan={4} className="font-semibold">
                {reel}{' '}
                <span className="font-normal text-quiet">
                  {clock(list.reduce((sum, row) => sum + secondsOf(row), 0))}
                </span>
              </th>
            </tr>
            {list.map((row) => (
              <tr
                key={row.key}
                aria-selected={row.key === inHand || selected.has(row.key)}
                className={`line-b cursor-pointer align-baseline ${row.key === inHand || selected.has(row.key) ? 'bg-[var(--bond-wash)]' : ''}`}
                onClick={() => onInHand(row.key)}
              >
                <td className="py-1 pl-3.5" onClick={(e) => e.stopPropagation()}>
                  {box(`select ${row.file}`, [row])}
                </td>
                <td className="truncate pr-2">
                  <button type="button" className="max-w-full truncate font-mono" title={row.names.join(', ')}>
                    {row.file}
                  </button>
                </td>
                <td className="font-mono">
                  <Stretch row={row} />
                </td>
                <td className="pr-3 text-right font-mono">{clock(secondsOf(row))}</td>
                <td className="truncate pr-2">
                  <State row={row} />
                </td>
              </tr>
            ))}
          </tbody>
        ))}
      </table>
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

import type { HistoryChange } from '@legame/core/contract';
import { changeTold, type ChangeTold } from '@legame/words/history';
import { MarkedDifference } from '../../parts/PathText.tsx';

/** Changes clip by clip, before and after. */
export const ChangeList = ({ changes }: { changes: readonly HistoryChange[] }) => (
  <ul className="line-t min-h-0 flex-1 overflow-auto">
    {changes.map(changeTold).map((change, i) => (
      <li key={i} className="line-b py-1.5">
        <span className="block truncate font-mono font-semibold">{change.of}</span>
        <Change change={change} />
      </li>
    ))}
  </ul>
);

function Change({ change: { kind, before, after } }: { change: ChangeTold }) {
  const side = (one: ChangeTold['before'], other: ChangeTold['before']) =>
    one.isNothing ? one.text : <MarkedDifference text={one.text} other={other.isNothing ? '' : other.text} />;
  return (
    <span className="grid grid-cols-[70px_minmax(0,1fr)] gap-x-2">
      <span className="text-[12px] text-quiet">{kind}</span>
      <span className="font-mono text-[12px]!">
        <span className="text-quiet">{side(before, after)}</span> → {side(after, before)}
      </span>
    </span>
  );
}

import { isListDoubted } from '@legame/core/mhl';
import type { SetCheck } from '@legame/core/contract';
import { count, when } from '@legame/words/numbers';
import { listTrouble } from '@legame/words/sets';

/** The hash lists of a set: who made each, and what speaks against believing it. */
export function HashLists({ check: { lists, listsGone, unlisted } }: { check: SetCheck }) {
  return (
    <ul aria-label="hash lists" className="max-h-28 shrink-0 overflow-auto">
      {(lists ?? []).map((list) => {
        const trouble = listTrouble(list);
        return (
          <li key={list.path} className="flex flex-wrap gap-x-2">
            <span className="font-mono">{list.path.replace(/(^|\/)ascmhl\//, '$1')}</span>
            <span className="text-quiet">
              {count(list.files, 'file')}
              {list.tool && ` · ${list.tool}`}
              {list.madeAt && !Number.isNaN(Date.parse(list.madeAt)) && ` · ${when(list.madeAt)}`}
            </span>
            {trouble && <span className={isListDoubted(list) ? 'text-missing' : 'text-quiet'}>{trouble}</span>}
          </li>
        );
      })}
      {listsGone.map((path) => (
        <li key={path} className="text-missing">
          <span className="font-mono">{path}</span> is named by the chain and is not there
        </li>
      ))}
      {unlisted.map((path) => (
        <li key={path} className="text-missing">
          <span className="font-mono">{path || '/'}</span> could not be looked at
        </li>
      ))}
    </ul>
  );
}

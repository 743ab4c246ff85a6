import { columnRoles, type ColumnRole, type LogColumns } from '@legame/core/remarks';
import { roleWords } from '@legame/words/remarks';

/** What each column of a log means, over its first rows. A meaning that another column had goes over to this one. */
export function ColumnMap({ columns, onMap }: { columns: LogColumns; onMap: (roles: readonly ColumnRole[]) => void }) {
  const set = (at: number, role: ColumnRole) => {
    const isShared = role === 'metadata' || role === 'ignore';
    onMap(columns.roles.map((old, i) => (i === at ? role : old === role && !isShared ? 'metadata' : old)));
  };
  return (
    <div className="overflow-x-auto">
      <table className="w-max text-left" aria-label="columns">
        <thead>
          <tr>
            {columns.headers.map((header, i) => (
              <th key={i} className="pr-3 pb-1 font-semibold">
                <span className="block max-w-40 truncate" title={header}>
                  {header || `column ${i + 1}`}
                </span>
                <select
                  className={`select select-xs mt-0.5 w-36 font-normal ${columns.roles[i] === 'metadata' || columns.roles[i] === 'ignore' ? 'text-quiet' : 'border-primary'}`}
                  aria-label={`meaning of ${header || `column ${i + 1}`}`}
                  value={columns.roles[i]}
                  onChange={(e) => set(i, e.target.value as ColumnRole)}
                >
                  {columnRoles.map((role) => (
                    <option key={role} value={role}>
                      {roleWords[role]}
                    </option>
                  ))}
                </select>
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="font-mono">
          {columns.samples.map((row, n) => (
            <tr key={n} className="line-t">
              {row.map((cell, i) => (
                <td
                  key={i}
                  title={cell}
                  className={`max-w-44 truncate py-0.5 pr-3 ${columns.roles[i] === 'ignore' ? 'text-quiet line-through' : ''}`}
                >
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

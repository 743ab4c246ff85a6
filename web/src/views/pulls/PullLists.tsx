import { Link } from 'react-router';
import type { DeskRowView } from '@legame/core/contract';
import { projectUrl } from '../../api/legame.ts';

/** The list as files and on paper: all that is dark, and for each holder what was asked of it and is still to come. */
export function PullLists({
  projectId,
  handles,
  rows,
  holders,
}: {
  projectId: string;
  handles: number;
  rows: readonly DeskRowView[];
  holders: readonly string[];
}) {
  const waitedFor = holders.filter((holder) =>
    rows.some((row) => row.state === 'asked' && row.request?.holder === holder),
  );
  const lists = [
    { of: 'All that is dark', query: {} as Record<string, string> },
    ...waitedFor.map((holder) => ({ of: `Asked of ${holder}`, query: { holder } })),
  ];
  const link = 'underline underline-offset-2';
  return (
    <ul className="pt-1" aria-label="lists">
      {lists.map(({ of, query }) => {
        const asked = { handles: String(handles), ...query };
        return (
          <li key={of} className="flex flex-wrap gap-x-3">
            <span>{of}:</span>
            <a className={link} href={projectUrl(projectId, 'pull-list.csv', asked)} download>
              CSV
            </a>
            <a className={link} href={projectUrl(projectId, 'pull-list.edl', asked)} download>
              EDL
            </a>
            <Link className={link} to={`/projects/${projectId}/pull-list?${new URLSearchParams(asked).toString()}`}>
              to print
            </Link>
          </li>
        );
      })}
    </ul>
  );
}

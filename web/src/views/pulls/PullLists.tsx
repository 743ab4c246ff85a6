import { Link } from 'react-router';
import type { DeskRowView, PullDeskQuery } from '@legame/core/contract';
import { projectUrl } from '../../api/legame.ts';

/** The list as files and on paper: all that is dark, and for each holder what was asked of it and is still to come. */
export function PullLists({
  projectId,
  asked,
  rows,
  holders,
}: {
  projectId: string;
  asked: PullDeskQuery;
  rows: readonly DeskRowView[];
  holders: readonly string[];
}) {
  const waitedFor = holders.filter((holder) =>
    rows.some((row) => row.state === 'asked' && row.request?.holder === holder),
  );
  const lists = [
    {
      of: asked.timeline === undefined ? 'All that is dark' : 'All that is dark there',
      query: {} as Record<string, string>,
    },
    ...waitedFor.map((holder) => ({ of: `Asked of ${holder}`, query: { holder } })),
  ];
  const link = 'underline underline-offset-2';
  return (
    <ul className="pt-1" aria-label="lists">
      {lists.map(({ of, query }) => {
        const said = Object.fromEntries(Object.entries({ ...asked, ...query }).map(([key, of]) => [key, String(of)]));
        return (
          <li key={of} className="flex flex-wrap gap-x-3">
            <span>{of}:</span>
            <a className={link} href={projectUrl(projectId, 'pull-list.csv', said)} download>
              CSV
            </a>
            <a className={link} href={projectUrl(projectId, 'pull-list.edl', said)} download>
              EDL
            </a>
            <Link className={link} to={`/projects/${projectId}/pull-list?${new URLSearchParams(said).toString()}`}>
              to print
            </Link>
          </li>
        );
      })}
    </ul>
  );
}

import { useParams, useSearchParams } from 'react-router';
import { formatRate } from '@legame/core/time';
import type { PullRowView } from '@legame/core/contract';
import { sourceName } from '@legame/core/report';
import { api } from '../../api/legame.ts';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { clock, count, timecode, when } from '@legame/words/numbers';
import { Sheet } from '../report/Sheet.tsx';
import { useStretch } from './useStretch.ts';
import { pulls } from '../../api/pulls.ts';

const seconds = ({ range, rate }: PullRowView) => ((range.end - range.start) * rate.den) / rate.num;

/** What has to be fetched, by reel, to take to whoever keeps the reels. */
export function PullList() {
  const { projectId = '' } = useParams();
  const [query] = useSearchParams();
  const handles = Math.max(0, Number(query.get('handles')) || 0);
  const of = query.get('of') === 'used' ? 'used' : 'dark';
  const project = api.useProjectQuery(projectId);
  const holder = query.get('holder') ?? undefined;
  const { asked, text } = useStretch(projectId);
  const rows = pulls.usePullListQuery({ projectId, handles, of, holder, ...asked });
  if (!rows.data || !project.data) return <Waiting what="the pull list" error={rows.error ?? project.error} />;
  const reels = new Map<string, PullRowView[]>();
  for (const row of rows.data) {
    const reel = row.reel ?? 'no reel';
    reels.set(reel, [...(reels.get(reel) ?? []), row]);
  }
  const all = rows.data.reduce((sum, row) => sum + seconds(row), 0);
  return (
    <Sheet
      projectId={projectId}
      title={`${project.data.name} pull list`}
      back={holder === undefined ? 'handoff' : 'pulls'}
    >
      <h1 className="text-[19px] font-bold">{project.data.name}: pull list</h1>
      <p className="mb-4">
        {holder !== undefined
          ? `Asked of ${holder}, handles included.`
          : `${of === 'dark' ? 'What is dark' : 'Everything that is used'}, with ${count(handles, 'frame')} of handles.`}{' '}
        {text && `Of a stretch alone: ${text}. `}
        {count(rows.data.length, 'range')} from {count(reels.size, 'reel')}, {clock(all)} in all. Made{' '}
        {when(new Date().toISOString())}.
      </p>
      {rows.data.length === 0 && <p>Nothing has to be fetched.</p>}
      {[...reels].map(([reel, list]) => (
        <section key={reel} className="mb-4 break-inside-avoid">
          <h2 className="line-b text-[15px] font-semibold">
            {reel} <span className="font-normal text-quiet">{clock(list.reduce((sum, r) => sum + seconds(r), 0))}</span>
          </h2>
          <table className="w-full table-fixed text-left">
            <thead className="text-quiet">
              <tr>
                <th className="w-6 font-normal" aria-label="done" />
                <th className="font-normal">File</th>
                <th className="w-28 font-normal">Start</th>
                <th className="w-28 font-normal">End</th>
                <th className="w-28 text-right font-normal">Length</th>
                <th className="w-16 text-right font-normal">Rate</th>
              </tr>
            </thead>
            <tbody>
              {list.map((row, i) => (
                <tr key={i} className="line-b align-baseline">
                  <td>
                    <span className="inline-block size-3 border border-current" />
                  </td>
                  <td className="py-0.5 pr-2 [overflow-wrap:anywhere]">
                    <span className="font-mono">{sourceName(row)}</span>
                    {row.names.some((n) => n !== row.file) && (
                      <span className="block text-quiet">{row.names.filter((n) => n !== row.file).join(', ')}</span>
                    )}
                  </td>
                  <td className="font-mono">{timecode(row.range.start, row.rate, row.counting)}</td>
                  <td className="font-mono">{timecode(row.range.end, row.rate, row.counting)}</td>
                  <td className="text-right font-mono">
                    {timecode(row.range.end - row.range.start, row.rate, 'non-drop')}
                  </td>
                  <td className="text-right font-mono">{formatRate(row.rate)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ))}
    </Sheet>
  );
}

import { useState } from 'react';
import { Link } from 'react-router';
import { projectUrl } from '../../api/legame.ts';
import { useAppSelector } from '../../app/store.ts';

/** What leaves a project besides media: lists to fetch by, the status to show around, and the project itself. */
export function ListsOut({ projectId }: { projectId: string }) {
  const [handles, setHandles] = useState(useAppSelector((state) => state.preferences.mine.handlesInFrames));
  const [of, setOf] = useState<'dark' | 'used'>('dark');
  const query = { handles: String(handles), of };
  const link = 'underline underline-offset-2';
  return (
    <section className="line-t mt-2 flex flex-col gap-2 pt-3" aria-label="lists">
      <h2 className="font-semibold">Lists</h2>
      <div>
        <p>Pull list of what is</p>
        <div className="my-1 flex flex-wrap items-center gap-2">
          <select
            className="select select-xs w-[72px]"
            aria-label="pull list of"
            value={of}
            onChange={(e) => setOf(e.target.value === 'used' ? 'used' : 'dark')}
          >
            <option value="dark">dark</option>
            <option value="used">used</option>
          </select>
          <label className="flex items-center gap-1.5">
            with
            <input
              type="number"
              min={0}
              max={100000}
              className="input input-xs w-16 text-right font-mono"
              aria-label="handles in frames"
              value={handles}
              onChange={(e) => setHandles(Math.max(0, Math.min(100_000, Math.round(Number(e.target.value)) || 0)))}
            />
            frames
          </label>
        </div>
        <p className="flex gap-3">
          <a className={link} href={projectUrl(projectId, 'pull-list.csv', query)} download>
            CSV
          </a>
          <a className={link} href={projectUrl(projectId, 'pull-list.edl', query)} download>
            EDL
          </a>
          <Link className={link} to={`/projects/${projectId}/pull-list?${new URLSearchParams(query).toString()}`}>
            to print
          </Link>
        </p>
      </div>
      <p>
        <a className={link} href={projectUrl(projectId, 'used-media.csv')} download>
          Used media, CSV
        </a>
      </p>
      <p>
        <Link className={link} to={`/projects/${projectId}/report`}>
          Status report, to print
        </Link>
      </p>
      <p>
        <a className={link} href={projectUrl(projectId, 'export')} download>
          Whole project, OTIO
        </a>
        <span className="block text-quiet">opens in another Legame as it is here</span>
      </p>
    </section>
  );
}

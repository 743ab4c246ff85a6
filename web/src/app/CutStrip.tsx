import { useMemo, useState } from 'react';
import { lists } from '../api/clipList.ts';
import { api } from '../api/legame.ts';
import { useTimelines, type ShownTimeline } from '../api/timelines.ts';
import { clock, count, group } from '@legame/words/numbers';
import { CutTracks } from './CutTracks.tsx';

const seconds = (frames: number, { rate }: ShownTimeline) => (frames * rate.den) / rate.num;

/** The cut along the top of every screen: how much of it is dark, and where the hand is. */
export function CutStrip({ projectId }: { projectId: string }) {
  const { data: clips } = lists.useClipsQuery(projectId);
  // Rows come first; an edit is megabytes.
  const top = useTimelines(projectId, { skip: !clips });
  const { data: project } = api.useProjectQuery(projectId);
  const [chosen, setChosen] = useState<string | null>(null);
  const rows = useMemo(() => new Map(clips?.map((clip) => [clip.id, clip])), [clips]);
  const longest = [...(top ?? [])].sort((a, b) => seconds(b.length, b) - seconds(a.length, a))[0];
  const shown = top?.find((t) => t.id === chosen) ?? longest;
  if (!top || !shown)
    return (
      <div className="line-b px-3.5 py-2 text-quiet">
        {top ? 'No timeline yet: bring one in at Intake.' : 'Loading the cut…'}
      </div>
    );
  return (
    <section className="line-b bg-base-200 px-3.5 pt-1.5 pb-1" aria-label="cut strip">
      <div className="flex items-baseline justify-between gap-4 text-[12px]">
        <span className="flex min-w-0 items-baseline gap-2 truncate">
          <b>{shown.name}</b>
          <span className="font-mono text-quiet">{clock(seconds(shown.length, shown))}</span>
          {top.length > 1 && <span className="text-quiet">also:</span>}
          {top
            .filter((t) => t !== shown)
            .map((t) => (
              <button
                key={t.id}
                type="button"
                className="text-quiet underline-offset-2 hover:underline"
                onClick={() => setChosen(t.id)}
              >
                {t.name}
              </button>
            ))}
        </span>
        <span className="shrink-0">
          <b className={shown.darkInFrames ? 'text-missing' : 'text-linked'}>
            {clock(seconds(shown.darkInFrames, shown))} dark
          </b>
          {project && (
            <span className="text-quiet">
              {' '}
              · {group(project.toDo)} of {count(project.clips, 'clip')} to do
            </span>
          )}
        </span>
      </div>
      <CutTracks projectId={projectId} timeline={shown} rows={rows} />
    </section>
  );
}

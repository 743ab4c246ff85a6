import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { isDark } from '@legame/core/state';
import type { ClipRow, Cut } from '@legame/core/contract';
import { api } from '../api/legame.ts';
import { statusText } from '../parts/StatusMark.tsx';
import { filterStatus, pick } from '../session/selection.ts';
import { clock, count, group } from '@legame/words/numbers';
import { statusWords } from '@legame/words/statuses';
import { useAppDispatch, useAppSelector } from './store.ts';

type Timeline = Cut[number];
const seconds = (frames: number, { rate }: Timeline) => (frames * rate.den) / rate.num;

/** The cut along the top of every screen: how much of it is dark, and where the hand is. */
export function CutStrip({ projectId }: { projectId: string }) {
  const { data: cut } = api.useCutQuery(projectId);
  const { data: clips } = api.useClipsQuery(projectId);
  const { data: project } = api.useProjectQuery(projectId);
  const [chosen, setChosen] = useState<string | null>(null);
  const rows = useMemo(() => new Map(clips?.map((clip) => [clip.id, clip])), [clips]);
  const top = cut?.filter((t) => t.top) ?? [];
  const id = (t: Timeline) => `${t.documentId}/${t.key}`;
  const shown =
    top.find((t) => id(t) === chosen) ?? [...top].sort((a, b) => seconds(b.length, b) - seconds(a.length, a))[0];
  if (!shown)
    return (
      <div className="line-b px-3.5 py-2 text-quiet">
        {cut ? 'No timeline yet: bring one in at Intake.' : 'Loading the cut…'}
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
                key={id(t)}
                type="button"
                className="text-quiet underline-offset-2 hover:underline"
                onClick={() => setChosen(id(t))}
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
      <Tracks projectId={projectId} timeline={shown} rows={rows} />
    </section>
  );
}

function Tracks({
  projectId,
  timeline,
  rows,
}: {
  projectId: string;
  timeline: Timeline;
  rows: ReadonlyMap<string, ClipRow>;
}) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const selected = useAppSelector((state) => state.selection.ids);
  const inHand = useMemo(() => new Set(selected), [selected]);
  const tracks = [...new Set(timeline.events.map((e) => e.track))];
  const height = Math.max(3, Math.min(7, Math.floor(22 / Math.max(1, tracks.length))));
  return (
    <div className="relative mt-1" style={{ height: tracks.length * (height + 1) }}>
      {timeline.events.map((event, i) => {
        const row = event.clipId ? rows.get(event.clipId) : undefined;
        const dark = row ? isDark(row.status.status) : event.isDarkInside;
        const tone = row ? statusText[row.status.status] : statusText.missing;
        const picked = event.clipId !== null && inHand.has(event.clipId);
        const fill = dark
          ? `${tone} bg-[repeating-linear-gradient(135deg,currentColor_0_1.2px,transparent_1.2px_4px)] border border-current`
          : row || event.nestedKey
            ? 'bg-[var(--linked-block)]'
            : 'bg-base-300';
        return (
          <button
            key={i}
            type="button"
            tabIndex={-1}
            title={`${event.track} ${event.number}  ${event.name}${row ? ` · ${statusWords[row.status.status]}` : ''}`}
            className={`absolute rounded-[1px] ${fill} ${picked ? 'z-10 outline-2 outline-base-content' : ''}`}
            style={{
              left: `${((event.record.start - timeline.start) / timeline.length) * 100}%`,
              width: `max(2px, calc(${((event.record.end - event.record.start) / timeline.length) * 100}% - 1px))`,
              top: tracks.indexOf(event.track) * (height + 1),
              height,
            }}
            onClick={() => {
              if (!event.clipId) return;
              dispatch(filterStatus('all'));
              dispatch(pick(event.clipId));
              void navigate(`/projects/${projectId}/ledger`);
            }}
          />
        );
      })}
    </div>
  );
}

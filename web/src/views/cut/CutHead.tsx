import { useState } from 'react';
import { formatRate, parseTimecode } from '@legame/core/time';
import type { StatusName } from '@legame/core/state';
import { clock, count, timecode } from '@legame/words/numbers';
import { statusWords } from '@legame/words/statuses';
import type { ShownTimeline } from '../../api/timelines.ts';
import type { CutFilter } from './filter.ts';
import { tipOf } from '../../commands/definitions.ts';

/** Which timeline, how much of it is dark, and where the playhead stands; a timecode can be typed or pasted. */
export function CutHead({
  timeline,
  timelines,
  outer,
  playhead,
  filter,
  statuses,
  front,
  onTimeline,
  onFilter,
  onDark,
  onFrame,
  onZoom,
  onVersions,
}: {
  timeline: ShownTimeline;
  timelines: readonly ShownTimeline[];
  outer: ShownTimeline | null;
  playhead: number;
  filter: CutFilter;
  /** Kinds of darkness that the timeline has. */
  statuses: readonly StatusName[];
  /** How many events stand in front; null where all do. */
  front: number | null;
  onTimeline: (id: string) => void;
  onFilter: (filter: CutFilter) => void;
  /** Null where nothing is dark. */
  onDark: ((way: 1 | -1) => void) | null;
  onFrame: (frame: number) => void;
  onZoom: (by: number) => void;
  /** Null where there is no version before this one. */
  onVersions: (() => void) | null;
}) {
  const { name, rate, counting, start, length, darkInFrames } = timeline;
  const at = (frame: number) => timecode(frame, rate, counting);
  const seconds = (frames: number) => (frames * rate.den) / rate.num;
  return (
    <div className="line-b flex shrink-0 items-center gap-3 px-3 py-1.5">
      {outer && (
        <button type="button" className="btn btn-plain btn-sm" onClick={() => onTimeline(outer.id)}>
          ‹ {outer.name}
        </button>
      )}
      {timelines.length > 1 && timeline.top ? (
        <select
          className="select select-sm w-auto shrink-0 font-semibold"
          aria-label="timeline"
          value={timeline.id}
          onChange={(e) => onTimeline(e.target.value)}
        >
          {timelines.map((t) => (
            <option key={t.id} value={t.id}>
              {t.name}
            </option>
          ))}
        </select>
      ) : (
        <b>{name}</b>
      )}
      <span
        className="min-w-0 truncate font-mono text-[12.5px] text-quiet"
        title={`${at(start)} – ${at(start + length)} · ${formatRate(rate)}`}
      >
        {at(start)} – {at(start + length)} · {formatRate(rate)}
      </span>
      <b className={`shrink-0 text-[12.5px] ${darkInFrames ? 'text-missing' : 'text-linked'}`}>
        {clock(seconds(darkInFrames))} dark
      </b>
      {onVersions && (
        <button
          type="button"
          className="btn btn-plain btn-sm"
          title="This timeline as it was before its document was replaced, and as it is now, one above the other"
          onClick={onVersions}
        >
          Two versions
        </button>
      )}
      <span className="flex-1" />
      <InFront filter={filter} statuses={statuses} front={front} onFilter={onFilter} />
      {([-1, 1] as const).map((way) => (
        <button
          key={way}
          type="button"
          className="btn btn-plain btn-sm"
          disabled={onDark === null}
          title={tipOf(way === 1 ? 'next-dark' : 'former-dark')}
          aria-label={way === 1 ? 'next dark event' : 'former dark event'}
          onClick={() => onDark?.(way)}
        >
          {way === 1 ? 'dark ›' : '‹ dark'}
        </button>
      ))}
      {([1 / 1.6, 1.6] as const).map((by) => (
        <button
          key={by}
          type="button"
          className="btn btn-plain btn-sm w-8 font-mono"
          title={tipOf(by > 1 ? 'nearer' : 'farther')}
          aria-label={by > 1 ? 'nearer' : 'farther'}
          onClick={() => onZoom(by)}
        >
          {by > 1 ? '+' : '−'}
        </button>
      ))}
      <TimecodeIn key={playhead} timeline={timeline} playhead={playhead} onFrame={onFrame} />
    </div>
  );
}

/** Which events stand in front. */
function InFront({
  filter,
  statuses,
  front,
  onFilter,
}: {
  filter: CutFilter;
  statuses: readonly StatusName[];
  front: number | null;
  onFilter: (filter: CutFilter) => void;
}) {
  return (
    <>
      {front !== null && <span className="text-[12.5px] text-quiet">{count(front, 'event')}</span>}
      <input
        className="input input-sm h-[26px] w-28"
        placeholder="name, reel, track…"
        aria-label="events to stand in front"
        title="Events whose name, file, reel or track has this; the others step back"
        value={filter.text}
        onChange={(event) => onFilter({ ...filter, text: event.target.value })}
        // Out of the field, so that the keys work on the cut again.
        onKeyDown={(event) => (event.key === 'Escape' || event.key === 'Enter') && event.currentTarget.blur()}
      />
      <select
        className={`select select-sm h-[26px] w-auto shrink-0 ${filter.only === 'all' ? '' : 'border-primary font-semibold'}`}
        aria-label="status to stand in front"
        value={filter.only}
        onChange={(event) => onFilter({ ...filter, only: event.target.value as CutFilter['only'] })}
      >
        <option value="all">lit and dark</option>
        <option value="dark">dark only</option>
        {statuses.length > 1 &&
          statuses.map((status) => (
            <option key={status} value={status}>
              {statusWords[status].toLowerCase()} only
            </option>
          ))}
      </select>
    </>
  );
}

function TimecodeIn({
  timeline: { rate, counting },
  playhead,
  onFrame,
}: {
  timeline: ShownTimeline;
  playhead: number;
  onFrame: (frame: number) => void;
}) {
  const [text, setText] = useState(() => timecode(playhead, rate, counting));
  const parsed = parseTimecode(text, rate, counting);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (parsed.ok) onFrame(parsed.frames);
      }}
    >
      <input
        className={`input input-sm w-30 text-center font-mono ${parsed.ok ? '' : 'border-missing text-missing'}`}
        aria-label="timecode of the playhead"
        title="Type or paste a timecode and press Enter"
        value={text}
        onChange={(e) => setText(e.target.value.trim())}
        onFocus={(e) => e.target.select()}
      />
    </form>
  );
}

import { useMemo, useRef, useState } from 'react';
import { useDebounce } from 'use-debounce';
import type { CutRecording } from '@legame/core/contract';
import type { Rate } from '@legame/core/time';
import { clock, count } from '@legame/words/numbers';
import { api } from '../../api/legame.ts';
import type { ShownTimeline } from '../../api/timelines.ts';
import { isDarkTone, type Tone } from '../../app/drawTracks.ts';
import { Waiting } from '../../parts/ProblemNote.tsx';
import { useWidth } from '../../parts/useWidth.ts';
import { MarkerFlags } from './MarkerFlags.tsx';
import { AtPlayhead } from './AtPlayhead.tsx';
import { candidatesBeneath, isShownIn, type Beneath, type Hung } from './beneath.ts';
import { darkFramesOf } from './filter.ts';
import { PointPanel } from './PointPanel.tsx';
import { rowHeight, rulerOffset, trackNames } from './RecordingRow.tsx';
import { Recordings } from './Recordings.tsx';
import { Ruler } from './Ruler.tsx';
import { usePlaying } from './playing/usePlaying.ts';
import { stretchOf, type Marks, type Sight } from './sight.ts';
import { clipsInSight, heightOf, inSight, type CutEvent, type Track } from './tracks.ts';
import { picturesOf, wavesOf } from './pictures.ts';
import { placeOf, Tracks } from './Tracks.tsx';
import type { InHand } from './useInHand.ts';

const rulerHeight = 24;
const headHeight = 44;
const pictureRoom = 260;
/** So many recordings hang beneath at once; of more, a person chooses. */
const mostRecordings = 8;
const mostAsked = 120;

/** Tracks above, recordings beneath, threads between; and the picture at the playhead. */
export function Floors({
  projectId,
  timeline,
  tracks,
  tones,
  sight,
  whole,
  playhead,
  marks,
  hand,
  front,
  onSight,
  onPlayhead,
  onNest,
  onLedger,
}: {
  projectId: string;
  timeline: ShownTimeline;
  tracks: readonly Track[];
  tones: readonly Tone[];
  sight: Sight;
  whole: Sight;
  playhead: number;
  marks: Marks;
  hand: InHand;
  front: ReadonlySet<number> | null;
  onSight: (sight: Sight) => void;
  onPlayhead: (frame: number) => void;
  onNest: (event: CutEvent) => void;
  /** Where what is selected can be linked. */
  onLedger: () => void;
}) {
  const area = useRef<HTMLDivElement>(null);
  const width = useWidth(area);
  const clips = useMemo(() => clipsInSight(tracks, sight, mostAsked), [tracks, sight]);
  const { known, error } = useRecordings(projectId, [...hand.ids].slice(0, mostRecordings), clips);
  const under = useMemo(() => pictureUnder(tracks, playhead), [tracks, playhead]);
  const { rows, inHand } = useBeneath(clips, known, hand);
  const [pointing, setPointing] = useState<{ clipId: string; to: Beneath } | null>(null);
  const playing = usePlaying(projectId, timeline, { playhead, stretch: stretchOf(marks), onPlayhead });
  const tracksHeight = heightOf(tracks);
  const begin = rulerHeight + tracksHeight + headHeight;
  const rulerWidth = Math.max(120, width - rulerOffset - pictureRoom);
  const seen = useMemo(() => {
    const ground = { tracks, sight, width, timeline, known };
    return { pictures: picturesOf(ground), waves: wavesOf(ground) };
  }, [tracks, sight, width, timeline, known]);
  const hungOf = ({ recording, isCandidate }: Beneath): readonly Hung[] =>
    (isCandidate ? [] : recording.uses)
      .filter((use) => use.timeline === timeline.id && isShownIn(use, sight))
      .map((use) => ({ use, y: rulerHeight + bottomOf(tracks, recording.clipId, use) }));
  const x = placeOf(sight, width, playhead);
  return (
    <div className="relative min-h-0 flex-1 overflow-x-hidden overflow-y-auto bg-base-200">
      <div className="relative" style={{ marginLeft: trackNames, minHeight: begin + rows.length * rowHeight + 20 }}>
        <TrackNames tracks={tracks} tones={tones} rate={timeline.rate} />
        <div
          ref={area}
          onPointerDown={(at) => {
            const box = at.currentTarget.getBoundingClientRect();
            if (at.clientY - box.top < rulerHeight)
              onPlayhead(Math.floor(sight.from + ((at.clientX - box.left) / box.width) * (sight.to - sight.from)));
          }}
        >
          <Ruler timeline={timeline} sight={sight} width={width} marks={marks} />
          <MarkerFlags timeline={timeline} sight={sight} width={width} onFrame={onPlayhead} />
          <Tracks
            tracks={tracks}
            sight={sight}
            whole={whole}
            width={width}
            tones={tones}
            selected={hand.ids}
            front={front}
            {...seen}
            label={`${count(timeline.events.length, 'event')} on ${count(tracks.length, 'track')}, ${tones.filter(isDarkTone).length} of them dark`}
            onSight={onSight}
            onEvent={(event, { isMore }) => event.clipId && hand.pick(event.clipId, isMore)}
            onFrame={onPlayhead}
            onNest={onNest}
          />
        </div>
        {x >= 0 && x <= width && <Playhead x={x} height={rulerHeight + tracksHeight + 8} />}
        <Said inHand={inHand} inSight={clips.length} top={begin - 30} onLedger={onLedger} />
        {rows.length === 0 && clips.length > 0 && (
          <div className="absolute" style={{ top: begin, left: 12 - trackNames }}>
            <Waiting what="what lies under it" error={error} />
          </div>
        )}
        <Recordings
          rows={rows}
          hungOf={hungOf}
          selected={hand.ids}
          playhead={playhead}
          sight={sight}
          width={width}
          rulerWidth={rulerWidth}
          top={begin}
          onPick={(clipId) => hand.pick(clipId, false)}
          onPoint={(clipId, to) => setPointing({ clipId, to })}
        />
        <div className="absolute right-3 flex flex-col gap-3" style={{ top: begin }}>
          {pointing && (
            <PointPanel
              key={`${pointing.clipId} ${pointing.to.recording.media?.id}`}
              projectId={projectId}
              clipId={pointing.clipId}
              to={pointing.to}
              onClose={() => setPointing(null)}
            />
          )}
          <AtPlayhead recording={(under !== null && known.get(under)) || null} {...{ timeline, playhead, playing }} />
        </div>
      </div>
    </div>
  );
}

function Playhead({ x, height }: { x: number; height: number }) {
  return (
    <div
      aria-hidden
      className="pointer-events-none absolute top-0 w-px bg-base-content before:absolute before:-left-[5px] before:border-x-[5.5px] before:border-t-[7px] before:border-x-transparent before:border-t-base-content"
      style={{ left: x, height }}
    />
  );
}

/** Which recordings hang here, and what can be done with them. */
function Said({
  inHand,
  inSight: seen,
  top,
  onLedger,
}: {
  inHand: number;
  inSight: number;
  top: number;
  onLedger: () => void;
}) {
  const more = seen > mostRecordings ? `, the first ${mostRecordings}: select events for others` : '';
  return (
    <p className="absolute text-[12.5px] text-quiet" style={{ top, left: 12 - trackNames }}>
      <b className="text-base-content">The recordings under it</b>{' '}
      {inHand > 0
        ? `${count(inHand, 'clip')} in hand first; drag a thread to another recording to point there`
        : `of what is in sight${more}`}
      {inHand > 0 && (
        <button type="button" className="btn btn-plain btn-xs ml-3" onClick={onLedger}>
          Open in the Ledger
        </button>
      )}
    </p>
  );
}

function TrackNames({ tracks, tones, rate }: { tracks: readonly Track[]; tones: readonly Tone[]; rate: Rate }) {
  const dark = useMemo(() => new Map(tracks.map((t) => [t.name, darkFramesOf(t, tones)])), [tracks, tones]);
  return tracks.map((track) => {
    const seconds = ((dark.get(track.name) ?? 0) * rate.den) / rate.num;
    const said = seconds > 0 ? `${clock(seconds)} dark` : '';
    return (
      <p
        key={track.name}
        className="absolute grid content-center font-mono text-[12px] leading-[13px]"
        style={{
          ...{ left: 12 - trackNames, width: trackNames - 16 },
          ...{ top: rulerHeight + track.top, height: track.height },
        }}
        title={[[track.name, track.called].filter(Boolean).join(', '), said].filter(Boolean).join(': ')}
      >
        {track.height >= 12 && (
          <span className="flex items-baseline gap-1.5 truncate">
            <b>{track.name}</b>
            {said && <span className="text-missing">{clock(seconds)}</span>}
          </span>
        )}
        {track.height >= 24 && track.called && <span className="truncate text-[11px]">{track.called}</span>}
      </p>
    );
  });
}

/** What hangs beneath: what is in hand first, with what it could be where that is one clip, then what is in sight. */
function useBeneath(clips: readonly string[], known: ReadonlyMap<string, CutRecording>, hand: InHand) {
  const inHand = clips.filter((id) => hand.ids.has(id));
  const hanging = [...inHand, ...clips.filter((id) => !hand.ids.has(id))].slice(0, mostRecordings);
  const only = inHand.length === 1 && hand.ids.size === 1 ? inHand[0]! : null;
  const detail = api.useClipQuery(only ?? '', { skip: only === null });
  const rows = hanging.flatMap((id): Beneath[] => {
    const recording = known.get(id);
    if (!recording) return [];
    const others = id === only && detail.currentData ? candidatesBeneath(recording, detail.currentData) : [];
    return [{ recording, isCandidate: false }, ...others];
  });
  return { rows, inHand: inHand.length };
}

/** What is known of the recordings of these clips, kept while somebody moves along. */
function useRecordings(
  projectId: string,
  first: readonly string[],
  clips: readonly string[],
): { known: ReadonlyMap<string, CutRecording>; error: unknown } {
  const [wanted] = useDebounce([...new Set([...first, ...clips])].join(' '), 120);
  const ids = wanted === '' ? [] : wanted.split(' ');
  const asked = api.useCutRecordingsQuery({ projectId, clips: ids }, { skip: ids.length === 0 });
  const list = asked.currentData ?? asked.data;
  const known = useMemo(() => new Map(list?.map((r) => [r.clipId, r])), [list]);
  return { known, error: asked.error };
}

/** The clip of the uppermost picture at a frame. */
function pictureUnder(tracks: readonly Track[], frame: number): string | null {
  for (const track of tracks) {
    if (track.kind !== 'picture') continue;
    const [at] = inSight(track, { from: frame, to: frame + 1 });
    if (at?.event.clipId) return at.event.clipId;
  }
  return null;
}

/** Where the event of a use ends above: the lower edge of its track. */
function bottomOf(tracks: readonly Track[], clipId: string, { record }: CutRecording['uses'][number]): number {
  const track = tracks.find((t) =>
    [...inSight(t, { from: record.start, to: record.end })].some(({ event }) => event.clipId === clipId),
  );
  return track ? track.top + track.height : heightOf(tracks);
}

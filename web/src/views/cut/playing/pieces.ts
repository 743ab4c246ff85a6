import type { CutRecording } from '@legame/core/contract';
import type { StatusName } from '@legame/core/state';
import { convertFrames, intersectRanges, type FrameRange, type Rate } from '@legame/core/time';
import type { Pictured } from '../../../api/legame.ts';
import type { ShownTimeline } from '../../../api/timelines.ts';
import { frameShown } from '../beneath.ts';
import { inSight, tracksOf, type CutEvent, type Track } from '../tracks.ts';

/** What a stretch of a timeline shows or sounds like. */
export type Shows =
  /** A piece of a file, as previews count: in its frames, or for sound at 25 a second. `pace`: source time for record time. */
  | {
      readonly as: 'film';
      readonly media: Pictured;
      readonly from: number;
      readonly frames: number;
      readonly pace: number;
    }
  /** One picture: a still, or what stands or runs backwards. */
  | { readonly as: 'picture'; readonly media: Pictured; readonly frame: number }
  | { readonly as: 'nothing'; readonly because: StatusName | 'gap' | 'not-known' };

export type Piece = {
  readonly key: string;
  readonly kind: CutEvent['trackKind'];
  readonly name: string;
  /** Frames of the timeline. */
  readonly record: FrameRange;
  readonly shows: Shows;
};

type Showing = { readonly recording: CutRecording; readonly use: CutRecording['uses'][number] };

/** A preview holds no more than this. */
const longestInSeconds = 20;
const soundRate: Rate = { num: 25, den: 1 };

/** The clips that a stretch shows, through nests as well: their recordings have to be known before it can be played. */
export function clipsToPlay(
  timeline: ShownTimeline,
  all: readonly ShownTimeline[],
  stretch: FrameRange,
): readonly string[] {
  const events = timeline.events.filter((event) => intersectRanges(event.record, stretch));
  return [...new Set(events.flatMap((event) => clipsOf(event, timeline, all)))];
}

/** Of an event: its clip; of one that shows a nest, the clips in there, those of its uppermost track first. */
function clipsOf(
  event: CutEvent,
  timeline: ShownTimeline,
  all: readonly ShownTimeline[],
  depth = 0,
): readonly string[] {
  if (event.clipId !== null) return [event.clipId];
  const nest = all.find((t) => t.documentId === timeline.documentId && t.key === event.nestedKey);
  if (!nest || depth > 8) return [];
  return tracksOf(nest.events, 100).flatMap((track) =>
    track.events.flatMap(({ event: inside }) => clipsOf(inside, nest, all, depth + 1)),
  );
}

/** What is to be played during a stretch, in order: of pictures the uppermost, of sound all. */
export function piecesOf(
  timeline: ShownTimeline,
  all: readonly ShownTimeline[],
  known: ReadonlyMap<string, CutRecording>,
  stretch: FrameRange,
): Piece[] {
  const tracks = tracksOf(timeline.events, 100);
  const layersOf = (track: Track): Layer[] =>
    [...inSight(track, { from: stretch.start, to: stretch.end })].flatMap(({ event, place }) =>
      layersIn(event, place, timeline, all, known),
    );
  const sounds = tracks
    .filter((t) => t.kind === 'sound')
    .flatMap(layersOf)
    .filter(({ showing }) => showing !== null);
  const pieces = [
    ...uppermost(tracks.filter((t) => t.kind === 'picture').flatMap(layersOf), stretch).map(
      (l) => ['picture', l] as const,
    ),
    ...sounds.map((layer) => ['sound', layer] as const),
  ].flatMap(([kind, layer]) => {
    const record = intersectRanges(layer.record, stretch);
    return record ? piecesOfLayer(kind, { ...layer, record }, timeline.rate) : [];
  });
  return pieces.toSorted((a, b) => a.record.start - b.record.start);
}

/** What one event shows for a while; `showing` null where its recording is not known. */
type Layer = {
  readonly id: string;
  readonly name: string;
  readonly record: FrameRange;
  readonly showing: Showing | null;
  readonly because: StatusName | 'gap' | 'not-known';
};

function layersIn(
  event: CutEvent,
  place: number,
  timeline: ShownTimeline,
  all: readonly ShownTimeline[],
  known: ReadonlyMap<string, CutRecording>,
): Layer[] {
  // What needs no media, such as black, lies there all the same.
  const none: Layer = { id: `${place}`, name: event.name, record: event.record, showing: null, because: 'not-known' };
  const found = clipsOf(event, timeline, all).flatMap((clipId): Layer[] => {
    const recording = known.get(clipId);
    const because = recording?.status.status ?? 'not-known';
    return (recording?.uses ?? []).flatMap((use): Layer[] => {
      const record = use.timeline === timeline.id ? intersectRanges(use.record, event.record) : null;
      // A clip has many showings: of an event of its own only that one which covers it.
      const isOther =
        event.clipId !== null && record && record.end - record.start < event.record.end - event.record.start;
      if (!record || isOther) return [];
      const id = `${place} ${clipId} ${use.record.start}`;
      return [{ id, name: recording!.fileName, record, showing: { recording: recording!, use }, because }];
    });
  });
  return event.clipId === null && event.nestedKey === null ? [{ ...none, because: 'gap' }] : [...found, none];
}

/** Of layers that are given from the uppermost on, what is seen at each time; where none lies, a gap. */
function uppermost(layers: readonly Layer[], stretch: FrameRange): Layer[] {
  const edges = [
    ...new Set([stretch.start, stretch.end, ...layers.flatMap(({ record }) => [record.start, record.end])]),
  ]
    .filter((frame) => frame >= stretch.start && frame <= stretch.end)
    .sort((a, b) => a - b);
  const seen: Layer[] = [];
  for (const [i, start] of edges.slice(0, -1).entries()) {
    const end = edges[i + 1]!;
    const over = layers.find(({ record }) => record.start <= start && record.end >= end);
    const layer = over ?? { id: 'gap', name: '', showing: null, because: 'gap' as const };
    const last = seen.at(-1);
    if (last?.id === layer.id) seen[seen.length - 1] = { ...last, record: { start: last.record.start, end } };
    else seen.push({ ...layer, record: { start, end } });
  }
  return seen;
}

/** As many pieces as previews of it are needed. */
function piecesOfLayer(kind: Piece['kind'], { id, name, record, showing, because }: Layer, rate: Rate): Piece[] {
  const pace = Math.abs(showing?.use.speed ? showing.use.speed.num / showing.use.speed.den : 1);
  const most = Math.max(1, Math.floor((longestInSeconds * rate.num) / rate.den / Math.max(1, pace)));
  const pieces: Piece[] = [];
  for (let start = record.start; start < record.end; start += most) {
    const part = { start, end: Math.min(record.end, start + most) };
    pieces.push({
      key: `${id} ${start}`,
      kind,
      name,
      record: part,
      shows: showsOf(kind, part, showing, because, rate),
    });
  }
  return pieces;
}

function showsOf(
  kind: Piece['kind'],
  part: FrameRange,
  showing: Showing | null,
  because: Layer['because'],
  rate: Rate,
): Shows {
  if (!showing) return { as: 'nothing', because };
  const { recording, use } = showing;
  const { media, status } = recording;
  if (!media) return { as: 'nothing', because: status.status };
  if (recording.kind === 'still') return { as: 'picture', media, frame: 0 };
  const shown = frameShown(use, part.start, rate, recording);
  if (!shown) return { as: 'nothing', because: status.status === 'linked' ? 'not-known' : status.status };
  const speed = use.speed ? use.speed.num / use.speed.den : 1;
  if (kind === 'picture' && (speed <= 0 || recording.kind === 'sequence'))
    return { as: 'picture', media, frame: shown.inFile };
  if (speed <= 0) return { as: 'nothing', because: 'not-known' };
  const seconds = (((part.end - part.start) * rate.den) / rate.num) * speed;
  const own = media.rate ?? recording.rate;
  const isSound = recording.kind === 'sound';
  const counted = isSound ? soundRate : own;
  const from = isSound ? convertFrames(shown.inFile, own, soundRate, 'down') : shown.inFile;
  return {
    as: 'film',
    media,
    from,
    frames: Math.max(1, Math.ceil((seconds * counted.num) / counted.den)),
    pace: speed,
  };
}

/** What plays at a frame, and what begins within `ahead` frames and should be fetched by then. */
export const near = (pieces: readonly Piece[], frame: number, ahead: number): readonly Piece[] =>
  pieces.filter(({ record }) => record.end > frame && record.start < frame + ahead);

import type { CutRecording } from '@legame/core/contract';
import type { ShownTimeline } from '../../api/timelines.ts';
import { frameShown } from './beneath.ts';
import { roomForPicture, roomOfName } from './drawCut.ts';
import type { Sight } from './sight.ts';
import { inSight, type CutEvent, type Track } from './tracks.ts';

type Media = { readonly id: string; readonly version: string };

/** A picture at the left of an event. */
export type Shown = {
  readonly place: number;
  readonly left: number;
  readonly track: Track;
  readonly media: Media;
  readonly frame: number;
};

/** The wave of a sound over an event: that of the whole file, so wide and so far to the left that what is read lies there. */
export type Wave = {
  readonly place: number;
  readonly left: number;
  readonly width: number;
  readonly track: Track;
  readonly media: Media;
  /** Dots that all of the file would take, and how many of them lie before what is seen of it. */
  readonly whole: number;
  readonly before: number;
};

/** What is drawn of a timeline, how large, and what is known of the recordings under it. */
type InSight = {
  readonly tracks: readonly Track[];
  readonly sight: Sight;
  readonly width: number;
  readonly timeline: ShownTimeline;
  readonly known: ReadonlyMap<string, CutRecording>;
};

/** Pictures of the first frame of those events that have room for one. */
export function picturesOf({ tracks, sight, width, timeline, known }: InSight): readonly Shown[] {
  const perFrame = width / (sight.to - sight.from);
  const pictures: Shown[] = [];
  for (const track of tracks) {
    if (track.kind !== 'picture' || track.height <= 30) continue;
    for (const { event, place } of inSight(track, sight)) {
      const left = (event.record.start - sight.from) * perFrame;
      const seen = Math.min(width, (event.record.end - sight.from) * perFrame) - Math.max(0, left);
      const recording = event.clipId && seen > roomForPicture ? known.get(event.clipId) : undefined;
      const use = recording && readBy(recording, timeline, event);
      if (!recording?.media || !use) continue;
      const shown = frameShown(use, use.record.start, timeline.rate, recording);
      const frame = recording.kind === 'still' ? 0 : (shown?.inFile ?? null);
      if (frame !== null) pictures.push({ place, left, track, media: recording.media, frame });
    }
  }
  return pictures;
}

/** What an event of a timeline reads of its recording. */
const readBy = ({ uses }: CutRecording, { id }: ShownTimeline, { record }: CutEvent) =>
  uses.find((use) => use.timeline === id && use.record.start === record.start);

const roomForWave = 24;
/** Of a longer file its wave would show nothing. */
const mostTimesAsLong = 24;
const mostWaves = 60;

/** Waves of those sounds that have room for one, run as they were recorded, and use enough of their file. */
export function wavesOf({ tracks, sight, width, timeline, known }: InSight): readonly Wave[] {
  const perFrame = width / (sight.to - sight.from);
  const waves: Wave[] = [];
  for (const track of tracks) {
    if (track.kind !== 'sound' || track.height < 16) continue;
    for (const { event, place } of inSight(track, sight)) {
      if (waves.length === mostWaves) return waves;
      const begin = (event.record.start - sight.from) * perFrame;
      const end = (event.record.end - sight.from) * perFrame;
      // Behind its name, which a wave would strike out.
      const [left, right] = [Math.max(0, begin) + roomOfName(event.name), Math.min(width, end)];
      const isWide = right - left > roomForWave;
      const recording = event.clipId && isWide && event.speed === null ? known.get(event.clipId) : undefined;
      const use = recording && readBy(recording, timeline, event);
      const length = recording && lengthInEdit(recording);
      if (!recording?.media || recording.kind !== 'sound' || !use || use.firstFrameInFile === null || !length) continue;
      const read = use.source.end - use.source.start;
      if (read <= 0 || length > read * mostTimesAsLong) continue;
      const whole = ((end - begin) * length) / read;
      const before = (whole * use.firstFrameInFile) / length + left - begin;
      waves.push({ place, left, width: right - left, track, media: recording.media, whole, before });
    }
  }
  return waves;
}

/** How long the linked file is, in frames as the edit counts. */
function lengthInEdit({ lengthInFile, media, rate }: CutRecording): number | null {
  if (lengthInFile === null || !media?.rate) return null;
  return (lengthInFile * media.rate.den * rate.num) / (media.rate.num * rate.den);
}

import { z } from 'zod';
import type { Doubt, Facts } from '@legame/core/model';
import {
  hasDropFrame,
  nominalRate,
  parseTimecode,
  rate,
  snapToStandard,
  type Counting,
  type Rate,
} from '@legame/core/time';

/** What the prober says of a file, as far as it is used. Everything may be absent. */
const streamSchema = z.object({
  codec_type: z.string().optional(),
  codec_name: z.string().optional(),
  codec_tag_string: z.string().optional(),
  // Zero for what the prober could not look into.
  width: z.int().nonnegative().optional(),
  height: z.int().nonnegative().optional(),
  r_frame_rate: z.string().optional(),
  avg_frame_rate: z.string().optional(),
  nb_frames: z.string().optional(),
  duration_ts: z.number().optional(),
  time_base: z.string().optional(),
  sample_rate: z.string().optional(),
  channels: z.int().optional(),
  pix_fmt: z.string().optional(),
  bits_per_raw_sample: z.string().optional(),
  bits_per_sample: z.int().optional(),
  disposition: z.object({ attached_pic: z.int().optional() }).optional(),
  tags: z.record(z.string(), z.string()).optional(),
});
const probeSchema = z.object({
  streams: z.array(streamSchema).default([]),
  format: z.object({
    format_name: z.string().default(''),
    duration: z.string().optional(),
    tags: z.record(z.string(), z.string()).optional(),
  }),
});
type Stream = z.infer<typeof streamSchema>;
type Probe = z.infer<typeof probeSchema>;

/** The prober's JSON as facts; null when it found neither picture nor sound. Throws on JSON of another shape. */
export function factsOfProbe(json: string): Facts | null {
  const probe = probeSchema.parse(JSON.parse(json));
  const picture = probe.streams.find((s) => s.codec_type === 'video' && s.disposition?.attached_pic !== 1);
  const sound = probe.streams.find((s) => s.codec_type === 'audio');
  if (picture) return isStill(probe) ? stillFacts(probe, picture) : pictureFacts(probe, picture, sound);
  return sound ? soundFacts(probe, sound) : null;
}

const isStill = (probe: Probe): boolean =>
  /(_pipe|^image2)$/.test(probe.format.format_name) || probe.format.format_name.endsWith('_pipe');

function stillFacts(probe: Probe, stream: Stream): Facts {
  return {
    ...common(probe, stream),
    doubts: [],
    kind: 'still',
    rate: null,
    counting: 'non-drop',
    timecodeSource: 'none',
    start: 0,
    length: null,
    sampleRate: null,
    channels: null,
  };
}

function pictureFacts(probe: Probe, picture: Stream, sound: Stream | undefined): Facts {
  const [average, base] = [readFraction(picture.avg_frame_rate), readFraction(picture.r_frame_rate)];
  const frameRate = average ?? base;
  const timecode = findTag(probe, ['timecode']);
  const clock = probe.streams.find((s) => s.codec_tag_string === 'tmcd');
  const read = frameRate && timecode ? readStart(timecode, frameRate, readFraction(clock?.avg_frame_rate)) : null;
  // An MXF that was given no timecode says zero all the same.
  const start = read && probe.format.format_name === 'mxf' && read.frames === 0 ? null : read;
  const varies =
    average !== null && base !== null && Math.abs((average.num * base.den) / (average.den * base.num) - 1) > 0.001;
  const length = frameRate ? pictureLength(probe, picture, frameRate) : null;
  const doubts: Doubt[] = [
    ...(average ? [] : ['rate-guessed' as const]),
    ...(varies ? ['rate-varies' as const] : []),
    ...(start ? [] : ['timecode-missing' as const]),
    ...(length?.isEstimated ? ['length-estimated' as const] : []),
  ];
  return {
    ...common(probe, picture),
    doubts,
    kind: 'picture',
    rate: frameRate,
    counting: start?.counting ?? 'non-drop',
    timecodeSource: start ? 'timecode' : 'none',
    start: start?.frames ?? 0,
    length: length?.frames ?? null,
    sampleRate: sound?.sample_rate ? Number(sound.sample_rate) : null,
    channels: sound?.channels ?? null,
    reel: findTag(probe, ['reel_name', 'reel', 'tape']),
  };
}

function soundFacts(probe: Probe, sound: Stream): Facts {
  const sampleRate = sound.sample_rate ? Number(sound.sample_rate) : null;
  const reference = Number(findTag(probe, ['time_reference']) ?? NaN);
  const hasReference = Number.isSafeInteger(reference);
  const perTick = readFraction(sound.time_base);
  const ticks = sound.duration_ts ?? null;
  const counted =
    ticks !== null && perTick && sampleRate ? Math.round((ticks * perTick.num * sampleRate) / perTick.den) : null;
  // Matroska says it for the whole file alone, in milliseconds.
  const seconds = probe.format.duration ? Number(probe.format.duration) : NaN;
  const reckoned = sampleRate && Number.isFinite(seconds) ? Math.round(seconds * sampleRate) : null;
  const length = counted ?? reckoned;
  return {
    ...common(probe, sound),
    doubts: [
      ...(hasReference ? [] : ['timecode-missing' as const]),
      ...(counted === null && length !== null ? ['length-estimated' as const] : []),
    ],
    kind: 'sound',
    rate: null,
    counting: 'non-drop',
    timecodeSource: hasReference ? 'time-reference' : 'none',
    start: hasReference ? reference : 0,
    length,
    sampleRate,
    channels: sound.channels ?? null,
    raster: null,
    reel: findTag(probe, ['reel_name', 'reel', 'tape']),
  };
}

function common(probe: Probe, stream: Stream) {
  const depth = Number(stream.bits_per_raw_sample ?? 0) || stream.bits_per_sample || depthOfPixels(stream.pix_fmt);
  return {
    container: probe.format.format_name.split(',')[0] ?? '',
    codec: stream.codec_name ?? 'unknown',
    raster: stream.width && stream.height ? { width: stream.width, height: stream.height } : null,
    bitDepth: depth || null,
    chroma: chromaOf(stream.pix_fmt),
    reel: null,
    readBy: 'decoder' as const,
  };
}

/** Counted frames where the container says so; else the duration in its own time base, which MXF counts in frames. */
function pictureLength(probe: Probe, stream: Stream, frameRate: Rate): { frames: number; isEstimated: boolean } | null {
  const base = readFraction(stream.time_base);
  const timed =
    stream.duration_ts !== undefined && base
      ? Math.round((stream.duration_ts * base.num * frameRate.num) / (base.den * frameRate.den))
      : null;
  if (stream.nb_frames && /^\d+$/.test(stream.nb_frames)) {
    const counted = Number(stream.nb_frames);
    // Frames that a movie's list of edits cuts off are counted, and not timed.
    const isEven = readFraction(stream.avg_frame_rate) !== null && stream.avg_frame_rate === stream.r_frame_rate;
    const isCut = isEven && timed && probe.format.format_name.startsWith('mov');
    return { frames: isCut ? Math.min(counted, timed) : counted, isEstimated: false };
  }
  if (timed !== null) return { frames: timed, isEstimated: probe.format.format_name !== 'mxf' };
  const tagged = stream.tags?.DURATION ? secondsOf(stream.tags.DURATION) : null;
  const seconds = tagged ?? (probe.format.duration ? Number(probe.format.duration) : NaN);
  if (!Number.isFinite(seconds)) return null;
  return { frames: Math.round((seconds * frameRate.num) / frameRate.den), isEstimated: true };
}

/** Reads the start at the rate its track counts: a 59.94 file may count at 29.97, two frames to a number. */
function readStart(
  text: string,
  frameRate: Rate,
  clockRate: Rate | null,
): { frames: number; counting: Counting } | null {
  const times = clockRate ? nominalRate(frameRate) / nominalRate(clockRate) : 1;
  const isShared = clockRate !== null && Number.isInteger(times) && times > 1;
  const counted = isShared ? clockRate : frameRate;
  const counting: Counting = text.includes(';') && hasDropFrame(counted) ? 'drop' : 'non-drop';
  const read = parseTimecode(text, counted, counting);
  return read.ok ? { frames: read.frames * (isShared ? times : 1), counting } : null;
}

function findTag(probe: Probe, names: readonly string[]): string | null {
  for (const tags of [probe.format.tags, ...probe.streams.map((s) => s.tags)]) {
    for (const [key, value] of Object.entries(tags ?? {}))
      if (names.includes(key.toLowerCase()) && value.trim() !== '') return value.trim();
  }
  return null;
}

/** A fraction as the prober writes it; odd ones that stand for a standard rate (59.94 in Matroska) snap to it. */
function readFraction(text: string | undefined): Rate | null {
  const match = /^(\d+)\/(\d+)$/.exec(text ?? '');
  const [num, den] = [Number(match?.[1] ?? 0), Number(match?.[2] ?? 0)];
  if (!num || !den) return null;
  return snapToStandard(rate(num, den));
}

/** Chroma sampling, told by the names of pixel formats. */
function chromaOf(format: string | undefined): string | null {
  if (!format) return null;
  const sampling = /^yuva?j?(420|422|444|440|411|410)/.exec(format)?.[1];
  if (sampling) return [...sampling].join(':');
  if (/^(nv12|nv21|p01)/.test(format)) return '4:2:0';
  if (format.startsWith('gray')) return 'grey';
  return /rgb|bgr|gbr/.test(format) ? 'RGB' : null;
}

function depthOfPixels(format: string | undefined): number | null {
  if (!format) return null;
  const bits = /(?:p|gray|rgba?|bgra?|gbra?p|rgb|bgr)(9|10|12|14|16)(?:le|be)?$/.exec(format)?.[1];
  if (bits) return Number(bits);
  return /48(le|be)$|64(le|be)$/.test(format) ? 16 : 8;
}

function secondsOf(text: string): number | null {
  const match = /^(\d+):(\d+):(\d+(?:\.\d+)?)$/.exec(text);
  return match ? Number(match[1]) * 3600 + Number(match[2]) * 60 + Number(match[3]) : null;
}

import { z } from 'zod';
import { hasDropFrame, parseTimecode, rate, standardRates, type Counting, type Facts, type Rate } from '@legame/core';

/** What the prober says of a file, as far as it is used. Everything may be absent. */
const streamSchema = z.object({
  codec_type: z.string().optional(),
  codec_name: z.string().optional(),
  width: z.int().positive().optional(),
  height: z.int().positive().optional(),
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
  const frameRate = readFraction(picture.avg_frame_rate) ?? readFraction(picture.r_frame_rate);
  const timecode = findTag(probe, ['timecode']);
  const start = frameRate && timecode ? readStart(timecode, frameRate) : null;
  return {
    ...common(probe, picture),
    kind: 'picture',
    rate: frameRate,
    counting: start?.counting ?? 'non-drop',
    timecodeSource: start ? 'timecode' : 'none',
    start: start?.frames ?? 0,
    length: frameRate ? pictureLength(probe, picture, frameRate) : null,
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
  const length =
    ticks !== null && perTick && sampleRate ? Math.round((ticks * perTick.num * sampleRate) / perTick.den) : null;
  return {
    ...common(probe, sound),
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
    reel: null,
  };
}

/** Counted frames where the container says so; else the duration in its own time base, which MXF counts in frames. */
function pictureLength(probe: Probe, stream: Stream, frameRate: Rate): number | null {
  if (stream.nb_frames && /^\d+$/.test(stream.nb_frames)) return Number(stream.nb_frames);
  const base = readFraction(stream.time_base);
  if (stream.duration_ts !== undefined && base) {
    return Math.round((stream.duration_ts * base.num * frameRate.num) / (base.den * frameRate.den));
  }
  const tagged = stream.tags?.DURATION ? secondsOf(stream.tags.DURATION) : null;
  const seconds = tagged ?? (probe.format.duration ? Number(probe.format.duration) : NaN);
  return Number.isFinite(seconds) ? Math.round((seconds * frameRate.num) / frameRate.den) : null;
}

/** Reads the start at the file's own rate; a 59.94 file may count its timecode at 29.97, so frames are tried at half the rate too. */
function readStart(text: string, frameRate: Rate): { frames: number; counting: Counting } | null {
  const counting: Counting = text.includes(';') && hasDropFrame(frameRate) ? 'drop' : 'non-drop';
  const read = parseTimecode(text, frameRate, counting);
  return read.ok ? { frames: read.frames, counting } : null;
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
  const exact = rate(num, den);
  return standardRates.find((s) => Math.abs((s.num * exact.den) / (s.den * exact.num) - 1) < 0.0003) ?? exact;
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

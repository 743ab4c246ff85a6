import { rangeLength, type FrameRange } from '../time/range.ts';
import { Cursor, HeaderBroken, joinBytes, latinOf, type ByteReader } from './bytes.ts';
import { framed, latin, plainBext, timeReferenceAt, u32, type Chunk } from './waveWrite.ts';

/** A WAVE file that holds a part of another: what is written before its sound, where the sound lies in the source, and what after. */
export type WaveCut = {
  readonly head: Uint8Array;
  readonly data: { readonly offset: number; readonly length: number };
  readonly tail: Uint8Array;
};

/** Descriptions and lists beside the sound are kept up to this size, all together. */
const mostBesideInBytes = 64_000_000;
/** Chunks that say sizes and places of the whole file anew, or are only room for such. */
const remade = ['ds64', 'JUNK', 'junk', 'PAD ', 'FLLR', 'levl', 'plst', 'smpl'];

/**
 * A part of a PCM WAVE file to the sample, `range` in samples from its first, as a file of the same kind: every chunk is
 * kept, the time reference (`bext`, iXML) set to where the part starts, in samples since midnight, cue points moved along.
 * One without a time reference gets one; with `startsAt` null it stays without. Null where the file is none that can
 * be cut so.
 */
export function cutWave(source: ByteReader, range: FrameRange, startsAt: number | null): WaveCut | null {
  const parsed = parsedOrNull(source);
  if (!parsed) return null;
  const { form, format, chunks, data } = parsed;
  const bytesPerFrame = new DataView(format.buffer, format.byteOffset).getUint16(12, true);
  const sampleRate = new DataView(format.buffer, format.byteOffset).getUint32(4, true);
  const held = Math.floor(data.length / bytesPerFrame);
  if (bytesPerFrame === 0 || range.start < 0 || range.end > held || rangeLength(range) <= 0) return null;
  const isPart = (id: string) => !remade.includes(id);
  const day = BigInt(Math.max(1, sampleRate)) * 86_400n;
  const move = (samples: bigint) => (startsAt === null ? samples + BigInt(range.start) : BigInt(startsAt)) % day;
  const kept = chunks.filter((c) => isPart(c.id)).map((chunk) => ({ ...chunk, body: moved(chunk, range, move) }));
  if (startsAt !== null && !kept.some((c) => c.id === 'bext'))
    kept.unshift({ id: 'bext', body: plainBext(BigInt(startsAt) % day), isBefore: true });
  const { head, tail } = framed({
    form: form === 'BW64' ? 'BW64' : 'RIFF',
    before: kept.filter((c) => c.isBefore),
    after: kept.filter((c) => !c.isBefore),
    sound: { samples: rangeLength(range), bytesPerSample: bytesPerFrame },
  });
  const length = rangeLength(range) * bytesPerFrame;
  return { head, data: { offset: data.offset + range.start * bytesPerFrame, length }, tail };
}

type Parsed = {
  readonly form: string;
  readonly format: Uint8Array;
  readonly chunks: readonly (Chunk & { readonly isBefore: boolean })[];
  readonly data: { readonly offset: number; readonly length: number };
};

function parsedOrNull(source: ByteReader): Parsed | null {
  try {
    return parse(source);
  } catch (error) {
    if (error instanceof HeaderBroken) return null;
    throw error;
  }
}

function parse(source: ByteReader): Parsed | null {
  const start = new Cursor(source.read(0, 12));
  const form = start.latin(4);
  start.skip(4);
  if (!['RIFF', 'RF64', 'BW64'].includes(form) || start.latin(4) !== 'WAVE') return null;
  const chunks: (Chunk & { isBefore: boolean })[] = [];
  let format: Uint8Array | null = null;
  let data: Parsed['data'] | null = null;
  let longData: number | null = null;
  let beside = 0;
  for (let at = 12; at + 8 <= source.size;) {
    const chunk = new Cursor(source.read(at, 8));
    const id = chunk.latin(4);
    const stated = chunk.u32(true);
    const offset = at + 8;
    if (id === 'data') {
      const length = stated === 0xffff_ffff ? (longData ?? source.size - offset) : stated;
      if (offset + length > source.size || data) return null;
      data = { offset, length };
      at = offset + length + (length % 2);
      continue;
    }
    beside += stated;
    if (offset + stated > source.size || beside > mostBesideInBytes) return null;
    const body = Uint8Array.from(source.read(offset, stated));
    if (id === 'ds64' && stated >= 28) longData = new Cursor(body, 8).u64(true);
    if (id === 'fmt ') format = body;
    chunks.push({ id, body, isBefore: data === null });
    at = offset + stated + (stated % 2);
  }
  return format && format.length >= 16 && data ? { form, format, chunks, data } : null;
}

function moved({ id, body }: Chunk, range: FrameRange, move: (samples: bigint) => bigint): Uint8Array {
  const view = new DataView(body.buffer, body.byteOffset, body.byteLength);
  switch (id) {
    case 'bext':
      if (body.length >= timeReferenceAt + 8)
        view.setBigUint64(timeReferenceAt, move(view.getBigUint64(timeReferenceAt, true)), true);
      return body;
    case 'fact':
      if (body.length >= 4) view.setUint32(0, Math.min(rangeLength(range), 0xffff_ffff), true);
      return body;
    case 'iXML':
      return latin(movedXml(latinOf(body), move));
    case 'cue ':
      return movedCues(body, range);
    default:
      return body;
  }
}

/** The two halves of a time reference that iXML repeats, wherever they stand. */
const halves = [
  ['TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_HI', 'TIMESTAMP_SAMPLES_SINCE_MIDNIGHT_LO'],
  ['BWF_TIME_REFERENCE_HIGH', 'BWF_TIME_REFERENCE_LOW'],
] as const;

function movedXml(xml: string, move: (samples: bigint) => bigint): string {
  return halves.reduce((text, [high, low]) => {
    const half = (name: string) => new RegExp(`(<${name}>\\s*)(\\d{1,10})(\\s*</${name}>)`);
    const [up, down] = [half(high).exec(text), half(low).exec(text)];
    if (!up || !down) return text;
    const at = move((BigInt(up[2]!) << 32n) + BigInt(down[2]!));
    return text
      .replace(half(high), (_, a: string, __, b: string) => `${a}${at >> 32n}${b}`)
      .replace(half(low), (_, a: string, __, b: string) => `${a}${at & 0xffff_ffffn}${b}`);
  }, xml);
}

const cueInBytes = 24;
/** Cue points inside the part, counted from its first sample. */
function movedCues(body: Uint8Array, { start, end }: FrameRange): Uint8Array {
  const cues: Uint8Array[] = [];
  for (let at = 4; at + cueInBytes <= body.length; at += cueInBytes) {
    const cue = body.slice(at, at + cueInBytes);
    const view = new DataView(cue.buffer);
    const sample = view.getUint32(20, true);
    if (sample < start || sample >= end) continue;
    view.setUint32(4, Math.max(0, view.getUint32(4, true) - start), true);
    view.setUint32(20, sample - start, true);
    cues.push(cue);
  }
  return joinBytes([u32(cues.length), ...cues]);
}

import type { Facts } from '../model/media.ts';
import { Cursor, hexOf, latinOf, type ByteReader } from './bytes.ts';
import { facts, pass, unreadable, type HeaderReading } from './reading.ts';

/** Descriptions and cue lists are small; a longer chunk is not read for its text. */
const largestTextChunk = 4_000_000;
const plainPcm = '0001000000001000800000aa00389b71';
const plainFloat = '0003000000001000800000aa00389b71';

/** RIFF, RF64 and BW64 WAVE files (EBU Tech 3285 and 3306): PCM and float, with `bext` start and iXML reel. */
export function readWave(source: ByteReader): HeaderReading {
  const head = new Cursor(source.read(0, 12));
  const form = head.latin(4);
  head.skip(4);
  if (head.latin(4) !== 'WAVE') return pass('a RIFF file of another kind');
  let format: Format | null = null;
  let reference: number | null = null;
  let reel: string | null = null;
  let longData: number | null = null;
  let at = 12;
  while (at + 8 <= source.size) {
    const chunk = new Cursor(source.read(at, 8));
    const id = chunk.latin(4);
    const stated = chunk.u32(true);
    const body = at + 8;
    const piece = (most: number) => new Cursor(source.read(body, Math.min(stated, most)));
    if (id === 'ds64' && form !== 'RIFF') {
      const sizes = piece(28);
      sizes.skip(8);
      longData = sizes.u64(true);
    } else if (id === 'fmt ') format = readFormat(piece(40));
    else if (id === 'bext' && stated >= 348) {
      const bext = piece(348);
      bext.skip(338);
      reference = bext.u64(true);
    } else if (id === 'iXML' && stated <= largestTextChunk) reel = reelIn(source.read(body, stated));
    else if (id === 'data') {
      if (!format) return pass('its sound comes before its format');
      if (format.codec === null) return pass('sound that is not plain PCM');
      const isOpen = stated === 0xffffffff && longData === null;
      const declared = stated === 0xffffffff && longData !== null ? longData : stated;
      const present = source.size - body;
      if (!isOpen && declared > present) {
        return unreadable({
          code: 'truncated',
          presentInFrames: Math.floor(present / format.bytesPerFrame),
          expectedInFrames: Math.floor(declared / format.bytesPerFrame),
          unit: 'samples',
        });
      }
      // What stands behind the sound may still hold the start and the reel.
      const length = Math.floor((isOpen ? present : declared) / format.bytesPerFrame);
      const after = isOpen ? {} : readBehind(source, body + declared + (declared % 2));
      return facts(waveFacts(format, length, reference ?? after.reference ?? null, reel ?? after.reel ?? null, isOpen));
    }
    at = body + stated + (stated % 2);
  }
  return unreadable({ code: 'header-broken', detail: { code: 'no-sound-data' } });
}

function readBehind(source: ByteReader, from: number): { reference?: number; reel?: string | null } {
  const found: { reference?: number; reel?: string | null } = {};
  for (let at = from; at + 8 <= source.size;) {
    const chunk = new Cursor(source.read(at, 8));
    const id = chunk.latin(4);
    const stated = chunk.u32(true);
    if (at + 8 + stated > source.size) break;
    if (id === 'bext' && stated >= 348) {
      const bext = new Cursor(source.read(at + 8, 348));
      bext.skip(338);
      found.reference = bext.u64(true);
    } else if (id === 'iXML' && stated <= largestTextChunk) found.reel = reelIn(source.read(at + 8, stated));
    at += 8 + stated + (stated % 2);
  }
  return found;
}

type Format = {
  readonly codec: string | null;
  readonly channels: number;
  readonly sampleRate: number;
  readonly bitDepth: number;
  readonly bytesPerFrame: number;
};

function readFormat(chunk: Cursor): Format {
  let tag = chunk.u16(true);
  const channels = chunk.u16(true);
  const sampleRate = chunk.u32(true);
  chunk.skip(4);
  const bytesPerFrame = chunk.u16(true);
  const bitDepth = chunk.u16(true);
  if (tag === 0xfffe && chunk.left >= 24) {
    chunk.skip(8);
    const sub = hexOf(chunk.bytes(16));
    const plain = sub.slice(4);
    tag =
      plain === plainPcm.slice(4) || plain === plainFloat.slice(4)
        ? parseInt(sub.slice(2, 4) + sub.slice(0, 2), 16)
        : 0;
  }
  const isPlausible = channels > 0 && sampleRate > 0 && bytesPerFrame === channels * Math.ceil(bitDepth / 8);
  return { codec: isPlausible ? codecOf(tag, bitDepth) : null, channels, sampleRate, bitDepth, bytesPerFrame };
}

function codecOf(tag: number, bitDepth: number): string | null {
  if (tag === 3) return bitDepth === 32 ? 'pcm_f32le' : bitDepth === 64 ? 'pcm_f64le' : null;
  if (tag !== 1) return null;
  return bitDepth === 8 ? 'pcm_u8' : [16, 24, 32].includes(bitDepth) ? `pcm_s${bitDepth}le` : null;
}

function waveFacts(
  format: Format,
  length: number,
  reference: number | null,
  reel: string | null,
  isOpen: boolean,
): Facts {
  return {
    kind: 'sound',
    container: 'wav',
    codec: format.codec!,
    rate: null,
    counting: 'non-drop',
    timecodeSource: reference === null ? 'none' : 'time-reference',
    start: reference ?? 0,
    length,
    sampleRate: format.sampleRate,
    channels: format.channels,
    raster: null,
    bitDepth: format.bitDepth,
    chroma: null,
    reel,
    readBy: 'header',
    doubts: [
      ...(reference === null ? ['timecode-missing' as const] : []),
      ...(isOpen ? ['length-estimated' as const] : []),
    ],
  };
}

/** The roll that a recorder wrote into iXML. */
function reelIn(xml: Uint8Array): string | null {
  const text = /<TAPE>([^<]{1,200})<\/TAPE>/.exec(textOf(xml))?.[1]?.trim();
  return text ? text.replaceAll('&lt;', '<').replaceAll('&gt;', '>').replaceAll('&amp;', '&') : null;
}

/** iXML is UTF-8; recorders that do not know it write what their letters are called in Latin. */
function textOf(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return latinOf(bytes);
  }
}

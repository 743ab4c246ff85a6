import type { Facts } from '../model/media.ts';
import { Cursor, type ByteReader } from './bytes.ts';
import { facts, pass, unreadable, type HeaderReading } from './reading.ts';

/** More pixels than this are not decoded: a few kilobytes can unpack to gigabytes. */
export const mostPixels = 134_217_728;
/** A picture's frame header comes after its profiles and previews, which are larger than one thinks. */
const mostMarkers = 400;

/** PNG (ISO/IEC 15948): raster, depth and colour from its first chunk. */
export function readPng(source: ByteReader): HeaderReading {
  const head = new Cursor(source.read(8, 18));
  head.skip(4);
  if (head.latin(4) !== 'IHDR') return pass('a PNG that does not begin with its header');
  const raster = { width: head.u32(), height: head.u32() };
  const [depth, colour] = [head.u8(), head.u8()];
  const chroma = ({ 0: 'grey', 2: 'RGB', 3: null, 6: 'RGB' } as Record<number, string | null | undefined>)[colour];
  if (chroma === undefined || depth < 8) return pass('a PNG of few or unusual colours');
  return still({ container: 'png_pipe', codec: 'png', raster, bitDepth: depth, chroma });
}

const frames = [0xc0, 0xc1, 0xc2];
const standalone = (marker: number) => marker === 0x01 || (marker >= 0xd0 && marker <= 0xd8);

/** JPEG (ITU-T T.81): raster, depth and sampling from its frame header. */
export function readJpeg(source: ByteReader): HeaderReading {
  let at = 2;
  for (let step = 0; step < mostMarkers; step += 1) {
    const head = new Cursor(source.read(at, 4));
    if (head.left < 4 || head.u8() !== 0xff) return pass('a JPEG whose parts do not follow one another');
    const marker = head.u8();
    if (standalone(marker)) at += 2;
    else if (frames.includes(marker)) return jpegFrame(new Cursor(source.read(at + 4, 17)));
    else at += 2 + head.u16();
  }
  return pass('a JPEG without a frame header near its start');
}

function jpegFrame(frame: Cursor): HeaderReading {
  const bitDepth = frame.u8();
  const height = frame.u16();
  const width = frame.u16();
  const components = frame.u8();
  const sampling = Array.from({ length: components }, () => {
    if (frame.left < 3) return 0;
    frame.skip(1);
    const factors = frame.u8();
    frame.skip(1);
    return factors;
  });
  const isPlain = sampling.slice(1).every((f) => f === 0x11);
  const chroma = { 0x22: '4:2:0', 0x21: '4:2:2', 0x11: '4:4:4', 0x41: '4:1:1' }[sampling[0] ?? 0];
  if (components !== 3 || !isPlain || !chroma || bitDepth !== 8 || width === 0 || height === 0)
    return pass('a JPEG of unusual sampling');
  return still({ container: 'jpeg_pipe', codec: 'mjpeg', raster: { width, height }, bitDepth, chroma });
}

function still(told: Pick<Facts, 'container' | 'codec' | 'raster' | 'bitDepth' | 'chroma'>): HeaderReading {
  const { width, height } = told.raster!;
  if (width * height > mostPixels)
    return unreadable({ code: 'too-large-to-decode', detail: { code: 'pixels', width, height } });
  return facts({
    ...told,
    kind: 'still',
    rate: null,
    counting: 'non-drop',
    timecodeSource: 'none',
    start: 0,
    length: null,
    sampleRate: null,
    channels: null,
    reel: null,
    readBy: 'header',
    doubts: [],
  });
}

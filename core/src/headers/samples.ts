import type { Raster } from '../model/edit.ts';
import type { Box } from './boxes.ts';
import { HeaderBroken } from './bytes.ts';

export type PictureFormat = {
  readonly codec: string;
  readonly raster: Raster;
  readonly bitDepth: number | null;
  readonly chroma: string | null;
};
export type SoundFormat = { readonly sampleRate: number; readonly channels: number };

/** Sample descriptions whose depth is told by their name; others are asked for, or left to a decoder. */
const codecs: Readonly<Record<string, { codec: string; bitDepth: number | 'avc' | 'hevc'; chroma?: string }>> = {
  avc1: { codec: 'h264', bitDepth: 'avc' },
  avc3: { codec: 'h264', bitDepth: 'avc' },
  hvc1: { codec: 'hevc', bitDepth: 'hevc' },
  hev1: { codec: 'hevc', bitDepth: 'hevc' },
  apch: { codec: 'prores', bitDepth: 10, chroma: '4:2:2' },
  apcn: { codec: 'prores', bitDepth: 10, chroma: '4:2:2' },
  apcs: { codec: 'prores', bitDepth: 10, chroma: '4:2:2' },
  apco: { codec: 'prores', bitDepth: 10, chroma: '4:2:2' },
  jpeg: { codec: 'mjpeg', bitDepth: 8 },
  mjpa: { codec: 'mjpeg', bitDepth: 8 },
  m2v1: { codec: 'mpeg2video', bitDepth: 8 },
  mp4v: { codec: 'mpeg4', bitDepth: 8 },
};

/** The picture's codec, raster and depth from its one description; null where a decoder must say. */
export function pictureFormat(descriptions: readonly Box[]): PictureFormat | null {
  const [entry] = descriptions;
  const known = entry && codecs[entry.type];
  if (!known || descriptions.length !== 1) return null;
  const cursor = entry.cursor();
  cursor.skip(24);
  const raster = { width: cursor.u16(), height: cursor.u16() };
  if (raster.width === 0 || raster.height === 0) return null;
  const inside = () => entry.children(78);
  switch (known.bitDepth) {
    case 'avc': {
      const config = inside().find((b) => b.type === 'avcC');
      const depth = config ? avcDepth(config) : null;
      return depth && { codec: known.codec, raster, ...depth };
    }
    case 'hevc': {
      const config = inside()
        .find((b) => b.type === 'hvcC')
        ?.cursor();
      if (!config) return null;
      config.skip(16);
      const chroma = chromas[config.u8() & 3] ?? null;
      return { codec: known.codec, raster, bitDepth: (config.u8() & 7) + 8, chroma };
    }
    default:
      return { codec: known.codec, raster, bitDepth: known.bitDepth, chroma: known.chroma ?? null };
  }
}

const chromas = ['grey', '4:2:0', '4:2:2', '4:4:4'] as const;

/** Profiles below High have 8 bits; High and above state depth and chroma behind the parameter sets (ISO 14496-15). */
function avcDepth(config: Box): Pick<PictureFormat, 'bitDepth' | 'chroma'> | null {
  const cursor = config.cursor();
  cursor.skip(1);
  const profile = cursor.u8();
  if ([66, 77, 88].includes(profile)) return { bitDepth: 8, chroma: '4:2:0' };
  cursor.skip(3);
  for (const mask of [31, 255]) {
    const sets = cursor.u8() & mask;
    for (let i = 0; i < sets; i += 1) cursor.skip(cursor.u16());
  }
  if (cursor.left < 4) return null;
  const chroma = chromas[cursor.u8() & 3] ?? null;
  return { bitDepth: (cursor.u8() & 7) + 8, chroma };
}

const pcm = ['sowt', 'twos', 'in24', 'in32', 'fl32', 'fl64', 'lpcm', 'raw ', 'ipcm'];

/** Channels and sample rate of the first sound track; null where only a decoder knows. */
export function soundFormat(descriptions: readonly Box[]): SoundFormat | null {
  const [entry] = descriptions;
  if (!entry || descriptions.length !== 1) return null;
  const cursor = entry.cursor();
  cursor.skip(8);
  const version = cursor.u16();
  cursor.skip(6);
  const channels = cursor.u16();
  cursor.skip(6);
  const sampleRate = cursor.u32() >>> 16;
  if (pcm.includes(entry.type)) {
    if (version < 2) return channels && sampleRate ? { sampleRate, channels } : null;
    cursor.skip(4);
    const stated = { sampleRate: cursor.f64(), channels: cursor.u32() };
    return Number.isInteger(stated.sampleRate) ? stated : null;
  }
  if (entry.type !== 'mp4a' || version !== 0) return null;
  const esds = entry.children(28).find((b) => b.type === 'esds');
  return esds ? aacFormat(esds) : null;
}

const aacRates = [96_000, 88_200, 64_000, 48_000, 44_100, 32_000, 24_000, 22_050, 16_000, 12_000, 11_025, 8000, 7350];

/** MP4 sound states its channels in the decoder's own configuration, and only there reliably (ISO 14496-3). */
function aacFormat(esds: Box): SoundFormat | null {
  const cursor = esds.cursor();
  cursor.skip(4);
  const open = (tag: number) => {
    if (cursor.u8() !== tag) throw new HeaderBroken({ code: 'sound-garbled' });
    let byte = cursor.u8();
    for (let i = 0; i < 3 && byte & 0x80; i += 1) byte = cursor.u8();
  };
  open(3);
  cursor.skip(2);
  const flags = cursor.u8();
  cursor.skip((flags & 0x80 ? 2 : 0) + (flags & 0x20 ? 2 : 0));
  if (flags & 0x40) return null;
  open(4);
  if (cursor.u8() !== 0x40) return null;
  cursor.skip(12);
  open(5);
  const bits = cursor.u16();
  const sampleRate = aacRates[(bits >> 7) & 15];
  const channels = (bits >> 3) & 15;
  const isPlain = bits >> 11 === 2;
  return isPlain && sampleRate && channels > 0 ? { sampleRate, channels: channels === 7 ? 8 : channels } : null;
}

import type { Doubt, Facts } from '../model/media.ts';
import { rate as makeRate, nominalRate, snapToStandard, type Rate } from '../time/rate.ts';
import { HeaderBroken, type ByteReader } from './bytes.ts';
import { childrenOf, findBox, topBoxes, type Box } from './boxes.ts';
import { facts, pass, unreadable, type HeaderReading } from './reading.ts';
import { pictureFormat, soundFormat, type PictureFormat, type SoundFormat } from './samples.ts';

/** A header larger than this is no header of anything that was shot. */
const largestHeader = 200_000_000;

/**
 * MOV and MP4 (ISO 14496-12): codec, raster, rate, frames, start timecode and reel from the boxes. Passed on: variable
 * rates, fragments, several descriptions in one track, codecs whose depth only a decoder knows.
 */
export function readMovie(source: ByteReader): HeaderReading {
  const { boxes, cutOff } = topBoxes(source);
  const moov = boxes.find((b) => b.type === 'moov');
  if (!moov) {
    const begun = cutOff ?? boxes.at(-1);
    return unreadable({
      code: 'header-broken',
      detail: { code: begun?.type === 'mdat' ? 'index-unwritten' : 'index-missing' },
    });
  }
  if (moov === cutOff) return unreadable({ code: 'header-broken', detail: { code: 'ends-in-index' } });
  if (moov.size > largestHeader) return pass('an index of unusual size');
  const movie = childrenOf(source.read(moov.offset, moov.size), moov.headerSize);
  if (movie.some((b) => b.type === 'mvex')) return pass('a fragmented file');
  const tracks = movie.filter((b) => b.type === 'trak').map(readTrack);
  const picture = tracks.find((t) => t.handler === 'vide');
  const sound = tracks.find((t) => t.handler === 'soun');
  const clock = tracks.find((t) => t.handler === 'tmcd');
  const main = picture ?? sound;
  if (!main) return unreadable({ code: 'not-media', detail: { code: 'no-picture-no-sound' } });
  if (main.isElsewhere) return unreadable({ code: 'refers-elsewhere' });
  const present = presentSamples(main, source.size);
  if (present < main.samples)
    return unreadable({ code: 'truncated', presentInFrames: present, expectedInFrames: main.samples, unit: 'frames' });
  if (!picture) return pass('sound alone');
  const format = pictureFormat(picture.descriptions);
  const heard = sound ? soundFormat(sound.descriptions) : null;
  if (!format) return pass('a picture codec that the header does not tell whole');
  if (sound && !heard) return pass('a sound codec that the header does not tell whole');
  const [time] = picture.times;
  if (picture.times.length !== 1 || !time || time.delta === 0 || picture.samples < 2)
    return pass('frames of different lengths');
  return facts(
    movieFacts(source, picture, format, { heard, clock: clock ?? null, tags: tagsOf(movie), scale: scaleOf(movie) }),
  );
}

/** What a movie tells beside its picture; `scale` as `scaleOf` has it. */
type Beside = {
  readonly heard: SoundFormat | null;
  readonly clock: Track | null;
  readonly tags: ReadonlyMap<string, string>;
  readonly scale: number;
};

function movieFacts(
  source: ByteReader,
  picture: Track,
  format: PictureFormat,
  { heard, clock, tags, scale }: Beside,
): Facts {
  const rate = snapToStandard(makeRate(picture.timescale, picture.times[0]!.delta));
  const timecode = clock ? readClock(source, clock, rate) : null;
  const reel = ['reel_name', 'reel', 'tape'].map((name) => tags.get(name)).find(Boolean) ?? timecode?.reel ?? null;
  const doubts: Doubt[] = timecode ? [] : ['timecode-missing'];
  return {
    kind: 'picture',
    container: 'mov',
    codec: format.codec,
    rate,
    counting: timecode?.counting ?? 'non-drop',
    timecodeSource: timecode ? 'timecode' : 'none',
    start: timecode?.start ?? 0,
    length: shownFrames(picture, scale),
    sampleRate: heard?.sampleRate ?? null,
    channels: heard?.channels ?? null,
    raster: format.raster,
    bitDepth: format.bitDepth,
    chroma: format.chroma,
    reel,
    readBy: 'header',
    doubts,
  };
}

/** Time units a second of the movie as a whole; 0 where nothing says so. */
function scaleOf(movie: readonly Box[]): number {
  const mvhd = movie.find((b) => b.type === 'mvhd')?.cursor();
  if (!mvhd) return 0;
  mvhd.skip(mvhd.u8() === 1 ? 19 : 11);
  return mvhd.u32();
}

/**
 * How many frames of a track of even frames are shown: what was cut off at its ends without being coded anew still lies
 * in the file, and only the list of edits says that it is none of the film. A length of zero there means to the end.
 */
function shownFrames({ samples, times, timescale, edits }: Track, scale: number): number {
  const shown = edits.filter((edit) => edit.from >= 0);
  if (scale === 0 || shown.length === 0 || shown.some((edit) => edit.lasts === 0)) return samples;
  const units = shown.reduce((sum, edit) => sum + edit.lasts, 0);
  return Math.min(samples, Math.round((units * timescale) / (scale * times[0]!.delta)));
}

/** The one picture track of a movie that is read whole; null where there is none such, or it lies in pieces. */
export function pictureTrack(source: ByteReader): Track | null {
  const moov = topBoxes(source).boxes.find((b) => b.type === 'moov');
  if (!moov || moov.size > largestHeader || moov.offset + moov.size > source.size) return null;
  const movie = childrenOf(source.read(moov.offset, moov.size), moov.headerSize);
  if (movie.some((b) => b.type === 'mvex')) return null;
  const tracks = movie.filter((b) => b.type === 'trak').map(readTrack);
  const pictures = tracks.filter((t) => t.handler === 'vide');
  return pictures.length === 1 && !pictures[0]!.isElsewhere ? pictures[0]! : null;
}

export type Track = {
  readonly handler: string;
  readonly timescale: number;
  readonly samples: number;
  readonly times: readonly { readonly count: number; readonly delta: number }[];
  readonly descriptions: readonly Box[];
  readonly isElsewhere: boolean;
  readonly sizes: { readonly fixed: number; readonly table: Box | null };
  readonly chunks: { readonly box: Box; readonly wide: boolean } | null;
  readonly perChunk: readonly { readonly first: number; readonly count: number }[];
  /** Samples at which decoding can begin, from 1; null where it can at all. */
  readonly keys: readonly number[] | null;
  /** By how much later than it is decoded a sample is shown. */
  readonly shifts: readonly { readonly count: number; readonly by: number }[];
  /**
   * The stretches of it that are shown, from which of its own times, and how long by the clock of the movie; from less
   * than zero where nothing is shown. None where all of it is.
   */
  readonly edits: readonly { readonly from: number; readonly lasts: number }[];
};

function readTrack(trak: Box): Track {
  const mdia = need(trak, 'mdia');
  const mdhd = need(mdia, 'mdhd').cursor();
  const isLong = mdhd.u8() === 1;
  mdhd.skip(3 + (isLong ? 16 : 8));
  const timescale = mdhd.u32();
  const hdlr = need(mdia, 'hdlr').cursor();
  hdlr.skip(8);
  const handler = hdlr.latin(4);
  const stbl = findBox(mdia, 'minf', 'stbl');
  const none = {
    handler,
    timescale,
    samples: 0,
    times: [],
    descriptions: [],
    isElsewhere: false,
    keys: null,
    shifts: [],
    edits: [],
  };
  if (!stbl || timescale === 0) return { ...none, sizes: { fixed: 0, table: null }, chunks: null, perChunk: [] };
  const stsz = findBox(stbl, 'stsz');
  let [fixed, samples] = [0, 0];
  if (stsz) {
    const cursor = stsz.cursor();
    cursor.skip(4);
    [fixed, samples] = [cursor.u32(), cursor.u32()];
    // A forged count must not make anybody wait: each sample has its size in the table, or there is none.
    if (fixed === 0 && samples * 4 > stsz.size) throw new HeaderBroken({ code: 'table-short' });
  }
  const stco = findBox(stbl, 'stco') ?? findBox(stbl, 'co64');
  const stsd = need(stbl, 'stsd');
  return {
    ...none,
    samples,
    times: entriesOf(findBox(stbl, 'stts'), (c) => ({ count: c.u32(), delta: c.u32() })).filter((t) => t.count > 0),
    descriptions: stsd.children(8),
    isElsewhere: (findBox(mdia, 'minf', 'dinf', 'dref')?.children(8) ?? []).some(
      (ref) => (ref.cursor().u32() & 1) === 0,
    ),
    sizes: { fixed, table: stsz ?? null },
    chunks: stco ? { box: stco, wide: stco.type === 'co64' } : null,
    perChunk: entriesOf(findBox(stbl, 'stsc'), (c) => {
      const entry = { first: c.u32(), count: c.u32() };
      c.skip(4);
      return entry;
    }),
    keys: findBox(stbl, 'stss') && entriesOf(findBox(stbl, 'stss'), (c) => c.u32()),
    shifts: entriesOf(findBox(stbl, 'ctts'), (c) => ({ count: c.u32(), by: c.u32() | 0 })),
    edits: readEdits(findBox(trak, 'edts', 'elst')),
  };
}

function readEdits(elst: Box | null): Track['edits'] {
  const isLong = elst?.cursor().u8() === 1;
  return entriesOf(elst, (c) => {
    const lasts = isLong ? c.u64() : c.u32();
    const from = isLong ? Number(c.i64()) : c.u32() | 0;
    c.skip(4);
    return { from, lasts };
  });
}

function need(box: Box, type: string): Box {
  const found = findBox(box, type);
  if (!found) throw new HeaderBroken({ code: 'index-lacks', part: type });
  return found;
}

function entriesOf<T>(box: Box | null, read: (cursor: ReturnType<Box['cursor']>) => T): T[] {
  if (!box) return [];
  const cursor = box.cursor();
  cursor.skip(4);
  const count = cursor.u32();
  const entries: T[] = [];
  for (let i = 0; i < count && cursor.left > 0; i += 1) entries.push(read(cursor));
  return entries;
}

/** How many samples lie whole inside the file. Chunks are in the order in which they were written. */
function presentSamples(track: Track, fileSize: number): number {
  if (!track.chunks) return allHeld(track, 0);
  const offsets = track.chunks.box.cursor();
  offsets.skip(4);
  const count = offsets.u32();
  const sizes = track.sizes.fixed === 0 ? track.sizes.table?.cursor() : null;
  sizes?.skip(12);
  let sample = 0;
  let step = 0;
  for (let chunk = 1; chunk <= count && sample < track.samples && offsets.left > 0; chunk += 1) {
    while (step + 1 < track.perChunk.length && track.perChunk[step + 1]!.first <= chunk) step += 1;
    const inChunk = track.perChunk[step]?.count ?? 0;
    let at = track.chunks.wide ? offsets.u64() : offsets.u32();
    if (track.sizes.fixed > 0) {
      const fits = at > fileSize ? 0 : Math.floor((fileSize - at) / track.sizes.fixed);
      // PCM states one sample of sound at a time; a chunk of it is whole or is not.
      if (fits < inChunk && track.handler === 'vide') return sample + fits;
      if (at > fileSize) return sample;
      sample += inChunk;
      continue;
    }
    for (let i = 0; i < inChunk && sample < track.samples; i += 1) {
      at += sizes!.u32();
      if (at > fileSize) return sample;
      sample += 1;
    }
  }
  return allHeld(track, sample);
}

/** Samples that no chunk holds are in no file: their count is forged or garbled, and no length to work with. */
function allHeld({ samples }: Track, inChunks: number): number {
  if (inChunks < samples) throw new HeaderBroken({ code: 'table-short' });
  return samples;
}

/** The start address from a timecode track: one 32-bit frame number, counted at the track's own rate. */
function readClock(source: ByteReader, clock: Track, rate: Rate) {
  const entry = clock.descriptions[0]?.cursor();
  const offsets = clock.chunks?.box.cursor();
  if (!entry || !offsets) return null;
  entry.skip(12);
  const isDrop = (entry.u32() & 1) === 1;
  entry.skip(8);
  const counted = entry.u8();
  entry.skip(1);
  let reel: string | null = null;
  while (entry.left >= 12) {
    const size = entry.u32();
    const type = entry.latin(4);
    if (size < 8 || size - 8 > entry.left) break;
    if (type === 'name' && size >= 12) {
      const length = entry.u16();
      entry.skip(2);
      reel =
        new TextDecoder()
          .decode(entry.bytes(Math.min(length, size - 12)))
          .replace(/\0+$/, '')
          .trim() || null;
      break;
    }
    entry.skip(size - 8);
  }
  offsets.skip(8);
  const at = clock.chunks!.wide ? offsets.u64() : offsets.u32();
  const piece = source.read(at, 4);
  if (piece.length < 4 || counted === 0) return null;
  const number = new DataView(piece.buffer, piece.byteOffset).getUint32(0);
  // A 59.94 file may count its timecode at 29.97: two frames to a number.
  const times = nominalRate(rate) / counted;
  if (!Number.isInteger(times)) return null;
  return { start: number * times, counting: isDrop ? ('drop' as const) : ('non-drop' as const), reel };
}

/** Metadata by key, as MP4 writers keep what has no box of its own: in `meta` with `keys` and `ilst`. */
function tagsOf(movie: readonly Box[]): Map<string, string> {
  try {
    return readTags(movie);
  } catch (error) {
    // User data is anybody's, and garbled more often than the rest: it does not make the file broken.
    if (error instanceof HeaderBroken) return new Map();
    throw error;
  }
}

function readTags(movie: readonly Box[]): Map<string, string> {
  const tags = new Map<string, string>();
  const udta = movie.find((b) => b.type === 'udta');
  for (const meta of [movie.find((b) => b.type === 'meta'), udta && findBox(udta, 'meta')]) {
    if (!meta) continue;
    // In MP4 `meta` has a version before its boxes, in MOV it has none.
    const inside = meta.cursor().left >= 8 && meta.latinAt(4) === 'hdlr' ? meta.children(0) : meta.children(4);
    const keys = inside.find((b) => b.type === 'keys');
    const list = inside.find((b) => b.type === 'ilst');
    if (!keys || !list) continue;
    const names = keys.children(8).map((key) => key.text());
    for (const item of list.children(0)) {
      const name = names[item.typeNumber() - 1];
      const data = item.children(0).find((b) => b.type === 'data');
      if (name && data) tags.set(name.toLowerCase(), data.text(8).trim());
    }
  }
  return tags;
}

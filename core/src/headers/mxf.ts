import type { Doubt, Facts } from '../model/media.ts';
import { rate as makeRate, nominalRate, snapToStandard, type Rate } from '../time/rate.ts';
import { Cursor, HeaderBroken, hexOf, type ByteReader } from './bytes.ts';
import { facts, pass, unreadable, type HeaderReading } from './reading.ts';

const partitionStart = '060e2b34020501010d01020101';
const setStart = '060e2b34025301010d010101010';
const essenceStart = '060e2b34010201010d010301';

/** A header's sets are some tens of kilobytes; this is for one of a thousand tracks. */
const largestHeader = 32_000_000;
const largestFilling = 65_536;
/** Counting what is left of a truncated file steps over one key a frame and track. */
const mostEssenceSteps = 2_000_000;

/**
 * MXF (SMPTE ST 377-1): rate, length, start timecode, reel, raster, codec and depth from the sets of the header
 * partition. Passed on: files whose header was never completed, several file packages, codecs not told by their label.
 */
export function readMxf(source: ByteReader): HeaderReading {
  const first = readKlv(source, 0);
  if (!first || !first.key.startsWith(`${partitionStart}02`)) return pass('it does not begin with a partition');
  const pack = new Cursor(source.read(first.body, Math.min(first.length, 88)));
  pack.skip(24);
  const footer = pack.u64();
  const headerBytes = pack.u64();
  if (headerBytes === 0 || headerBytes > largestHeader) return pass('a header that stands elsewhere');
  const setsFrom = first.body + first.length;
  // Filling may stand before the sets, and is not counted among them.
  const bytes = source.read(setsFrom, headerBytes + largestFilling);
  const sets = readSets(bytes);
  const structure = structureOf(sets);
  if (!structure) return pass('a header without what tells its essence');
  const { length } = structure;
  if (bytes.length < headerBytes) return unreadable({ code: 'header-broken', detail: { code: 'ends-in-header' } });
  if (length === null) return pass('a header that was never completed');
  if (footer > source.size || (footer > 0 && !isPartition(source, footer))) {
    const present = countFrames(source, setsFrom + headerBytes);
    return unreadable({
      code: 'truncated',
      presentInFrames: present === null ? null : Math.min(present, length),
      expectedInFrames: length,
      unit: 'frames',
    });
  }
  const measured = mxfFacts(structure, length);
  return measured ? facts(measured) : pass('a codec that its label does not tell');
}

const isPartition = (source: ByteReader, at: number): boolean => hexOf(source.read(at, 13)) === partitionStart;

type Klv = { readonly key: string; readonly body: number; readonly length: number };

function readKlv(source: ByteReader, at: number): Klv | null {
  const head = source.read(at, 25);
  if (head.length < 17) return null;
  const cursor = new Cursor(head, 16);
  const short = cursor.u8();
  let length = short;
  if (short & 0x80) {
    const bytes = short & 0x7f;
    if (bytes > 8 || cursor.left < bytes) return null;
    length = 0;
    for (let i = 0; i < bytes; i += 1) length = length * 256 + cursor.u8();
  }
  return { key: hexOf(head.subarray(0, 16)), body: at + cursor.at, length };
}

/** Frames of picture that lie whole inside a truncated file; null when it takes too many steps to say. */
function countFrames(source: ByteReader, from: number): number | null {
  let pictureKey: string | null = null;
  let frames = 0;
  let at = from;
  for (let step = 0; step < mostEssenceSteps; step += 1) {
    const klv = readKlv(source, at);
    if (!klv) return frames;
    const isPicture = klv.key.startsWith(essenceStart) && ['05', '15'].includes(klv.key.slice(24, 26));
    if (isPicture && (pictureKey === null || pictureKey === klv.key)) {
      if (klv.body + klv.length > source.size) return frames;
      pictureKey = klv.key;
      frames += 1;
    }
    at = klv.body + klv.length;
  }
  return null;
}

/** A metadata set: its kind, and its local tags. */
type MetadataSet = { readonly kind: string; readonly tags: ReadonlyMap<number, Uint8Array> };

function readSets(bytes: Uint8Array): Map<string, MetadataSet> {
  const source: ByteReader = { size: bytes.length, read: (at, length) => bytes.subarray(at, at + length) };
  const sets = new Map<string, MetadataSet>();
  for (let at = 0; at < bytes.length;) {
    const klv = readKlv(source, at);
    if (!klv) break;
    at = klv.body + klv.length;
    if (at > bytes.length) break;
    if (!klv.key.startsWith(setStart)) continue;
    const tags = new Map<number, Uint8Array>();
    const cursor = new Cursor(bytes.subarray(klv.body, at));
    while (cursor.left >= 4) {
      const tag = cursor.u16();
      const length = cursor.u16();
      if (length > cursor.left) throw new HeaderBroken({ code: 'ends-in-value' });
      tags.set(tag, cursor.bytes(length));
    }
    const id = tags.get(0x3c0a);
    if (id) sets.set(hexOf(id), { kind: klv.key.slice(26, 30), tags });
  }
  return sets;
}

const kinds = {
  materialPackage: '0136',
  sourcePackage: '0137',
  timecode: '0114',
  tape: '012e',
  sounds: ['0142', '0147', '0148'],
  pictures: ['0128', '0129', '0151', '0127'],
} as const;

type Structure = {
  readonly picture: MetadataSet | null;
  readonly sound: MetadataSet | null;
  readonly rate: Rate;
  readonly length: number | null;
  /** In frames of the timecode's own whole base, which may count every second picture. */
  readonly start: { readonly frames: number; readonly base: number; readonly isDrop: boolean } | null;
  readonly reel: string | null;
};

function structureOf(sets: ReadonlyMap<string, MetadataSet>): Structure | null {
  const all = [...sets.values()];
  const follow = (set: MetadataSet | undefined, tag: number) => sets.get(hexOf(set?.tags.get(tag) ?? new Uint8Array()));
  const followAll = (set: MetadataSet | undefined, tag: number): MetadataSet[] => {
    const list = set?.tags.get(tag);
    if (!list || list.length < 8) return [];
    return Array.from({ length: Math.floor((list.length - 8) / 16) }, (_, i) =>
      sets.get(hexOf(list.subarray(8 + i * 16, 24 + i * 16))),
    ).filter((s) => s !== undefined);
  };
  const sources = all.filter((s) => s.kind === kinds.sourcePackage);
  const filePackages = sources.filter((s) => {
    const described = follow(s, 0x4701);
    return described && described.kind !== kinds.tape;
  });
  if (filePackages.length !== 1) return null;
  const [file] = filePackages;
  const descriptor = follow(file, 0x4701)!;
  const descriptors = [descriptor, ...followAll(descriptor, 0x3f01)];
  const isOf = (list: readonly string[]) => (s: MetadataSet) => list.includes(s.kind);
  const picture = descriptors.find(isOf(kinds.pictures)) ?? null;
  const sound = descriptors.find(isOf(kinds.sounds)) ?? null;
  const tracks = followAll(file, 0x4403).map((track) => ({ track, sequence: follow(track, 0x4803) }));
  const wanted = (picture ?? sound)?.tags.get(0x3006);
  const main = tracks.find(
    ({ track }) => wanted && hexOf(track.tags.get(0x4801) ?? new Uint8Array()) === hexOf(wanted),
  );
  const editRate = main && rational(main.track.tags.get(0x4b01));
  if (!main || !editRate) return null;
  const duration = main.sequence?.tags.get(0x0202);
  const materials = all.filter((s) => s.kind === kinds.materialPackage);
  return {
    picture,
    sound,
    rate: editRate,
    length: duration ? unitsOf(duration) : null,
    start: timecodeIn([...materials, file!]),
    reel:
      sources.map((s) => (follow(s, 0x4701)?.kind === kinds.tape ? textOf(s.tags.get(0x4402)) : null)).find(Boolean) ??
      null,
  };

  /** The start of the first package that has a timecode track; the material's before the file's. */
  function timecodeIn(packages: readonly MetadataSet[]): Structure['start'] {
    for (const each of packages) {
      for (const track of followAll(each, 0x4403)) {
        const sequence = follow(track, 0x4803);
        const component = [...(sequence ? [sequence] : []), ...followAll(sequence, 0x1001)].find(
          (s) => s.kind === kinds.timecode,
        );
        const start = component?.tags.get(0x1501);
        const frames = start ? unitsOf(start) : null;
        if (!component || frames === null) continue;
        return { frames, base: numberOf(component, 0x1502) ?? 0, isDrop: component.tags.get(0x1503)?.[0] === 1 };
      }
    }
    return null;
  }
}

/** A place or a length in edit units; null where none is stated (−1, by the standard), or no file could have as many. */
function unitsOf(bytes: Uint8Array): number | null {
  const units = Number(new Cursor(bytes).i64());
  return Number.isSafeInteger(units) && units >= 0 ? units : null;
}

function rational(bytes: Uint8Array | undefined): Rate | null {
  if (!bytes || bytes.length < 8) return null;
  const cursor = new Cursor(bytes);
  const [num, den] = [cursor.u32(), cursor.u32()];
  return num > 0 && den > 0 ? makeRate(num, den) : null;
}

const textOf = (bytes: Uint8Array | undefined): string | null =>
  bytes ? new TextDecoder('utf-16be').decode(bytes).replace(/\0+$/, '').trim() || null : null;
const numberOf = (set: MetadataSet | null, tag: number): number | null => {
  const bytes = set?.tags.get(tag);
  if (!bytes || bytes.length === 0 || bytes.length > 4) return null;
  return bytes.reduce((sum, byte) => sum * 256 + byte, 0);
};

/** The codec that a picture coding label names (SMPTE ST 2019, 381, RP 224); null for labels that need a decoder. */
function codecOf(label: Uint8Array | undefined): string | null {
  const coding = label ? hexOf(label) : '';
  if (!coding.startsWith('060e2b34') || coding.slice(16, 22) !== '040102') return null;
  const family = coding.slice(22, 30);
  if (family.startsWith('0201')) {
    const kind = parseInt(family.slice(4, 6), 16);
    if (kind >= 0x01 && kind <= 0x0f) return 'mpeg2video';
    return kind >= 0x30 && kind <= 0x3f ? 'h264' : null;
  }
  return family.startsWith('0271') ? 'dnxhd' : null;
}

function chromaOf(picture: MetadataSet): string | null {
  const [across, down] = [numberOf(picture, 0x3302), numberOf(picture, 0x3308)];
  if (across === 2) return down === 2 ? '4:2:0' : down === 1 || down === null ? '4:2:2' : null;
  return across === 1 ? '4:4:4' : null;
}

function mxfFacts({ picture, sound, rate, start, reel }: Structure, length: number): Facts | null {
  if (!picture) return null;
  const codec = codecOf(picture.tags.get(0x3201));
  const width = numberOf(picture, 0x3209) ?? numberOf(picture, 0x3203);
  const height = numberOf(picture, 0x3208) ?? numberOf(picture, 0x3202);
  const bitDepth = numberOf(picture, 0x3301);
  if (!codec || !width || !height || !bitDepth) return null;
  // Separate fields are described one by one.
  const isFields = numberOf(picture, 0x320c) === 1;
  const sampleRate = rational(sound?.tags.get(0x3d03));
  // A 59.94 file may count its timecode at 29.97: two frames to a number.
  const perNumber = start && start.base > 0 ? nominalRate(rate) / start.base : 1;
  if (!Number.isInteger(perNumber)) return null;
  // A file that was given no timecode says zero all the same.
  const hasStart = start !== null && start.frames !== 0;
  const doubts: Doubt[] = hasStart ? [] : ['timecode-missing'];
  return {
    kind: 'picture',
    container: 'mxf',
    codec,
    rate: snapToStandard(rate),
    counting: hasStart && start.isDrop ? 'drop' : 'non-drop',
    timecodeSource: hasStart ? 'timecode' : 'none',
    start: hasStart ? start.frames * perNumber : 0,
    length,
    sampleRate: sampleRate?.num ?? null,
    channels: numberOf(sound, 0x3d07),
    raster: { width, height: isFields ? height * 2 : height },
    bitDepth,
    chroma: chromaOf(picture),
    reel,
    readBy: 'header',
    doubts,
  };
}

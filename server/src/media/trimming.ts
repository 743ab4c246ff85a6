import type { FileHandle } from 'node:fs/promises';
import { join } from 'node:path';
import { Xxh64 } from '@node-rs/xxhash';
import { isCodedFilm } from '@legame/core/consolidate';
import { cutWave, readHeader } from '@legame/core/headers';
import type { LostTrait } from '@legame/core/contract';
import type { Facts } from '@legame/core/model';
import { formatTimecode, rangeLength, sameRate, type FrameRange } from '@legame/core/time';
import { endureAsync } from '../disk/conditions.ts';
import type { FencedFolder } from '../disk/writing.ts';
import { UserProblem } from '../problems.ts';
import {
  copyInto,
  reading,
  requireExpected,
  requireReadsBack,
  targetsOf,
  writeAll,
  type Copied,
  type CopyOptions,
  type ToCopy,
} from './copying.ts';
import { WrittenAhead, writtenTogether, type NextPart } from './ahead.ts';
import { muxerFor } from './cutting.ts';
import { complaintsIn, probeOpened } from './decoder.ts';
import { decoderFence, theFile } from './decoderFence.ts';
import { givenFile, runFenced } from './fenced.ts';
import { hashOf, hexOf } from './hashing.ts';
import { readerOf } from './openFile.ts';
import { hashPictures, PacketList, readStreams, readWhole, secondsAt, timeOf, type Packet } from './packets.ts';
import { chunkInBytes, withChunks } from './pages.ts';
import { aroundSeconds, cutSamples, isCounted, isPcm, notProven, Written, type Part } from './part.ts';
import { lostOf } from './traits.ts';
import { codedPart } from './transcode.ts';
import { codedSoundPart } from './transcodeSound.ts';
import type { Streams, Trim } from './trim.ts';

export type ToTrim = ToCopy & {
  readonly trim: Trim;
  /** Parts of the same source that will be asked for next, in the first folder. */
  readonly next?: readonly NextPart[];
};

/** Of this process, which is asked for one part after another. */
const ahead = new WrittenAhead();

/**
 * Writes a part of a file aside, into one folder or several, so that it is proven: nothing is coded anew, every coded
 * picture of the part is held against the source's by checksum, length, rate, start and reel are read back, and the result
 * is hashed as the disk gives it. Sound is cut to the sample. The source is opened for reading only, and refused if it is
 * not what was planned.
 */
export async function trimAside(
  { source, expected, into, trim, next = [] }: ToTrim,
  options: CopyOptions,
): Promise<Copied> {
  const path = join(source.path, source.file);
  if (!(await endureAsync(path, options))) throw new UserProblem({ code: 'file-stalls', path });
  const [first, ...others] = await targetsOf(into);
  const { folder: target, aside } = first!;
  return reading(source, async (file) => {
    const before = await file.stat();
    requireExpected(file, before, expected, path);
    const part = await partOf(file, path, trim, options);
    const sourceIs = [before.dev, before.ino, before.size, before.mtimeMs].join(' ');
    const written = (await ahead.take(target, { aside, trim }, sourceIs))
      ? null
      : await write(part, target, { aside, next, sourceIs }, options);
    const after = await file.stat();
    if (after.size !== before.size || after.mtimeMs !== before.mtimeMs)
      throw new UserProblem({ code: 'source-changed', path, since: 'begun' });
    const back = await target.open(aside);
    try {
      await part.prove(back, options);
      const found = await factsOf(back, path, trim, options.signal);
      requireSame(path, found, trim, part.channels ?? trim.facts.channels);
      const isFilm = trim.facts.kind === 'picture';
      const lost = part.lost ?? (isFilm ? await lostIn(file, back, trim, found.reel, options) : []);
      const onPiece = () => options.onBytes(0);
      const alike = others.length > 0 ? await copyInto(others, back, { ...options, onBytes: onPiece }) : null;
      const proven = written ?? alike ?? (await hashOf(back, { signal: options.signal, onPiece }));
      // What was proven is what the disks themselves hold.
      const hashes = await requireReadsBack([first!, ...others], proven, options);
      return { xxh64: proven, sizeInBytes: (await back.stat()).size, others: hashes, lost };
    } finally {
      await back.close();
    }
  });
}

/** Writes a part, and those that will be asked for next along with it where that can be; they are no reason to fail. */
async function write(
  part: Part,
  folder: FencedFolder,
  { aside, next, sourceIs }: { readonly aside: string; readonly next: readonly NextPart[]; readonly sourceIs: string },
  options: CopyOptions,
): Promise<string | null> {
  const alone = () => writtenTogether(folder, [aside], ([copy]) => part.write(copy!, options));
  const fresh = next.filter((one) => !ahead.isThere(folder, one));
  const together = part.writeWith;
  if (!together || fresh.length === 0) return alone();
  try {
    await writtenTogether(folder, [aside, ...fresh.map((one) => one.aside)], ([copy, ...more]) =>
      together(
        copy!,
        fresh.map(({ trim }, i) => ({ trim, copy: more[i]! })),
        options,
      ),
    );
  } catch {
    options.signal.throwIfAborted();
    // Whichever of them it was, each says for itself what is wrong with it.
    return alone();
  }
  for (const one of fresh) await ahead.note(folder, one, sourceIs);
  return null;
}

async function partOf(file: FileHandle, path: string, trim: Trim, options: CopyOptions): Promise<Part> {
  const { coded } = trim;
  if (trim.facts.kind !== 'sound')
    return isCodedFilm(coded)
      ? codedPart(file, path, { ...trim, coded }, options)
      : picturePart(file, path, trim, options);
  return coded && !isCodedFilm(coded)
    ? codedSoundPart(file, path, { ...trim, coded }, options)
    : soundPart(file, path, trim);
}

/** Sound is what was read: its bytes are hashed on the way, and nothing else has to be proven. */
async function soundPart(file: FileHandle, path: string, { range, startsAt }: Trim): Promise<Part> {
  const cut = cutWave(readerOf(file.fd, (await file.stat()).size), range, startsAt);
  if (!cut) throw notProven(path, { code: 'no-wave-to-cut' });
  return {
    prove: () => Promise.resolve(),
    write: async (copy, { signal, onBytes }) => {
      const hasher = new Xxh64();
      const write = async (piece: Uint8Array) => {
        hasher.update(piece);
        await writeAll(copy, piece);
      };
      await write(cut.head);
      const end = cut.data.offset + cut.data.length;
      await withChunks(1, async ([chunk]) => {
        for (let at = cut.data.offset; at < end;) {
          signal.throwIfAborted();
          const { bytesRead } = await file.read(chunk!, 0, Math.min(chunkInBytes, end - at), at);
          if (bytesRead === 0) throw new UserProblem({ code: 'source-changed', path, since: 'begun' });
          at += bytesRead;
          await write(chunk!.subarray(0, bytesRead));
          onBytes(bytesRead);
        }
      });
      await write(cut.tail);
      return hexOf(hasher.digest());
    },
  };
}

async function picturePart(file: FileHandle, path: string, trim: Trim, { signal }: CopyOptions): Promise<Part> {
  const streams = trim.streams ?? (await readStreams(file, signal));
  if (!streams || !trim.facts.rate || !sameRate(streams.picture.rate, trim.facts.rate))
    throw notProven(path, { code: 'frames-uncountable' });
  // Of movies the index tells where each picture lies, here and in the part: nobody else has to be believed.
  const inSource = await hashPictures(file, trim.range);
  let told: readonly Packet[] = [];
  return {
    write: async (copy, options) => {
      told = await cutPictures(file, path, streams, [{ copy, trim }], { ...options, isTold: inSource === null });
      return null;
    },
    ...(inSource && {
      writeWith: async (copy, others, options) =>
        void (await cutPictures(file, path, streams, [{ copy, trim }, ...others], { ...options, isTold: false })),
    }),
    prove: async (back) => {
      const found = inSource ? await hashPictures(back) : await readWhole(back, signal);
      requirePictures(path, inSource ?? told, found, trim.range);
    },
  };
}

/** Cuts parts of one film in one run of the program; `isTold`, which only one can be, gives its packets as the source has them. */
async function cutPictures(
  source: FileHandle,
  path: string,
  streams: Streams,
  cuts: readonly { readonly copy: FileHandle; readonly trim: Trim }[],
  { signal, onBytes, isTold }: CopyOptions & { readonly isTold: boolean },
): Promise<Packet[]> {
  const seconds = Math.ceil(60 + (await source.stat()).size / 10_000_000);
  const list = new PacketList(streams.picture);
  const progress = new Written();
  const each = cuts.map(({ trim }, i) => argumentsFor(path, streams, trim, i));
  const result = await runFenced(
    'ffmpeg',
    [
      ...['-v', 'error', '-nostdin', '-y', '-copyts', ...decoderFence],
      ...(isTold ? [] : ['-progress', 'pipe:1']),
      ...each.flatMap(({ input }) => input),
      ...each.flatMap(({ output }) => output),
      // The same packets once more, as the source times them: what was written is held against these.
      ...(isTold ? ['-map', '0:v:0', '-c', 'copy', '-bsf:v', each[0]!.inside, '-f', 'framemd5', 'pipe:1'] : []),
    ],
    { seconds, cpuSeconds: seconds * 2, memoryInBytes: 3_000_000_000, outputInBytes: 100_000_000 },
    {
      signal,
      files: [source, ...cuts.map(({ copy }) => copy)],
      onOutput: (chunk) =>
        onBytes(isTold ? list.add(chunk.toString('latin1')) : progress.add(chunk.toString('latin1'))),
    },
  );
  if (result.end === 'aborted') throw new DOMException('Aborted', 'AbortError');
  if (result.end !== 'exited') throw notProven(path, { code: 'took-too-long', seconds: null });
  if (result.code === 0) return list.packets;
  if (/No space left on device/.test(result.stderr))
    throw Object.assign(new Error('No space left'), { code: 'ENOSPC' });
  throw notProven(path, complaintsIn(result.stderr)[0] ?? { code: 'not-written' });
}

/** How the n-th part of a film is read and written, and which packets of the picture are inside of it. */
function argumentsFor(
  path: string,
  { picture, sound }: Streams,
  { range, startsAt, facts }: Trim,
  n: number,
): { readonly input: string[]; readonly output: string[]; readonly inside: string } {
  const muxer = muxerFor(facts, path.split('.').at(-1) ?? '') ?? facts.container;
  const from = timeOf(picture, range.start);
  // Half a frame before an edge tells the frames on its two sides apart, however times are rounded.
  const [low, high] = [timeOf(picture, range.start - 0.5), timeOf(picture, range.end - 0.5)];
  const counted = isCounted(muxer, sound);
  const seek = counted ? 0 : secondsAt(picture, range.start) - aroundSeconds;
  const reach = secondsAt(picture, range.end) + aroundSeconds - Math.max(0, seek);
  const inside = `noise=drop='lt(pts\\,${low})+gte(pts\\,${high})'`;
  const { rate, counting } = facts;
  const timecode = startsAt === null ? null : formatTimecode(startsAt, rate!, counting);
  return {
    inside,
    input: [...(seek > 0 ? ['-ss', seek.toFixed(6)] : []), ...['-t', reach.toFixed(6), '-i', theFile]],
    output: [
      ...['-map', `${n}:v:0`, '-map', `${n}:a?`, '-c', 'copy'],
      ...['-bsf:v', `${inside},setts=pts=PTS-${from}:dts=DTS-${from}`],
      ...sound.flatMap((stream, i) => soundArguments(stream, i, { picture, range, isCounted: counted })),
      ...['-map_metadata', `${n}`],
      ...(muxer === 'mxf' ? ['-r', `${rate!.num}/${rate!.den}`] : []),
      ...(timecode === null
        ? []
        : muxer === 'matroska'
          ? ['-metadata', `timecode=${timecode}`]
          : ['-timecode', timecode]),
      ...(facts.reel ? ['-metadata', `reel_name=${facts.reel}`, '-metadata:s:v:0', `reel_name=${facts.reel}`] : []),
      ...(muxer === 'mp4' ? ['-movflags', 'use_metadata_tags'] : []),
      ...['-f', muxer, `file:${givenFile(n + 1)}`],
    ],
  };
}

/** PCM is cut to the sample, which means writing the same samples anew; coded sound goes packet by packet. */
function soundArguments(
  { codec, sampleRate }: Streams['sound'][number],
  index: number,
  cut: { picture: Streams['picture']; range: FrameRange; isCounted: boolean },
): string[] {
  const { picture, range } = cut;
  if (isPcm({ codec })) return [`-c:a:${index}`, codec, `-filter:a:${index}`, cutSamples(sampleRate, cut)];
  const [start, end] = [secondsAt(picture, range.start).toFixed(6), secondsAt(picture, range.end).toFixed(6)];
  const drop = `noise=drop='lte((pts+duration)*tb\\,${start})+gte(pts*tb\\,${end})'`;
  return [`-bsf:a:${index}`, `${drop},setts=pts=PTS-${start}/TB:dts=DTS-${start}/TB`];
}

/** Whether the part holds the very pictures of the source, and no others. */
function requirePictures(
  path: string,
  written: readonly Packet[],
  found: readonly Packet[] | null,
  range: FrameRange,
): void {
  if (!found) throw notProven(path, { code: 'not-read-back' });
  const inOrder = (packets: readonly Packet[]) => packets.toSorted((a, b) => a.frame - b.frame);
  const [expected, pairs] = [inOrder(written), inOrder(found)];
  const isRange = expected.every((p, i) => p.frame === range.start + i) && expected.length === rangeLength(range);
  if (!isRange) throw notProven(path, { code: 'not-in-source' });
  const differs = expected.findIndex((p, i) => pairs[i]?.frame !== i || pairs[i].hash !== p.hash);
  if (pairs.length !== expected.length || differs >= 0)
    throw notProven(path, { code: 'pictures-differ', fromFrame: Math.max(0, differs) });
}

/** Measured in the way in which the source was: what headers and decoders call the same differs here and there. */
async function factsOf(
  part: FileHandle,
  path: string,
  { facts, coded }: Trim,
  signal: AbortSignal,
): Promise<Facts | null> {
  const isOurWave = coded?.coding === 'wave';
  const header =
    isOurWave || (facts.readBy === 'header' && !coded) ? readHeader(readerOf(part.fd, (await part.stat()).size)) : null;
  if (header?.kind === 'facts') return header.facts;
  const probed = await probeOpened(part, path, signal);
  if (probed === 'aborted') throw new DOMException('Aborted', 'AbortError');
  return probed.facts;
}

/**
 * What the film states and its part does not. All parts that are made of one film in one way lose the same, so that only
 * the first of them is looked at.
 */
async function lostIn(
  source: FileHandle,
  part: FileHandle,
  { facts, streams, coded }: Trim,
  reel: string | null,
  { signal }: CopyOptions,
): Promise<readonly LostTrait[]> {
  const { dev, ino, size, mtimeMs } = await source.stat();
  const key = [dev, ino, size, mtimeMs, coded?.coding, reel].join(' ');
  const known = lostSoFar.get(key);
  if (known) return known;
  const before = streams?.traits ?? (await readStreams(source, signal))?.traits;
  const after = (await readStreams(part, signal))?.traits;
  const lost = before && after ? lostOf({ ...before, reel: facts.reel }, { ...after, reel }) : [];
  lostSoFar.set(key, lost);
  return lost;
}
const lostSoFar = new Map<string, readonly LostTrait[]>();

/** What is read back of a part, against what it has to be. */
function requireSame(path: string, found: Facts | null, trim: Trim, channels: number | null): asserts found is Facts {
  const { range, startsAt, facts, coded } = trim;
  if (!found) throw notProven(path, { code: 'part-unreadable' });
  const rate = facts.kind === 'sound' ? facts.sampleRate : facts.rate && `${facts.rate.num}/${facts.rate.den}`;
  const foundRate = found.kind === 'sound' ? found.sampleRate : found.rate && `${found.rate.num}/${found.rate.den}`;
  const raster = (isCodedFilm(coded) ? coded.raster : null) ?? facts.raster;
  const codec = coded?.coding === 'wave' ? coded.codec : (coded?.coding ?? facts.codec);
  const checks: readonly (readonly [string, unknown, unknown])[] = [
    ['length', found.length, rangeLength(range)],
    ['rate', foundRate, rate],
    ['codec', found.codec, codec],
    ['channels', found.channels, channels],
    ['raster', found.raster && JSON.stringify(found.raster), raster && JSON.stringify(raster)],
    ...(startsAt === null ? [] : [['start', found.start, startsAt] as const]),
    ...(startsAt === null || facts.kind === 'sound' ? [] : [['counting', found.counting, facts.counting] as const]),
  ];
  const wrong = checks.find(([, is, wanted]) => is !== wanted);
  if (wrong)
    throw notProven(path, { code: 'fact-differs', fact: wrong[0], is: String(wrong[1]), wanted: String(wrong[2]) });
}

import type { FileHandle } from 'node:fs/promises';
import { cutWave } from '@legame/core/headers';
import type { Cutting } from '@legame/core/consolidate';
import type { Facts } from '@legame/core/model';
import { nominalRate, sameRate } from '@legame/core/time';
import { readPackets, readStreams, type Packet } from './packets.ts';
import type { Streams } from './trim.ts';
import { readerOf } from './openFile.ts';

/** Codecs each of whose pictures stands for itself; of others the packets are asked. */
const everyPictureWhole = new Set([
  ...['prores', 'dnxhd', 'mjpeg', 'v210', 'v410', 'r210', 'rawvideo', 'jpeg2000', 'dvvideo', 'huffyuv', 'utvideo'],
  ...['png', 'cfhd', 'qoi', 'magicyuv'],
]);

/** How a part is written in the container it came in; others are copied whole. */
export const muxerFor = ({ container }: Pick<Facts, 'container'>, extension: string): string | null => {
  switch (container) {
    case 'mov':
      return /^(mp4|m4v)$/i.test(extension) ? 'mp4' : 'mov';
    case 'mxf':
      return 'mxf';
    case 'matroska':
      return 'matroska';
    default:
      return null;
  }
};

/** The highest rate at which frames are numbered by timecode. */
const mostFramesASecond = 120;

/**
 * Where an opened file can be cut without coding anything anew: sound of WAVE files at any sample; picture at any frame
 * where each stands for itself, else at key frames, if no frame that is shown before one needs it.
 */
export async function cuttingOf(
  file: FileHandle,
  { facts, extension }: { readonly facts: Facts; readonly extension: string },
  signal?: AbortSignal,
): Promise<{ cutting: Cutting; streams: Streams | null }> {
  const streams = facts.kind === 'picture' ? await readStreams(file, signal) : null;
  return { cutting: await judge(file, facts, extension, streams, signal), streams };
}

async function judge(
  file: FileHandle,
  facts: Facts,
  extension: string,
  streams: Streams | null,
  signal: AbortSignal | undefined,
): Promise<Cutting> {
  if (facts.length === null) return { can: 'nowhere', because: 'no-length' };
  if (facts.kind === 'sound') {
    if (facts.container !== 'wav') return { can: 'nowhere', because: 'container' };
    // Of other sound a block holds many samples.
    if (!facts.codec.startsWith('pcm_')) return { can: 'nowhere', because: 'codec' };
    const { size } = await file.stat();
    const isCuttable = cutWave(readerOf(file.fd, size), { start: 0, end: facts.length }, null) !== null;
    return isCuttable ? { can: 'anywhere' } : { can: 'nowhere', because: 'container' };
  }
  if (!facts.rate || facts.doubts.includes('rate-varies')) return { can: 'nowhere', because: 'rate-varies' };
  if (nominalRate(facts.rate) > mostFramesASecond) return { can: 'nowhere', because: 'no-timecode-at-rate' };
  if (!streams) return { can: 'nowhere', because: 'unreadable-index' };
  // Fields counted as frames, timecode at half the rate: what one unit is would be a guess.
  if (!sameRate(streams.picture.rate, facts.rate)) return { can: 'nowhere', because: 'rate-varies' };
  // Said last: what keeps a film from being cut without coding it anew does not keep it from being coded anew.
  if (muxerFor(facts, extension) === null) return { can: 'nowhere', because: 'container' };
  // Of a movie the index is asked in any case: it may show its pictures from somewhere in their middle.
  if (facts.container !== 'mov' && everyPictureWhole.has(facts.codec)) return { can: 'anywhere' };
  const packets = await readPackets(file, streams.picture, signal);
  return packets ? cuttingBy(packets, facts.length) : { can: 'nowhere', because: 'unreadable-index' };
}

/** Where packets, in the order they are decoded, can be parted. */
export function cuttingBy(packets: readonly Packet[], length: number): Cutting {
  const frames = new Set(packets.map((p) => p.frame));
  const isWhole = packets.length === length && frames.size === length && frames.has(0) && frames.has(length - 1);
  if (!isWhole) return { can: 'nowhere', because: 'rate-varies' };
  const keys: number[] = [];
  for (const { frame, isKey } of packets) {
    if (isKey) keys.push(frame);
    // It is shown before a picture that it needs: parted there, it could not be decoded.
    else if (frame < keys.at(-1)!) return { can: 'nowhere', because: 'open-groups' };
  }
  if (keys[0] !== 0) return { can: 'nowhere', because: 'open-groups' };
  return keys.length === length ? { can: 'anywhere' } : { can: 'at', units: keys.sort((a, b) => a - b) };
}

import type { FileHandle } from 'node:fs/promises';
import type { Facts } from '@legame/core/model';
import { decoderFence, theFile } from './decoderFence.ts';
import { runFenced, type FencedLimits } from './fenced.ts';

/** Streams of packets that state no length: what a prober says of them is their size divided by what their beginning takes. */
const stateNone = ['mp3', 'aac'];

/** What is there at both ends of coded sound and is not heard: so much a length that is stated may differ by. */
const unheard = 4608;

/**
 * Sound whose container states no length, with its packets counted: quiet beginnings make it seem longer by the minute, or
 * shorter. Where they cannot be counted, its length is said to be a guess.
 */
export async function withCountedLength(
  file: FileHandle,
  facts: Facts,
  signal: AbortSignal | undefined,
): Promise<Facts | 'aborted'> {
  if (facts.kind !== 'sound' || !stateNone.includes(facts.container) || facts.sampleRate === null) return facts;
  const counted = await countSamples(file, facts.sampleRate, signal);
  if (counted === 'aborted') return 'aborted';
  if (counted === null) return { ...facts, doubts: [...facts.doubts, 'length-estimated'] };
  const isStated = facts.length !== null && Math.abs(facts.length - counted) <= unheard;
  return isStated ? facts : { ...facts, length: counted };
}

async function countSamples(
  file: FileHandle,
  sampleRate: number,
  signal: AbortSignal | undefined,
): Promise<number | null | 'aborted'> {
  const { size } = await file.stat();
  const seconds = Math.ceil(30 + size / 10_000_000);
  const limits: FencedLimits = {
    ...{ seconds, cpuSeconds: seconds, memoryInBytes: 1_500_000_000 },
    outputInBytes: 500_000_000,
  };
  const shown = ['-select_streams', 'a:0', '-show_entries', 'packet=duration:stream=time_base', '-of', 'csv'];
  let [ticks, secondsPerTick, left] = [0, 0, ''];
  const take = (line: string) => {
    const [what, value = ''] = line.split(',');
    if (what === 'packet') ticks += Number(value) || 0;
    const [num, den] = value.split('/').map(Number);
    if (what === 'stream' && num && den) secondsPerTick = num / den;
  };
  const onOutput = (chunk: Buffer) => {
    const lines = (left + chunk.toString('latin1')).split('\n');
    left = lines.pop()!;
    lines.forEach(take);
  };
  const args = ['-v', 'error', ...decoderFence, '-threads', '1', ...shown, '-i', theFile];
  const result = await runFenced('ffprobe', args, limits, { signal, files: [file], onOutput });
  if (result.end === 'aborted') return 'aborted';
  const isCounted = result.end === 'exited' && result.code === 0 && secondsPerTick > 0;
  return isCounted ? Math.round(ticks * secondsPerTick * sampleRate) : null;
}

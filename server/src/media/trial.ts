import type { FileHandle } from 'node:fs/promises';
import { join } from 'node:path';
import type { Detail, Facts, MediaFile, SequenceFrames, Unreadable } from '@legame/core/model';
import { frameName } from '@legame/core/paths';
import { endureAsync } from '../disk/conditions.ts';
import { withFileOf, withFilesOf, type Ground } from '../disk/held.ts';
import { codeOf } from '../disk/failures.ts';
import { UserProblem } from '../problems.ts';
import { complaintsIn, reasonOf } from './decoder.ts';
import { decoderFence, howToRead, theFile } from './decoderFence.ts';
import { firstGiven, runFenced, type FencedLimits } from './fenced.ts';
import { pathInPlace } from './read.ts';

export type TrialResult =
  | { readonly state: 'whole'; readonly frames: number | null }
  | { readonly state: 'fails'; readonly reason: Unreadable }
  | { readonly state: 'aborted' };

/** Twice as long as it plays, and a while to begin: a decoder slower than that hangs an edit as well. */
const limitsFor = (facts: Facts, sizeInBytes: number): FencedLimits => {
  const plays =
    facts.rate && facts.length !== null && facts.kind === 'picture'
      ? (facts.length * facts.rate.den) / facts.rate.num
      : 0;
  const seconds = Math.ceil(30 + plays * 2 + sizeInBytes / 20_000_000);
  return { seconds, cpuSeconds: seconds * 2, memoryInBytes: 2_000_000_000, outputInBytes: 1_000_000_000 };
};

/**
 * Decodes a file from end to end in a fenced process. It is whole only if the decoder ends well, complains of nothing,
 * and gives as many frames as the header promises; else the reason tells the frame at which it fails.
 */
export async function tryReading(
  ground: Ground,
  file: Pick<MediaFile, 'folder' | 'name' | 'sequence' | 'sizeInBytes'>,
  facts: Facts,
  signal?: AbortSignal,
): Promise<TrialResult> {
  const patienceMs = 10_000;
  const path = pathInPlace(file);
  if (!(await endureAsync(join(ground.path, path), { signal, patienceMs })))
    return { state: 'fails', reason: { code: 'no-answer', seconds: patienceMs / 1000 } };
  try {
    return file.sequence
      ? await trySequence(ground, file, file.sequence, facts, signal)
      : await withFileOf(ground, path, (opened) =>
          decode([opened], [...howToRead(path), '-i', theFile], facts, file.sizeInBytes, signal),
        );
  } catch (error) {
    if (error instanceof UserProblem) return { state: 'fails', reason: { code: 'outside-place' } };
    if (codeOf(error) === 'ENOENT') return { state: 'fails', reason: { code: 'growing' } };
    throw error;
  }
}

/** So many frames are opened and decoded in one go: each takes a descriptor of the decoder's. */
const framesAtOnce = 200;

/** Frames of a sequence are opened here and given to the decoder by the numbers of their descriptors. */
async function trySequence(
  ground: Ground,
  file: Pick<MediaFile, 'folder' | 'sizeInBytes'>,
  sequence: SequenceFrames,
  facts: Facts,
  signal: AbortSignal | undefined,
): Promise<TrialResult> {
  const ofFrames = sequence.last - sequence.first + 1;
  let frames = 0;
  for (const run of runsOf(sequence)) {
    const count = run.to - run.from + 1;
    const paths = Array.from({ length: count }, (_, i) => {
      const name = frameName(sequence, run.from + i);
      return file.folder === '' ? name : `${file.folder}/${name}`;
    });
    const input = ['-f', 'image2', '-framerate', '25', '-start_number', `${firstGiven}`, '-c:v', facts.codec];
    const still: Facts = { ...facts, kind: 'picture', rate: { num: 25, den: 1 }, length: count };
    const result = await withFilesOf(ground, paths, (opened) =>
      decode(
        opened,
        [...input, '-i', 'file:/proc/self/fd/%d', '-frames:v', `${count}`],
        still,
        file.sizeInBytes,
        signal,
      ),
    );
    if (result.state === 'aborted') return result;
    if (result.state === 'fails') {
      const atFrame = result.reason.code === 'damaged' ? (result.reason.atFrame ?? 0) : 0;
      const detail = 'detail' in result.reason ? result.reason.detail : result.reason.code;
      const at = run.from - sequence.first + atFrame;
      return { state: 'fails', reason: { code: 'damaged', atFrame: at, ofFrames, detail } };
    }
    frames += result.frames ?? 0;
  }
  return { state: 'whole', frames };
}

/** Stretches without a gap, and not longer than is decoded in one go. */
function runsOf({ first, last, missing }: SequenceFrames): { from: number; to: number }[] {
  const runs: { from: number; to: number }[] = [];
  const gone = new Set(missing);
  for (let number = first; number <= last; number += 1) {
    if (gone.has(number)) continue;
    const run = runs.at(-1);
    if (run && run.to === number - 1 && number - run.from < framesAtOnce) run.to = number;
    else runs.push({ from: number, to: number });
  }
  return runs;
}

async function decode(
  files: readonly FileHandle[],
  input: readonly string[],
  facts: Facts,
  sizeInBytes: number,
  signal: AbortSignal | undefined,
): Promise<TrialResult> {
  const isPicture = facts.kind !== 'sound';
  // Each decoded frame is counted by its checksum line; sound is only counted as decoded at all.
  const output = isPicture ? ['-map', '0:v:0', '-f', 'framecrc', '-'] : ['-map', '0:a:0', '-f', 'null', '-'];
  const decoded = new FrameCounter();
  const result = await runFenced(
    'ffmpeg',
    [
      '-v',
      'error',
      '-nostdin',
      // Ends at the first fault, so that the frames given until then tell where it is.
      '-xerror',
      '-err_detect',
      'crccheck+bitstream+buffer',
      ...decoderFence,
      '-threads',
      '1',
      ...input,
      ...(isPicture ? ['-fps_mode', 'passthrough'] : []),
      ...output,
    ],
    limitsFor(facts, sizeInBytes),
    { signal, files, onOutput: (chunk) => decoded.take(chunk) },
  );
  if (result.end === 'aborted') return { state: 'aborted' };
  if (result.end === 'too-slow')
    return { state: 'fails', reason: { code: 'decoder-too-slow', seconds: Math.round(result.seconds) } };
  if (result.end === 'too-much-output')
    return {
      state: 'fails',
      reason: { code: 'decoder-gave-up', detail: { code: 'decodes-beyond-films' } },
    };
  return verdict(result, facts.kind === 'sound' ? null : decoded.frames, facts);
}

function verdict({ code, stderr }: { code: number; stderr: string }, frames: number | null, facts: Facts): TrialResult {
  const complaints = complaintsIn(stderr);
  const expected = facts.kind === 'picture' ? facts.length : null;
  const isShort =
    frames !== null && expected !== null && frames !== expected && !facts.doubts.includes('length-estimated');
  if (code === 0 && complaints.length === 0 && !isShort) return { state: 'whole', frames };
  if (frames === 0 && code !== 0 && complaints.length === 0) return { state: 'fails', reason: reasonOf(stderr) };
  const detail: Detail = complaints[0] ?? { code: 'frames-decoded', frames: frames ?? 0, of: expected ?? 0 };
  const atFrame = frames === null ? null : expected === null ? frames : Math.min(frames, expected - 1);
  return { state: 'fails', reason: { code: 'damaged', atFrame, ofFrames: expected, detail } };
}

/** Counts frames by the lines of their checksums, without keeping them. */
class FrameCounter {
  frames = 0;
  #isAtStart = true;
  #isComment = false;

  take(chunk: Buffer): void {
    for (const byte of chunk) {
      if (this.#isAtStart) this.#isComment = byte === 0x23;
      this.#isAtStart = byte === 0x0a;
      if (this.#isAtStart && !this.#isComment) this.frames += 1;
    }
  }
}

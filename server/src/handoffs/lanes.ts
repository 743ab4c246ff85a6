import { ReaderProcess } from '../media/readerProcess.ts';
import type { HandoffFile } from '../stores/handoffs.ts';

/** While one file is proven, the next is read: two at a time keep drives and processor busy, more get in each other's way. */
const lanes = 2;

/** A file whose turn it is, and parts of the same film whose turn comes after it in the same lane. */
export type InTurn<F = HandoffFile> = { readonly file: F; readonly next: readonly F[] };
type ToWrite = Pick<HandoffFile, 'source' | 'trim' | 'sizeInBytes'>;

/** So many parts of one film are written together at the most, and so many bytes, so that it shows how far it is. */
const mostTogether = { parts: 8, bytes: 200_000_000 };

/** Files in their order; parts of one film that can be written together in one group, which one lane works off. */
export function inTurns<F extends ToWrite>(files: readonly F[]): InTurn<F>[][] {
  const groups: F[][] = [];
  let bytes = 0;
  for (const file of files) {
    const group = groups.at(-1);
    bytes += file.sizeInBytes;
    if (group && isWithIt(group[0]!, file) && group.length < mostTogether.parts && bytes <= mostTogether.bytes)
      group.push(file);
    else {
      groups.push([file]);
      bytes = file.sizeInBytes;
    }
  }
  return groups.map((group) => group.map((file, i) => ({ file, next: group.slice(i + 1) })));
}

const isWithIt = (a: ToWrite, b: ToWrite): boolean =>
  a.source === b.source && [a, b].every(({ trim }) => trim?.facts.kind === 'picture' && !trim.coded);

/** Does something with every file, some at a time, each lane with a process of its own; the first that throws ends all. */
export async function inLanes<F>(
  groups: readonly (readonly InTurn<F>[])[],
  stop: AbortSignal,
  use: (copier: ReaderProcess, file: InTurn<F>, signal: AbortSignal) => Promise<void>,
): Promise<void> {
  const queue = [...groups];
  const halt = new AbortController();
  const signal = AbortSignal.any([stop, halt.signal]);
  const thrown: unknown[] = [];
  const work = async () => {
    const copier = new ReaderProcess();
    try {
      for (let group = queue.shift(); group; group = queue.shift())
        for (const file of group) {
          signal.throwIfAborted();
          await use(copier, file, signal);
        }
    } catch (error) {
      thrown.push(error);
      halt.abort();
    } finally {
      copier.stop();
    }
  };
  await Promise.all(Array.from({ length: Math.min(lanes, groups.length) }, work));
  if (thrown.length > 0) throw thrown[0];
}

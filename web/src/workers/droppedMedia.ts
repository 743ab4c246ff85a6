import { kindOfName } from '@legame/core/formats';
import { readHeader, type ByteReader } from '@legame/core/headers';
import type { DroppedFile } from '@legame/core/match';
import type { Facts } from '@legame/core/model';

/** A file with the path that the browser tells of it: from the folder that was dropped down, or its name alone. */
export type InHand = { readonly file: File; readonly path: string };

declare const FileReaderSync: (new () => { readAsArrayBuffer(blob: Blob): ArrayBuffer }) | undefined;

/** Where a header is read only piece by piece, its pieces are looked at again and again. */
const windowInBytes = 65_536;
/** A file this small is read whole where pieces cannot be read in turn, which is outside of workers. */
const smallInBytes = 4_000_000;

/** Names, sizes, times and headers of media files in hand; what is no media by its name is left out. Nothing is sent. */
export async function readDropped(list: readonly InHand[]): Promise<DroppedFile[]> {
  const media = list.filter(({ file }) => kindOfName(file.name) !== null && !file.name.startsWith('.'));
  const read: DroppedFile[] = [];
  for (const { file, path } of media)
    read.push({
      name: file.name,
      folders: foldersOf(path),
      sizeInBytes: file.size,
      modifiedMs: file.lastModified,
      facts: await factsOf(file),
    });
  return read;
}

const foldersOf = (path: string): string[] =>
  path
    .split('/')
    .slice(0, -1)
    .filter((step) => step !== '' && step !== '.');

async function factsOf(file: File): Promise<Facts | null> {
  try {
    const reader = await readerOf(file);
    const reading = reader && readHeader(reader);
    return reading?.kind === 'facts' ? reading.facts : null;
  } catch {
    // A drive that went, or a file that may not be read: its name and size still tell something.
    return null;
  }
}

async function readerOf(file: File): Promise<ByteReader | null> {
  if (typeof FileReaderSync !== 'undefined') return inPieces(file, new FileReaderSync());
  if (file.size > smallInBytes) return null;
  const bytes = new Uint8Array(await file.arrayBuffer());
  return { size: file.size, read: (at, length) => bytes.subarray(at, at + length) };
}

function inPieces(file: File, reader: { readAsArrayBuffer(blob: Blob): ArrayBuffer }): ByteReader {
  const piece = (from: number, to: number) => new Uint8Array(reader.readAsArrayBuffer(file.slice(from, to)));
  let [start, held] = [0, new Uint8Array()];
  return {
    size: file.size,
    read: (at, length) => {
      if (length > windowInBytes) return piece(at, at + length);
      if (at < start || at + length > start + held.length) [start, held] = [at, piece(at, at + windowInBytes)];
      return held.subarray(at - start, at - start + length);
    },
  };
}

import { createHash } from 'node:crypto';
import type { FileHandle } from 'node:fs/promises';
import { c4Of, ListReader, type HashedFile, type ListRead } from '@legame/core/mhl';

/** Files are told of in parcels of so many. */
const parcel = 500;

/** Reads a hash list piece by piece, and says by what its own text is known. */
export async function readHashList(
  file: FileHandle,
  onFiles: (files: readonly HashedFile[]) => void,
): Promise<{ read: ListRead; c4: string }> {
  let files: HashedFile[] = [];
  const reader = new ListReader((hashed) => files.push(hashed));
  const text = new TextDecoder('utf-8');
  const hash = createHash('sha512');
  let wantsMore = true;
  // Descriptors that are closed by a stream are not closed by whoever opened them.
  for await (const piece of file.createReadStream({ autoClose: false, start: 0 })) {
    const bytes = piece as Buffer;
    hash.update(bytes);
    if (wantsMore) wantsMore = reader.add(text.decode(bytes, { stream: true }));
    if (files.length >= parcel) {
      onFiles(files);
      files = [];
    }
  }
  if (wantsMore) reader.add(text.decode());
  onFiles(files);
  return { read: reader.end(), c4: c4Of(hash.digest()) };
}

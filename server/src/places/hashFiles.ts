import type { Job } from '@legame/core/contract';
import type { MediaFileId } from '@legame/core/model';
import { enqueue } from '../queue/queue.ts';
import { UserProblem } from '../problems.ts';
import { pathInPlace } from '../media/read.ts';
import { ReaderProcess } from '../media/readerProcess.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import type { Context, JobContext } from '../context.ts';
import { tell } from '../events/tell.ts';

const patienceMs = 15_000;

/** Begins to hash a file whole, where its bytes must be proven. */
export async function startHash({ db }: Context, id: MediaFileId): Promise<Job> {
  const file = await mediaFileStore.getMediaFile(db, id);
  if (file.sequence) throw new UserProblem({ code: 'sequence-has-no-hash', file: file.name });
  return enqueue(db, 'hash-files', { mediaFileId: id }, file.name, { on: file.placeId });
}

export async function hashFile({ db, signal, report, readLog }: JobContext, id: MediaFileId): Promise<void> {
  const file = await mediaFileStore.getMediaFile(db, id);
  const place = await placeStore.getPlace(db, file.placeId);
  const reader = new ReaderProcess();
  const path = pathInPlace(file);
  const opened = readLog.open({ what: 'hash', placeId: place.id, mediaFileId: file.id, path: `${place.name}/${path}` });
  try {
    const of = file.sizeInBytes;
    const hashed = await reader.ask(
      { do: 'hash', root: place.path, is: place.root, path },
      {
        patienceMs,
        signal,
        onPart: (part) => {
          if (part.part === 'hashing')
            void report({ done: part.bytes, of, unit: 'bytes', doing: { code: 'hashing', file: file.name } });
        },
      },
    );
    if (hashed.part === 'aborted') throw new DOMException('Aborted', 'AbortError');
    const xxh64 = hashed.part === 'hashed' ? hashed.hashes.xxh64 : undefined;
    if (xxh64 === undefined) throw new UserProblem({ code: 'not-hashed', file: file.name, place: place.name });
    await mediaFileStore.saveFullHash(db, file.id, xxh64);
    opened.close('ok', { detail: xxh64 });
  } catch (error) {
    opened.close(signal.aborted ? 'stopped' : 'failed');
    throw error;
  } finally {
    reader.stop();
  }
  await tell(db, 'places', place.id);
}

import { takenBy, treatmentsBy, type Choices } from '@legame/core/consolidate';
import type { MediaFileId } from '@legame/core/model';
import type { ProjectState } from '../clips/state.ts';
import type { Database } from '../db/database.ts';
import { pathInPlace } from '../media/read.ts';
import { ReaderProcess } from '../media/readerProcess.ts';
import { cuttingStore, type Cuttable } from '../stores/cuttings.ts';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';
import { groundOf } from '../stores/places.ts';

/** The index of a long recording on a slow drive takes a while to be read through. */
const patienceMs = 120_000;
const readersAtOnce = 2;

/** Where each file that is to be trimmed or coded anew can be cut; found out once and kept, until the file changes. */
export async function cuttingsFor(
  db: Database,
  { places, acceptance }: Pick<ProjectState, 'places' | 'acceptance'>,
  files: readonly MediaFileRecord[],
  choices: Choices,
): Promise<Map<MediaFileId, Cuttable>> {
  const known = new Map<MediaFileId, Cuttable>();
  const asked: MediaFileRecord[] = [];
  const treatmentOf = treatmentsBy(choices, takenBy(choices, acceptance));
  for (const file of files) {
    const treatment = treatmentOf(file);
    if (file.sequence) known.set(file.id, { cutting: { can: 'anywhere' }, streams: null });
    else if ((treatment === 'trim' || treatment === 'transcode') && file.facts && file.facts.kind !== 'still')
      asked.push(file);
  }
  for (const [id, found] of await cuttingStore.listOf(db, asked)) known.set(id, found);
  const queue = asked.filter((file) => !known.has(file.id));
  const readers = Array.from({ length: Math.min(readersAtOnce, queue.length) }, () => new ReaderProcess());
  try {
    await Promise.all(
      readers.map(async (reader) => {
        for (let file = queue.shift(); file; file = queue.shift()) {
          const { path: root, is } = groundOf(places.get(file.placeId)!);
          const answer = await reader.ask(
            { do: 'look-for-cuts', root, is, path: pathInPlace(file), facts: file.facts! },
            { patienceMs },
          );
          if (answer.part !== 'cuts') {
            known.set(file.id, { cutting: { can: 'nowhere', because: 'unreadable-index' }, streams: null });
            continue;
          }
          const { cutting, streams } = answer;
          await cuttingStore.save(db, file, { cutting, streams });
          known.set(file.id, { cutting, streams });
        }
      }),
    );
  } finally {
    for (const reader of readers) reader.stop();
  }
  return known;
}

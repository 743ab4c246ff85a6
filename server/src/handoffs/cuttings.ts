import { takenBy, treatmentsBy, type Choices } from '@legame/core/consolidate';
import type { MediaFileId } from '@legame/core/model';
import type { ProjectState } from '../clips/state.ts';
import type { Database } from '../db/database.ts';
import { cuttingStore, type Cuttable } from '../stores/cuttings.ts';
import type { MediaFileRecord } from '../stores/mediaFiles.ts';
import { CutsSought } from './cutsSought.ts';

/** One for the process: plans that are worked out side by side ask about the same files. */
const sought = new CutsSought();

/** Where each file that is to be trimmed or coded anew can be cut; found out once and kept, until the file changes. */
export async function cuttingsFor(
  db: Database,
  { places, acceptance }: Pick<ProjectState, 'places' | 'acceptance'>,
  files: readonly MediaFileRecord[],
  choices: Choices,
  signal?: AbortSignal,
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
  const left = asked.filter((file) => !known.has(file.id));
  const found = await Promise.all(
    left.map((file) => sought.find(db, { file, place: places.get(file.placeId)! }, signal)),
  );
  for (const [i, { id }] of left.entries()) known.set(id, found[i]!);
  return known;
}

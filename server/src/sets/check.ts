import { basename } from 'node:path';
import type { z } from 'zod';
import type { newSetCheckSchema, SetCheck } from '@legame/core/contract';
import type { Context, JobContext } from '../context.ts';
import { folderInsideRoots } from '../disk/fence.ts';
import { FencedFolder, requireWritable } from '../disk/writing.ts';
import { tell } from '../events/tell.ts';
import { Ours } from '../made/ours.ts';
import { ReaderProcess } from '../media/readerProcess.ts';
import { enqueue } from '../queue/queue.ts';
import { jobStore } from '../stores/jobs.ts';
import { setCheckStore } from '../stores/setChecks.ts';
import { addGeneration } from './generation.ts';
import { learnSet } from './listing.ts';
import { pairMoved, reckonHashes } from './reckoning.ts';
import { viewCheck } from './views.ts';

/** Begins to hold a received set against its hash lists. */
export async function startCheck(
  { db, config }: Context,
  { folder, addGeneration: addsGeneration }: z.output<typeof newSetCheckSchema>,
): Promise<SetCheck> {
  const path = await folderInsideRoots(folder, config.roots);
  const { ground } = await FencedFolder.of({ path });
  if (addsGeneration) await requireWritable(ground);
  const id = await db.transaction(async (trx) => {
    const check = await setCheckStore.insert(trx, { folder: path, ground: ground.is, addsGeneration });
    const job = await enqueue(trx, 'check-set', { checkId: check.id }, basename(path));
    await setCheckStore.setJob(trx, check.id, job.id);
    return check.id;
  });
  await tell(db, 'sets', id);
  return viewCheck({ db }, id);
}

/** Goes on with a check that was stopped or failed, where it was. */
export async function goOn({ db }: Context, id: string): Promise<SetCheck> {
  await db.transaction(async (trx) => {
    const check = await setCheckStore.get(trx, id);
    const job = await enqueue(trx, 'check-set', { checkId: id }, basename(check.folder));
    await setCheckStore.setJob(trx, id, job.id);
  });
  await tell(db, 'sets', id);
  return viewCheck({ db }, id);
}

/** Forgets a check, and stops it where it runs; the set stays as it is. */
export async function removeCheck({ db }: Context, id: string): Promise<{ forgotten: true }> {
  const { jobId } = await setCheckStore.get(db, id);
  if (jobId) await jobStore.requestCancel(db, jobId);
  await setCheckStore.remove(db, id);
  await tell(db, 'sets', id);
  return { forgotten: true };
}

/**
 * Learns what the lists say and what lies there, then reads the bytes of whatever is listed. All that is found is kept at
 * once, so it can stop at any point and go on from there. Nothing of the set is touched, but that a generation is added to
 * its lists where that was asked for.
 */
export async function checkSet(job: JobContext, id: string): Promise<void> {
  const { db } = job;
  const check = await setCheckStore.get(db, id);
  // Held by what it was when it was asked for: another folder under the same path is another set.
  const folder = await FencedFolder.of({ path: check.folder, is: check.ground });
  const readers = [new ReaderProcess(), new ReaderProcess()];
  try {
    if (check.lists === null) {
      await learnSet(job, readers[0]!, check, folder);
      await tell(db, 'sets', id);
    }
    await reckonHashes(job, readers, check, folder);
    await pairMoved(db, id);
    if (check.addsGeneration && check.generation === null) {
      const ours = await Ours.in(db, `check:${id}`, folder);
      try {
        await addGeneration(job, check, ours);
      } finally {
        await ours.sweep();
      }
    }
  } finally {
    for (const reader of readers) reader.stop();
    await tell(db, 'sets', id);
  }
}

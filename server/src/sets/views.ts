import type { SetCheck, SetFile } from '@legame/core/contract';
import type { CheckState } from '@legame/core/mhl';
import type { Looking } from '../context.ts';
import type { Database } from '../db/database.ts';
import { jobStore } from '../stores/jobs.ts';
import { setCheckStore, type SetCheckRecord } from '../stores/setChecks.ts';

export async function listChecks({ db }: Looking): Promise<SetCheck[]> {
  const checks: SetCheck[] = [];
  for (const record of await setCheckStore.list(db)) checks.push(await asView(db, record));
  return checks;
}

export const viewCheck = async ({ db }: Looking, id: string): Promise<SetCheck> =>
  asView(db, await setCheckStore.get(db, id));

export async function pageOfFiles(
  { db }: Looking,
  id: string,
  query: { state?: CheckState | undefined; after?: string | undefined; limit: number },
): Promise<{ files: SetFile[]; next: string | null }> {
  await setCheckStore.get(db, id);
  const { files, next } = await setCheckStore.page(db, id, query);
  return {
    files: files.map(({ path, listedPath, state, listedInBytes, foundInBytes, listed, found, detail }) => ({
      ...{ path, listedPath, state, listedInBytes, foundInBytes, listed, found, detail },
    })),
    next,
  };
}

async function asView(db: Database, record: SetCheckRecord): Promise<SetCheck> {
  const { id, folder, createdAt, addsGeneration, generation, jobId, lists, listsGone, unlisted, handoffId } = record;
  const origin = handoffId && (await setCheckStore.handoffOf(db, handoffId));
  return {
    ...{ id, folder, addsGeneration, generation, lists, listsGone, unlisted },
    createdAt: createdAt.toISOString(),
    job: jobId && (await jobStore.getJob(db, jobId)),
    counts: await setCheckStore.count(db, id),
    handoff:
      handoffId && origin
        ? {
            ...origin,
            id: handoffId,
            createdAt: origin.createdAt.toISOString(),
            listedOtherwise: record.listedOtherwise,
          }
        : null,
  };
}

import type { Looking } from '../context.ts';
import type { JobId } from '@legame/core/model';
import type { Job } from '@legame/core/contract';
import { tell } from '../events/tell.ts';
import { jobStore } from '../stores/jobs.ts';

/** Asks a job to stop at its next checkpoint. */
export async function cancelJob({ db }: Looking, id: JobId): Promise<Job> {
  await jobStore.requestCancel(db, id);
  await tell(db, 'jobs', id);
  return jobStore.getJob(db, id);
}

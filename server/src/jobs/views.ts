import type { Looking } from '../context.ts';
import type { JobId } from '@legame/core/model';
import type { Job } from '@legame/core/contract';
import { jobStore } from '../stores/jobs.ts';

export const listJobs = ({ db }: Looking): Promise<Job[]> => jobStore.listRecent(db);

export const getJob = ({ db }: Looking, id: JobId): Promise<Job> => jobStore.getJob(db, id);

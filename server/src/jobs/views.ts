import type { JobId } from '@legame/core';
import type { Job } from '@legame/core/contract';
import type { Database } from '../db/database.ts';
import { jobStore } from '../stores/jobs.ts';

export const listJobs = (db: Database): Promise<Job[]> => jobStore.listRecent(db);

export const getJob = (db: Database, id: JobId): Promise<Job> => jobStore.getJob(db, id);

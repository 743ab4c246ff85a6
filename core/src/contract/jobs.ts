import { z } from 'zod';
import { jobIdSchema, time } from './basics.ts';

export const progressSchema = z.object({
  done: z.number(),
  of: z.number().nullable(),
  unit: z.enum(['files', 'bytes', 'clips']),
  doing: z.string(),
  /** Since the job began, for its speed and what is left. */
  elapsedSeconds: z.number().nonnegative(),
});

export const jobKinds = [
  'index-place',
  'match-project',
  'run-handoff',
  'unpack-bundle',
  'trial-read',
  'accepted-copy',
  'fetch-shelved',
  'hash-files',
  'put-back',
] as const;

export const jobSchema = z.object({
  id: jobIdSchema,
  kind: z.enum(jobKinds),
  subject: z.string(),
  label: z.string(),
  state: z.enum(['queued', 'running', 'done', 'failed', 'cancelled']),
  progress: progressSchema.nullable(),
  problem: z.string().nullable(),
  createdAt: time,
  startedAt: time.nullable(),
  finishedAt: time.nullable(),
});

export type Job = z.infer<typeof jobSchema>;

export type Progress = z.infer<typeof progressSchema>;

/** What the event stream tells: something of this kind changed, ask again. */
export const changeSchema = z.object({ topic: z.enum(['project', 'places', 'jobs']), id: z.string().nullable() });

export type Change = z.infer<typeof changeSchema>;

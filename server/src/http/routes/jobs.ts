import { z } from 'zod';
import { jobIdSchema, jobSchema } from '@legame/core/contract';
import { cancelJob } from '../../jobs/cancel.ts';
import { getJob, listJobs } from '../../jobs/views.ts';
import { route } from '../route.ts';

const params = z.object({ jobId: jobIdSchema });

export const jobRoutes = [
  route({
    method: 'get',
    path: '/jobs',
    summary: 'The newest jobs',
    answer: z.array(jobSchema),
    handle: (_, { db }) => listJobs({ db }),
  }),
  route({
    method: 'get',
    path: '/jobs/:jobId',
    summary: 'One job with its progress',
    params,
    answer: jobSchema,
    handle: ({ params: p }, { db }) => getJob({ db }, p.jobId),
  }),
  route({
    method: 'post',
    path: '/jobs/:jobId/cancel',
    summary: 'Ask a job to stop at its next checkpoint',
    params,
    answer: jobSchema,
    status: 202,
    handle: ({ params: p }, { db }) => cancelJob({ db }, p.jobId),
  }),
];

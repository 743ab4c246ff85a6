import { z } from 'zod';
import { jobIdSchema, jobSchema } from '@legame/core/contract';
import { tell } from '../../actions/tell.ts';
import { jobStore } from '../../stores/jobs.ts';
import { route } from '../route.ts';

const params = z.object({ jobId: jobIdSchema });

export const jobRoutes = [
  route({
    method: 'get',
    path: '/jobs',
    summary: 'The newest jobs',
    answer: z.array(jobSchema),
    handle: (_, { db }) => jobStore.listRecent(db),
  }),
  route({
    method: 'get',
    path: '/jobs/:jobId',
    summary: 'One job with its progress',
    params,
    answer: jobSchema,
    handle: ({ params: p }, { db }) => jobStore.getJob(db, p.jobId),
  }),
  route({
    method: 'post',
    path: '/jobs/:jobId/cancel',
    summary: 'Ask a job to stop at its next checkpoint',
    params,
    answer: jobSchema,
    status: 202,
    handle: async ({ params: p }, { db }) => {
      await jobStore.requestCancel(db, p.jobId);
      await tell(db, 'jobs', p.jobId);
      return jobStore.getJob(db, p.jobId);
    },
  }),
];

import { z } from 'zod';
import {
  actSchema,
  pullDeskSchema,
  pullRowSchema,
  type MarkPulls,
  type PullDeskQuery,
  type PullQuery,
} from '@legame/core/contract';
import { api } from './legame.ts';

/** What is to be fetched, as a list for whoever holds it, and as a desk where it is said what came of that. */
export const pulls = api.injectEndpoints({
  endpoints: (build) => ({
    pullList: build.query({
      query: ({ projectId, ...params }: PullQuery & { projectId: string }) => ({
        url: `projects/${projectId}/pull-list`,
        params,
      }),
      responseSchema: z.array(pullRowSchema),
      providesTags: ['Project'],
    }),
    pullDesk: build.query({
      query: ({ projectId, ...params }: PullDeskQuery & { projectId: string }) => ({
        url: `projects/${projectId}/pulls`,
        params,
      }),
      responseSchema: pullDeskSchema,
      providesTags: ['Project', 'Places', 'Documents'],
    }),
    markPulls: build.mutation({
      query: ({ projectId, ...body }: MarkPulls & { projectId: string }) => ({
        url: `projects/${projectId}/pulls/mark`,
        method: 'POST',
        body,
      }),
      responseSchema: actSchema,
      invalidatesTags: ['Project', 'Jobs'],
    }),
  }),
});

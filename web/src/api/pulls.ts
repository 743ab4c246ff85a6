import { z } from 'zod';
import { actSchema, pullDeskSchema, pullRowSchema, type MarkPulls } from '@legame/core/contract';
import { api } from './legame.ts';

export type PullQuery = { projectId: string; handles: number; of: 'dark' | 'used'; holder?: string | undefined };

/** What is to be fetched, as a list for whoever holds it, and as a desk where it is said what came of that. */
export const pulls = api.injectEndpoints({
  endpoints: (build) => ({
    pullList: build.query({
      query: ({ projectId, ...params }: PullQuery) => ({ url: `projects/${projectId}/pull-list`, params }),
      responseSchema: z.array(pullRowSchema),
      providesTags: ['Project'],
    }),
    pullDesk: build.query({
      query: ({ projectId, handles }: { projectId: string; handles: number }) =>
        `projects/${projectId}/pulls?handles=${handles}`,
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

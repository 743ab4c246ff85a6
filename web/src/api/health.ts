import { actSchema, healthSchema, type AcceptFindings } from '@legame/core/contract';
import type { Home } from '@legame/core/health';
import { api } from './legame.ts';

/** What may go wrong with a project's media later, and what is accepted of it. */
export const health = api.injectEndpoints({
  endpoints: (build) => ({
    health: build.query({
      query: (projectId: string) => `projects/${projectId}/health`,
      responseSchema: healthSchema,
      providesTags: ['Project', 'Places', 'Documents'],
    }),
    setHome: build.mutation({
      query: ({ projectId, home }: { projectId: string; home: Home | null }) => ({
        url: `projects/${projectId}/home`,
        method: 'PUT',
        body: { home },
      }),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    acceptFindings: build.mutation({
      query: ({ projectId, ...body }: AcceptFindings & { projectId: string }) => ({
        url: `projects/${projectId}/health/accept`,
        method: 'POST',
        body,
      }),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    keepHealth: build.mutation({
      query: (projectId: string) => ({ url: `projects/${projectId}/health/keep`, method: 'POST' }),
      responseSchema: healthSchema,
      invalidatesTags: ['Project'],
    }),
  }),
});

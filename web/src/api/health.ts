import {
  actSchema,
  bringingHomeSchema,
  healthClipsSchema,
  healthSchema,
  jobSchema,
  type AcceptFindings,
  type homeChecks,
} from '@legame/core/contract';
import type { HealthCheck, Home } from '@legame/core/health';
import { api } from './legame.ts';

export type HomeCheck = (typeof homeChecks)[number];

/** What may go wrong with a project's media later, and what is accepted of it. */
export const health = api.injectEndpoints({
  endpoints: (build) => ({
    health: build.query({
      query: (projectId: string) => `projects/${projectId}/health`,
      responseSchema: healthSchema,
      providesTags: ['Project', 'Places', 'Documents'],
    }),
    healthClips: build.query({
      query: ({ projectId, check }: { projectId: string; check: HealthCheck }) =>
        `projects/${projectId}/health/clips?check=${check}`,
      responseSchema: healthClipsSchema,
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
    bringingHome: build.query({
      query: ({ projectId, check }: { projectId: string; check: HomeCheck }) =>
        `projects/${projectId}/health/home?check=${check}`,
      responseSchema: bringingHomeSchema,
      providesTags: ['Project', 'Places'],
    }),
    bringHome: build.mutation({
      query: ({ projectId, check }: { projectId: string; check: HomeCheck }) => ({
        url: `projects/${projectId}/health/home`,
        method: 'POST',
        body: { check },
      }),
      responseSchema: jobSchema,
      invalidatesTags: ['Jobs'],
    }),
    keepHealth: build.mutation({
      query: (projectId: string) => ({ url: `projects/${projectId}/health/keep`, method: 'POST' }),
      responseSchema: healthSchema,
      invalidatesTags: ['Project'],
    }),
  }),
});

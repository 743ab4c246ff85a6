import { watchedSchema, wouldChangeSchema } from '@legame/core/contract';
import type { Home } from '@legame/core/health';
import { api } from './legame.ts';

/** The folder in which newer versions of a project's documents are looked for. */
export const watched = api.injectEndpoints({
  endpoints: (build) => ({
    watched: build.query({
      query: (projectId: string) => `projects/${projectId}/watched`,
      responseSchema: watchedSchema,
      providesTags: ['Documents', 'Places'],
    }),
    watchFolder: build.mutation({
      query: ({ projectId, folder }: { projectId: string; folder: Home | null }) => ({
        url: `projects/${projectId}/watched`,
        method: 'PUT',
        body: { folder },
      }),
      responseSchema: watchedSchema,
      invalidatesTags: ['Documents'],
    }),
    passOver: build.mutation({
      query: ({ projectId, path }: { projectId: string; path: string }) => ({
        url: `projects/${projectId}/watched/pass-over`,
        method: 'POST',
        body: { path },
      }),
      responseSchema: watchedSchema,
      invalidatesTags: ['Documents'],
    }),
    wouldChange: build.query({
      query: ({ projectId, ...params }: { projectId: string; path: string; replaces: string; version: string }) => ({
        url: `projects/${projectId}/watched/changes`,
        // The version only keeps answers about other bytes apart.
        params: { path: params.path, replaces: params.replaces },
      }),
      responseSchema: wouldChangeSchema,
      providesTags: ['Documents'],
    }),
  }),
});

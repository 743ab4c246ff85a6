import { projectSchema, projectStandingSchema, thingsSchema } from '@legame/core/contract';
import { api } from './legame.ts';

/** Projects as wholes: what is done to them beside making and deleting, and what is found in all of them. */
export const projects = api.injectEndpoints({
  endpoints: (build) => ({
    /** What bears these words in its name, anywhere but in the project at hand. */
    find: build.query({
      query: (params: { text: string; beside: string }) => ({ url: 'find', params }),
      responseSchema: thingsSchema,
      providesTags: ['Projects', 'Project', 'Documents', 'Places'],
    }),
    standing: build.query({
      query: (projectId: string) => `projects/${projectId}/standing`,
      responseSchema: projectStandingSchema,
      providesTags: ['Projects', 'Project', 'Places'],
    }),
    renameProject: build.mutation({
      query: ({ id, name }: { id: string; name: string }) => ({
        url: `projects/${id}`,
        method: 'PATCH',
        body: { name },
      }),
      responseSchema: projectSchema,
      invalidatesTags: ['Projects', 'Project'],
    }),
    duplicateProject: build.mutation({
      query: ({ id, name }: { id: string; name: string }) => ({
        url: `projects/${id}/duplicate`,
        method: 'POST',
        body: { name },
      }),
      responseSchema: projectSchema,
      invalidatesTags: ['Projects'],
    }),
  }),
});

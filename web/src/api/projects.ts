import { projectSchema } from '@legame/core/contract';
import { api } from './legame.ts';

/** What is done to a project as a whole, beside making and deleting it. */
export const projects = api.injectEndpoints({
  endpoints: (build) => ({
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

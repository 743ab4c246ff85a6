import {
  actSchema,
  namingPreviewSchema,
  type namingRequestSchema,
  type renameRequestSchema,
} from '@legame/core/contract';
import type { z } from 'zod';
import { api } from './legame.ts';

type InProject<T> = T & { readonly projectId: string };

/** What files are called, and renaming them. */
export const naming = api.injectEndpoints({
  endpoints: (build) => ({
    namingPreview: build.query({
      query: ({ projectId, ...body }: InProject<z.input<typeof namingRequestSchema>>) => ({
        url: `projects/${projectId}/renames/preview`,
        method: 'POST',
        body,
      }),
      responseSchema: namingPreviewSchema,
      providesTags: ['Project', 'Places'],
      keepUnusedDataFor: 5,
    }),
    renameFiles: build.mutation({
      query: ({ projectId, ...body }: InProject<z.input<typeof renameRequestSchema>>) => ({
        url: `projects/${projectId}/renames`,
        method: 'POST',
        body,
      }),
      responseSchema: actSchema,
      invalidatesTags: ['Project', 'Places'],
    }),
  }),
});

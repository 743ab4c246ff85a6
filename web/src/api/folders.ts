import { actSchema, foldersAtSchema, foldersSchema } from '@legame/core/contract';
import type { FolderTemplate } from '@legame/core/folders';
import type { PlaceId } from '@legame/core/model';
import { api } from './legame.ts';

export type FoldersIn = { readonly projectId: string; readonly placeId: PlaceId; readonly folder: string };

/** The folders of a project, what goes where in them, and how files there are named. */
export const folders = api.injectEndpoints({
  endpoints: (build) => ({
    folderTemplate: build.query({
      query: (projectId: string) => `projects/${projectId}/folder-template`,
      responseSchema: foldersSchema,
      providesTags: ['Project'],
    }),
    setFolders: build.mutation({
      query: ({ projectId, template }: { projectId: string; template: FolderTemplate | null }) => ({
        url: `projects/${projectId}/folder-template`,
        method: 'PUT',
        body: { template },
      }),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    foldersAt: build.query({
      query: ({ projectId, ...params }: FoldersIn) => ({ url: `projects/${projectId}/folder-template/at`, params }),
      responseSchema: foldersAtSchema,
      providesTags: ['Project', 'Places'],
      keepUnusedDataFor: 5,
    }),
    makeFolders: build.mutation({
      query: ({ projectId, ...body }: FoldersIn) => ({
        url: `projects/${projectId}/folder-template/make`,
        method: 'POST',
        body,
      }),
      responseSchema: foldersAtSchema,
      invalidatesTags: ['Places'],
    }),
    keepNamePattern: build.mutation({
      query: ({ projectId, pattern }: { projectId: string; pattern: string | null }) => ({
        url: `projects/${projectId}/name-pattern`,
        method: 'PUT',
        body: { pattern },
      }),
      invalidatesTags: ['Project'],
    }),
  }),
});

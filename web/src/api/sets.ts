import { z } from 'zod';
import { projectSchema, setCheckSchema, setFilesSchema, type SetFile } from '@legame/core/contract';
import { api } from './legame.ts';

type FilesAsked = { readonly checkId: string; readonly state: SetFile['state'] | null };
const filesAtOnce = 500;

/** The server's part about received sets, as hooks. */
export const sets = api.injectEndpoints({
  endpoints: (build) => ({
    setChecks: build.query({
      query: (_: void) => 'set-checks',
      responseSchema: z.array(setCheckSchema),
      providesTags: ['Sets', 'Jobs'],
    }),
    startSetCheck: build.mutation({
      query: (body: { folder: string; addGeneration: boolean }) => ({ url: 'set-checks', method: 'POST', body }),
      responseSchema: setCheckSchema,
      invalidatesTags: ['Sets', 'Jobs'],
    }),
    goOnWithCheck: build.mutation({
      query: (id: string) => ({ url: `set-checks/${id}/run`, method: 'POST' }),
      responseSchema: setCheckSchema,
      invalidatesTags: ['Sets', 'Jobs'],
    }),
    forgetCheck: build.mutation({
      query: (id: string) => ({ url: `set-checks/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Sets'],
    }),
    openSet: build.mutation({
      query: (id: string) => ({ url: `set-checks/${id}/open`, method: 'POST', body: {} }),
      responseSchema: projectSchema,
      invalidatesTags: ['Projects', 'Places', 'Jobs'],
    }),
    /** A page after another, what is wrong first. */
    setFiles: build.infiniteQuery<z.infer<typeof setFilesSchema>, FilesAsked, string | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (page) => page.next ?? undefined },
      query: ({ queryArg: { checkId, state }, pageParam }) => {
        const asked = new URLSearchParams({ limit: String(filesAtOnce) });
        if (state) asked.set('state', state);
        if (pageParam !== null) asked.set('after', pageParam);
        return `set-checks/${checkId}/files?${asked}`;
      },
      responseSchema: setFilesSchema,
      providesTags: ['Sets', 'Jobs'],
    }),
  }),
});

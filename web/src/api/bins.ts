import {
  actSchema,
  binClipsSchema,
  binsSchema,
  layoutsSchema,
  type BinClip,
  type Layout,
  type TableName,
} from '@legame/core/contract';
import type { BinPath, FileRule, Label } from '@legame/core/bins';
import { api } from './legame.ts';
import { listSince } from './since.ts';

type Of<T> = T & { readonly projectId: string };
const act =
  <T extends object>(path: string, method: 'POST' | 'PUT' = 'POST') =>
  ({ projectId, ...body }: Of<T>) => ({ url: `projects/${projectId}/${path}`, method, body });

/** Bins, labels and what is written of clips; and how tables are arranged. */
export const bins = api.injectEndpoints({
  endpoints: (build) => ({
    bins: build.query({
      query: (projectId: string) => `projects/${projectId}/bins`,
      responseSchema: binsSchema,
      providesTags: ['Project', 'Documents'],
    }),
    /** What is said of all clips; once known, only what changed since is asked for. */
    binClips: build.query<readonly BinClip[], string>({
      queryFn: listSince(
        (projectId) => `projects/${projectId}/bins/clips`,
        binClipsSchema,
        (clip) => clip.id,
      ),
      // Clips that did not change are the same already.
      structuralSharing: false,
      providesTags: ['Project', 'Documents'],
    }),
    makeBin: build.mutation({
      query: act<{ bin: BinPath }>('bins'),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    moveBin: build.mutation({
      query: act<{ bin: BinPath; to: BinPath }>('bins/move'),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    removeBin: build.mutation({
      query: act<{ bin: BinPath }>('bins/remove'),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    fileClips: build.mutation({
      query: act<{ clipIds: readonly string[]; bin: BinPath }>('bins/file'),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    fileClipsBy: build.mutation({
      query: act<{ clipIds: readonly string[]; rule: FileRule; under: BinPath }>('bins/file-by'),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    labelClips: build.mutation({
      query: act<{ clipIds: readonly string[]; label: string | null }>('label'),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    setLabels: build.mutation({
      query: act<{ labels: readonly Label[] }>('labels', 'PUT'),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    writeNotes: build.mutation({
      query: act<{ written: readonly { clipIds: readonly string[]; values: Readonly<Record<string, string>> }[] }>(
        'notes',
      ),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    layouts: build.query({
      query: ({ projectId, table }: Of<{ table: TableName }>) => `projects/${projectId}/layouts?table=${table}`,
      responseSchema: layoutsSchema,
      providesTags: ['Layouts'],
    }),
    keepLayout: build.mutation({
      query: act<Layout & { table: TableName }>('layouts', 'PUT'),
      responseSchema: layoutsSchema,
      invalidatesTags: ['Layouts'],
    }),
    dropLayout: build.mutation({
      query: act<Pick<Layout, 'name' | 'forAll'> & { table: TableName }>('layouts/remove'),
      responseSchema: layoutsSchema,
      invalidatesTags: ['Layouts'],
    }),
  }),
});

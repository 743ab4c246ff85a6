import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react';
import { z } from 'zod';
import type { Reading } from '@legame/core/formats';
import type { Interpretation } from '@legame/core/model';
import type { BundledFile } from '@legame/core/bundle';
import {
  actSchema,
  carryPreviewSchema,
  clipDetailSchema,
  comparisonSchema,
  cutRecordingSchema,
  cutSchema,
  darknessSchema,
  deletedProjectSchema,
  documentSchema,
  folderListingSchema,
  handoffPreviewSchema,
  handoffSchema,
  jobSchema,
  logMappingSchema,
  mediaFileSchema,
  placeDocumentsSchema,
  projectSchema,
  projectSummarySchema,
  weighedFileSchema,
  type HandoffChoices,
  type HandoffLayout,
  type HandoffScope,
  type Problem,
  type ProblemDetails,
  type KeptPicture,
} from '@legame/core/contract';
import { untilHeard } from './hearing.ts';

type HandoffDraft = {
  projectId: string;
  timelines?: readonly string[];
  ranges?: HandoffScope['ranges'];
  clips?: readonly string[];
  choices: HandoffChoices;
};
type Links = {
  projectId: string;
  by: 'rule' | 'hand' | 'carry' | 'swap';
  from?: string;
  links: { clipId: string; mediaFileId: string | null; interpretation?: Interpretation }[];
};
/** Said twice of the same act, it is taken back once. */
export type ActMeant = { projectId: string; act?: number | undefined };
type Incoming = {
  projectId: string;
  name: string;
  content: Uint8Array;
  reading: Reading;
  replaces?: string | undefined;
  beside?: boolean | undefined;
  mediaInside: readonly BundledFile[];
};
type FromPlace = {
  projectId: string;
  placeId: string;
  path: string;
  reading?: Reading;
  replaces?: string;
  beside?: boolean;
};
const placeFilesSchema = z.object({
  folder: z.string(),
  folders: z.array(z.string()),
  files: z.array(mediaFileSchema),
});

/** Rows by the thousand are held against the contract while Legame is made, not where it is used. */
export const isMade = (import.meta as { env?: { PROD?: boolean } }).env?.PROD !== true;
/** Answers as large as an edit are held against the contract while Legame is made, not where it is used. */
export const checkedWhileMade: { skipSchemaValidation: boolean | 'response'[] } = {
  skipSchemaValidation: isMade ? false : ['response'],
};

const ask = fetchBaseQuery({ baseUrl: '/api/' });
const baseQuery: typeof ask = async (question, ...how) => {
  await untilHeard();
  return ask(question, ...how);
};

/** The server, as hooks. Storage (places, drives, reading, room) is asked in `storage.ts`. Answers are checked against the contract; changes come in by the event stream (`hearChanges`). */
export const api = createApi({
  reducerPath: 'api',
  baseQuery,
  tagTypes: ['Projects', 'Project', 'Documents', 'Places', 'Jobs', 'Trials', 'Sets', 'Layouts'],
  endpoints: (build) => ({
    projects: build.query({
      query: (_: void) => 'projects',
      responseSchema: z.array(projectSchema),
      providesTags: ['Projects'],
    }),
    deletedProjects: build.query({
      query: (_: void) => 'projects/deleted',
      responseSchema: z.array(deletedProjectSchema),
      providesTags: ['Projects'],
    }),
    deleteProject: build.mutation({
      query: (id: string) => ({ url: `projects/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Projects', 'Jobs'],
    }),
    restoreProject: build.mutation({
      query: (id: string) => ({ url: `projects/deleted/${id}/restore`, method: 'POST' }),
      responseSchema: projectSchema,
      invalidatesTags: ['Projects'],
    }),
    createProject: build.mutation({
      query: (name: string) => ({ url: 'projects', method: 'POST', body: { name } }),
      responseSchema: projectSchema,
      invalidatesTags: ['Projects'],
    }),
    project: build.query({
      query: (id: string) => `projects/${id}`,
      responseSchema: projectSummarySchema,
      providesTags: ['Project'],
    }),
    clip: build.query({
      query: (id: string) => `clips/${id}`,
      responseSchema: clipDetailSchema,
      providesTags: ['Project'],
    }),
    weigh: build.query({
      query: ({ clipId, mediaFileId }: { clipId: string; mediaFileId: string }) =>
        `clips/${clipId}/weigh/${mediaFileId}`,
      responseSchema: weighedFileSchema,
      providesTags: ['Project'],
    }),
    cut: build.query({
      query: (projectId: string) => `projects/${projectId}/cut`,
      responseSchema: cutSchema,
      ...checkedWhileMade,
      providesTags: ['Documents'],
    }),
    cutRecordings: build.query({
      query: ({ projectId, clips }: { projectId: string; clips: readonly string[] }) => ({
        url: `projects/${projectId}/cut/recordings`,
        method: 'POST',
        body: { clips },
      }),
      responseSchema: z.array(cutRecordingSchema).readonly(),
      ...checkedWhileMade,
      providesTags: ['Project', 'Documents'],
    }),
    darkness: build.query({
      query: (projectId: string) => `projects/${projectId}/darkness`,
      responseSchema: darknessSchema,
      providesTags: ['Project'],
    }),
    documents: build.query({
      query: (projectId: string) => `projects/${projectId}/documents`,
      responseSchema: z.array(documentSchema),
      providesTags: ['Project'],
    }),
    bringIn: build.mutation({
      query: ({ projectId, name, content, reading, replaces, beside, mediaInside }: Incoming) => ({
        url: `projects/${projectId}/documents`,
        method: 'POST',
        params: {
          name,
          reading: JSON.stringify(reading),
          ...(replaces ? { replaces } : {}),
          ...(beside ? { beside: 'true' } : {}),
          ...(mediaInside.length > 0 ? { mediaInside: JSON.stringify(mediaInside) } : {}),
        },
        body: content,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
      responseSchema: documentSchema,
      invalidatesTags: ['Project', 'Documents'],
    }),
    bringInFromPlace: build.mutation({
      query: ({ projectId, ...body }: FromPlace) => ({
        url: `projects/${projectId}/documents/from-place`,
        method: 'POST',
        body,
      }),
      responseSchema: documentSchema,
      invalidatesTags: ['Project', 'Documents'],
    }),
    unpackBundle: build.mutation({
      query: (body: { placeId: string; path: string; targetFolder: string }) => ({
        url: 'bundles/unpack',
        method: 'POST',
        body,
      }),
      responseSchema: jobSchema,
      invalidatesTags: ['Jobs'],
    }),
    placeDocuments: build.query({
      query: ({ placeId, folder }: { placeId: string; folder: string }) => ({
        url: `places/${placeId}/documents`,
        params: { folder },
      }),
      responseSchema: placeDocumentsSchema,
    }),
    logMapping: build.query({
      query: (headers: readonly string[]) => ({ url: 'log-mapping', params: { headers: JSON.stringify(headers) } }),
      responseSchema: logMappingSchema,
    }),
    readAgain: build.mutation({
      query: ({ documentId, reading }: { documentId: string; reading: Reading }) => ({
        url: `documents/${documentId}/reading`,
        method: 'PUT',
        body: reading,
      }),
      responseSchema: documentSchema,
      invalidatesTags: ['Project', 'Documents'],
    }),
    comparison: build.query({
      query: (documentId: string) => `documents/${documentId}/comparison`,
      responseSchema: comparisonSchema,
      providesTags: ['Project'],
    }),
    importProject: build.mutation({
      query: (file: File) => ({
        url: 'projects/import',
        method: 'POST',
        params: { name: file.name },
        body: file,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
      responseSchema: projectSchema,
      invalidatesTags: ['Projects'],
    }),
    takeOut: build.mutation({
      query: (documentId: string) => ({ url: `documents/${documentId}`, method: 'DELETE' }),
      invalidatesTags: ['Project', 'Documents'],
    }),
    link: build.mutation({
      query: ({ projectId, ...body }: Links) => ({ url: `projects/${projectId}/links`, method: 'POST', body }),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    linkCertain: build.mutation({
      query: ({ projectId, clipIds }: { projectId: string; clipIds?: readonly string[] }) => ({
        url: `projects/${projectId}/links/certain`,
        method: 'POST',
        body: { clipIds },
      }),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    carry: build.query({
      query: ({ projectId, ...body }: { projectId: string; clipId: string; mediaFileId: string }) => ({
        url: `projects/${projectId}/carry`,
        method: 'POST',
        body,
      }),
      responseSchema: carryPreviewSchema,
      providesTags: ['Project'],
    }),
    decline: build.mutation({
      query: ({ clipId, mediaFileId }: { clipId: string; mediaFileId: string }) => ({
        url: `clips/${clipId}/decline`,
        method: 'POST',
        body: { mediaFileId },
      }),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    setAside: build.mutation({
      query: ({
        projectId,
        ...body
      }: {
        projectId: string;
        clipIds: readonly string[];
        as: 'parked' | 'waived' | null;
        reason?: string;
      }) => ({ url: `projects/${projectId}/set-aside`, method: 'POST', body }),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    undo: build.mutation({
      query: ({ projectId, act }: ActMeant) => ({ url: `projects/${projectId}/undo`, method: 'POST', body: { act } }),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    placeFiles: build.query({
      query: ({ placeId, folder }: { placeId: string; folder: string }) => ({
        url: `places/${placeId}/files`,
        params: { folder },
      }),
      responseSchema: placeFilesSchema,
      providesTags: ['Places'],
    }),
    folders: build.query({
      query: (path: string) => ({ url: 'folders', params: path ? { path } : {} }),
      responseSchema: folderListingSchema,
    }),
    handoffs: build.query({
      query: (projectId: string) => `projects/${projectId}/handoffs`,
      responseSchema: z.array(handoffSchema),
      providesTags: ['Project'],
    }),
    handoffPreview: build.query({
      query: ({ projectId, ...body }: HandoffDraft & { targetFolder?: string }) => ({
        url: `projects/${projectId}/handoffs/preview`,
        method: 'POST',
        body,
      }),
      responseSchema: handoffPreviewSchema,
      providesTags: ['Project'],
      keepUnusedDataFor: 5,
    }),
    planHandoff: build.mutation({
      query: ({
        projectId,
        ...body
      }: HandoffDraft & { targetFolder: string; name: string; layout: HandoffLayout }) => ({
        url: `projects/${projectId}/handoffs`,
        method: 'POST',
        body,
      }),
      responseSchema: handoffSchema,
      invalidatesTags: ['Project'],
    }),
    runHandoff: build.mutation({
      query: (id: string) => ({ url: `handoffs/${id}/run`, method: 'POST' }),
      responseSchema: handoffSchema,
      invalidatesTags: ['Project', 'Jobs'],
    }),
    cancelHandoff: build.mutation({
      query: (id: string) => ({ url: `handoffs/${id}/cancel`, method: 'POST' }),
      responseSchema: handoffSchema,
      invalidatesTags: ['Project', 'Jobs'],
    }),
    jobs: build.query({ query: (_: void) => 'jobs', responseSchema: z.array(jobSchema), providesTags: ['Jobs'] }),
    cancelJob: build.mutation({
      query: (id: string) => ({ url: `jobs/${id}/cancel`, method: 'POST' }),
      responseSchema: jobSchema,
      invalidatesTags: ['Jobs'],
    }),
  }),
});

export type Pictured = { readonly id: string; readonly version: string };
/** A frame of a file, counted from its start. The version changes when the file is read anew, and the picture with it. */
export const pictureUrl = ({ id, version }: Pictured, frame: number, width = 480): string =>
  `/api/media/${id}/picture${withQuery({ frame: String(Math.max(0, Math.round(frame))), width: String(width), v: version })}`;
export const keptPictureUrl = (clipId: string, { takenAt }: Pick<KeptPicture, 'takenAt'>): string =>
  `/api/clips/${clipId}/picture${withQuery({ v: takenAt })}`;
export const previewUrl = ({ id, version }: Pictured, from: number, frames: number): string =>
  `/api/media/${id}/preview${withQuery({ from: String(Math.max(0, Math.round(from))), frames: String(Math.max(1, Math.round(frames))), v: version })}`;
export const projectUrl = (projectId: string, what: string, query: Record<string, string> = {}): string =>
  `/api/projects/${projectId}/${what}${withQuery(query)}`;
const withQuery = (query: Record<string, string>): string => {
  const text = new URLSearchParams(query).toString();
  return text ? `?${text}` : '';
};

/** An exported document with what only its headers say: how many clips were relinked, and whether its encoding changed. */
export async function fetchExport(
  documentId: string,
  query: Record<string, string>,
): Promise<{ name: string; content: Blob; relinked: number; reencoded: boolean }> {
  const answer = await fetch(`/api/documents/${documentId}/export${withQuery(query)}`);
  if (!answer.ok) throw Object.assign(new Error('not exported'), { data: (await answer.json()) as unknown });
  const disposition = answer.headers.get('Content-Disposition') ?? '';
  const encoded = /filename\*=UTF-8''([^;]+)/i.exec(disposition)?.[1];
  return {
    name: encoded ? decodeURIComponent(encoded) : (/filename="([^"]*)"/.exec(disposition)?.[1] ?? 'export'),
    content: await answer.blob(),
    relinked: Number(answer.headers.get('Legame-Relinked')),
    reencoded: answer.headers.get('Legame-Reencoded') === 'true',
  };
}

/** What went wrong, as the server says it; null when nothing did. */
export function problemOf(error: unknown): { code: string; detail: string; problem: Problem | null } | null {
  if (!error) return null;
  if (
    typeof error === 'object' &&
    'data' in error &&
    error.data &&
    typeof error.data === 'object' &&
    'detail' in error.data
  ) {
    const details = error.data as ProblemDetails;
    return { code: details.code, detail: details.detail, problem: error.data as unknown as Problem };
  }
  if (typeof error === 'object' && 'status' in error && error.status === 'FETCH_ERROR') {
    return {
      code: 'server-away',
      detail: 'Legame’s server does not answer. Check that it still runs in its terminal; this page goes on by itself.',
      problem: null,
    };
  }
  const message =
    typeof error === 'object' && 'message' in error ? String(error.message) : 'The server’s answer was not understood.';
  return { code: 'not-understood', detail: message, problem: null };
}

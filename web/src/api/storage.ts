import { z } from 'zod';
import {
  archiveSchema,
  clearAnswerSchema,
  clearedSchema,
  driveBaySchema,
  jobSchema,
  openingSchema,
  placeSchema,
  projectAcceptanceSchema,
  recordingSchema,
  roomByPlaceSchema,
  roomMapSchema,
  trialSchema,
  troubleSchema,
  type DriveBay,
  type PlaceChange,
  type ProjectAcceptance,
} from '@legame/core/contract';
import { api } from './legame.ts';

type DriveChange = Partial<DriveBay['drives'][number]>;
type Reread =
  { clipIds: readonly string[] } | { mediaFileIds: readonly string[] } | { placeId: string; folder: string };

/** The server's part about storage, as hooks: places, drives, reading, trial reads, room. */
export const storage = api.injectEndpoints({
  endpoints: (build) => ({
    places: build.query({
      query: (_: void) => 'places',
      responseSchema: z.array(placeSchema),
      providesTags: ['Places'],
    }),
    addPlace: build.mutation({
      query: (body: { path: string; knownAs: string[] }) => ({ url: 'places', method: 'POST', body }),
      responseSchema: placeSchema,
      invalidatesTags: ['Places', 'Jobs'],
    }),
    changePlace: build.mutation({
      query: ({ id, ...body }: PlaceChange & { id: string }) => ({ url: `places/${id}`, method: 'PATCH', body }),
      responseSchema: placeSchema,
      invalidatesTags: ['Places', 'Jobs'],
    }),
    forgetPlace: build.mutation({
      query: (id: string) => ({ url: `places/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Places', 'Project'],
    }),
    indexPlace: build.mutation({
      query: ({ id, folder = '' }: { id: string; folder?: string }) => ({
        url: `places/${id}/index`,
        method: 'POST',
        body: { folder },
      }),
      responseSchema: jobSchema,
      invalidatesTags: ['Jobs'],
    }),
    trouble: build.query({
      query: (placeId: string) => `places/${placeId}/trouble`,
      responseSchema: z.array(troubleSchema),
      providesTags: ['Places'],
    }),
    recordings: build.query({
      query: (placeId: string) => `places/${placeId}/recordings`,
      responseSchema: z.array(recordingSchema),
      providesTags: ['Places'],
    }),
    reread: build.mutation({
      query: (body: Reread) => ({ url: 'reread', method: 'POST', body }),
      responseSchema: z.object({ files: z.int() }),
      invalidatesTags: ['Places', 'Jobs', 'Project'],
    }),
    archives: build.query({
      query: (placeId: string) => `places/${placeId}/archives`,
      responseSchema: z.array(archiveSchema),
      providesTags: ['Places'],
    }),
    setIndexAside: build.mutation({
      query: (placeId: string) => ({ url: `places/${placeId}/archives`, method: 'POST' }),
      responseSchema: z.object({ archive: archiveSchema, job: jobSchema.nullable() }),
      invalidatesTags: ['Places', 'Jobs'],
    }),
    setAllAside: build.mutation({
      query: (_: void) => ({ url: 'archives', method: 'POST' }),
      responseSchema: z.array(archiveSchema),
      invalidatesTags: ['Places', 'Jobs'],
    }),
    restoreIndex: build.mutation({
      query: (archiveId: string) => ({ url: `archives/${archiveId}/restore`, method: 'POST' }),
      responseSchema: z.object({ files: z.int() }),
      invalidatesTags: ['Places', 'Project'],
    }),
    roomByPlace: build.query({
      query: (projectId: string) => `projects/${projectId}/room`,
      responseSchema: roomByPlaceSchema,
      providesTags: ['Places', 'Project'],
    }),
    roomMap: build.query({
      query: ({ projectId, placeId, folder }: { projectId: string; placeId: string; folder: string }) => ({
        url: `projects/${projectId}/places/${placeId}/room`,
        params: { folder },
      }),
      responseSchema: roomMapSchema,
      providesTags: ['Places', 'Project'],
    }),
    cleared: build.query({
      query: (placeId: string) => `places/${placeId}/cleared`,
      responseSchema: z.array(clearedSchema),
      providesTags: ['Places'],
    }),
    clearFiles: build.mutation({
      query: ({ placeId, mediaFileIds }: { placeId: string; mediaFileIds: readonly string[] }) => ({
        url: `places/${placeId}/clear`,
        method: 'POST',
        body: { mediaFileIds },
      }),
      responseSchema: clearAnswerSchema,
      invalidatesTags: ['Places', 'Project'],
    }),
    restoreCleared: build.mutation({
      query: (id: string) => ({ url: `cleared/${id}/restore`, method: 'POST' }),
      responseSchema: z.object({ path: z.string() }),
      invalidatesTags: ['Places', 'Project'],
    }),
    readLog: build.query({
      query: (params: { text?: string; only?: 'open' | 'trouble'; limit?: number }) => ({ url: 'read-log', params }),
      responseSchema: z.array(openingSchema),
    }),
    trials: build.query({
      query: (projectId: string) => `projects/${projectId}/trials`,
      responseSchema: z.array(trialSchema),
      // A job tells of each file that was tried.
      providesTags: ['Trials', 'Jobs'],
    }),
    startTrial: build.mutation({
      query: ({
        projectId,
        ...body
      }: {
        projectId: string;
        scope: 'chosen' | 'used' | 'culprit';
        clipIds?: readonly string[];
      }) => ({ url: `projects/${projectId}/trials`, method: 'POST', body }),
      responseSchema: z.object({ trial: trialSchema, job: jobSchema }),
      invalidatesTags: ['Trials', 'Jobs'],
    }),
    acceptance: build.query({
      query: (projectId: string) => `projects/${projectId}/acceptance`,
      responseSchema: projectAcceptanceSchema,
      providesTags: ['Project'],
    }),
    setAcceptance: build.mutation({
      query: ({ projectId, profile }: { projectId: string; profile: ProjectAcceptance['profile'] }) => ({
        url: `projects/${projectId}/acceptance`,
        method: 'PUT',
        body: profile,
      }),
      responseSchema: projectAcceptanceSchema,
      invalidatesTags: ['Project'],
    }),
    makeAcceptedCopy: build.mutation({
      query: ({
        projectId,
        ...body
      }: {
        projectId: string;
        mediaFileId: string;
        targetFolder: string;
        codec: string;
      }) => ({ url: `projects/${projectId}/accepted-copies`, method: 'POST', body }),
      responseSchema: jobSchema,
      invalidatesTags: ['Jobs'],
    }),
    hashFile: build.mutation({
      query: (mediaFileId: string) => ({ url: `media/${mediaFileId}/hash`, method: 'POST' }),
      responseSchema: jobSchema,
      invalidatesTags: ['Jobs'],
    }),
    driveBay: build.query({
      query: (_: void) => 'drive-bay',
      responseSchema: driveBaySchema,
      providesTags: ['Places', 'Jobs'],
    }),
    changeDrive: build.mutation({
      query: ({ drive, ...body }: DriveChange & { drive: string }) => ({
        url: `drive-bay/drives/${encodeURIComponent(drive)}`,
        method: 'PATCH',
        body,
      }),
      responseSchema: driveBaySchema,
      invalidatesTags: ['Places', 'Project'],
      // The answer is the bay as it is now, so that a switch does not jump back until it is asked for again.
      onQueryStarted: async (_, { dispatch, queryFulfilled }) => {
        const done = await queryFulfilled.catch(() => null);
        if (done) dispatch(storage.util.updateQueryData('driveBay', undefined, () => done.data));
      },
    }),
    askShelf: build.mutation({
      query: (body: { shelf: 'recycle' | 'vault'; path: string }) => ({
        url: 'drive-bay/shelves/ask',
        method: 'POST',
        body,
      }),
      responseSchema: jobSchema,
      invalidatesTags: ['Jobs', 'Places'],
    }),
  }),
});

import { z } from 'zod';
import type { DroppedFile, Form, MatchRules, RuleSet } from '@legame/core/match';
import type { Interpretation } from '@legame/core/model';
import {
  actSchema,
  putBackAnswerSchema,
  benchSchema,
  causePreviewSchema,
  causesSchema,
  comparedPicturesSchema,
  lookSchema,
  comparedStatesSchema,
  droppedAnswerSchema,
  folderPreviewSchema,
  historyChangeSchema,
  historySchema,
  jobSchema,
  linkPreviewSchema,
  memberSchema,
  renditionsSchema,
  ruleSetsSchema,
  weighedClipsSchema,
  type BenchRow,
} from '@legame/core/contract';
import { api, type ActMeant } from './legame.ts';
import { listSince } from './since.ts';

type Folders = { projectId: string; from: string; to: string; clipIds?: readonly string[] | undefined };
type Forms = { projectId: string; form: Form; clipIds?: readonly string[] | undefined };
const post = (projectId: string, path: string, body: object = {}) => ({
  url: `projects/${projectId}/${path}`,
  method: 'POST',
  body,
});

/** What leads to a change of links, and the changes: causes, rules, timecode, folders, forms, pins, history. */
export const acts = api.injectEndpoints({
  endpoints: (build) => ({
    causes: build.query({
      query: (projectId: string) => `projects/${projectId}/causes`,
      responseSchema: causesSchema,
      providesTags: ['Project', 'Places'],
    }),
    causePreview: build.query({
      query: ({ projectId, key }: { projectId: string; key: string }) => `projects/${projectId}/causes/${key}`,
      responseSchema: causePreviewSchema,
      providesTags: ['Project', 'Places'],
    }),
    comparePictures: build.query({
      query: ({ one, other }: { one: string; other: string }) => `media/${one}/compare/${other}`,
      responseSchema: comparedPicturesSchema,
    }),
    look: build.query({
      query: ({ clipId, mediaFileId }: { clipId: string; mediaFileId: string }) =>
        `clips/${clipId}/look/${mediaFileId}`,
      responseSchema: lookSchema,
      providesTags: ['Project'],
    }),
    linkPreview: build.query({
      query: ({ projectId, ...body }: { projectId: string; clipIds: readonly string[]; onlyCertain: boolean }) =>
        post(projectId, 'links/preview', body),
      responseSchema: linkPreviewSchema,
      providesTags: ['Project', 'Places'],
    }),
    lookAtDropped: build.mutation({
      query: ({ projectId, ...body }: { projectId: string; files: readonly DroppedFile[]; clipId?: string }) =>
        post(projectId, 'dropped', body),
      responseSchema: droppedAnswerSchema,
    }),
    mend: build.mutation({
      query: ({
        projectId,
        key,
        ...how
      }: {
        projectId: string;
        key: string;
        alternative?: string;
        except?: string[];
      }) => post(projectId, `causes/${key}/mend`, how),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    pin: build.mutation({
      query: ({ projectId, ...body }: { projectId: string; clipIds: readonly string[]; pinned: boolean }) =>
        post(projectId, 'pins', body),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    bench: build.query<readonly BenchRow[], string>({
      queryFn: listSince(
        (projectId) => `projects/${projectId}/timecode`,
        benchSchema,
        (row) => row.clipId,
      ),
      // Rows that did not change are the same already.
      structuralSharing: false,
      providesTags: ['Project'],
    }),
    interpret: build.mutation({
      query: ({
        projectId,
        clips,
      }: {
        projectId: string;
        clips: readonly { clipId: string; interpretation: Interpretation | null }[];
      }) => post(projectId, 'timecode', { clips }),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    folderPreview: build.query({
      query: ({ projectId, ...body }: Folders) => post(projectId, 'folders/preview', body),
      responseSchema: folderPreviewSchema,
      providesTags: ['Project'],
    }),
    changeFolder: build.mutation({
      query: ({ projectId, ...body }: Folders) => post(projectId, 'folders', body),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    forms: build.query({
      query: (projectId: string) => `projects/${projectId}/forms`,
      responseSchema: renditionsSchema,
      providesTags: ['Project', 'Places'],
    }),
    formPreview: build.query({
      query: ({ projectId, ...body }: Forms) => post(projectId, 'forms/preview', body),
      responseSchema: z.array(memberSchema),
      providesTags: ['Project'],
    }),
    switchForm: build.mutation({
      query: ({ projectId, ...body }: Forms) => post(projectId, 'forms', body),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    putBack: build.mutation({
      query: ({ projectId, clipIds }: { projectId: string; clipIds: readonly string[] }) =>
        post(projectId, 'put-back', { clipIds }),
      responseSchema: putBackAnswerSchema,
      invalidatesTags: ['Jobs'],
    }),
    redo: build.mutation({
      query: ({ projectId, act }: ActMeant) => post(projectId, 'redo', { act }),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    history: build.query({
      query: (projectId: string) => `projects/${projectId}/history`,
      responseSchema: historySchema,
      providesTags: ['Project'],
    }),
    historyChanges: build.query({
      query: ({ projectId, id }: { projectId: string; id: number }) => `projects/${projectId}/history/${id}`,
      responseSchema: z.array(historyChangeSchema),
    }),
    setCheckpoint: build.mutation({
      query: ({ projectId, name }: { projectId: string; name: string }) => post(projectId, 'checkpoints', { name }),
      responseSchema: historySchema,
      invalidatesTags: ['Project'],
    }),
    compareCheckpoints: build.query({
      query: ({ projectId, id, with: other }: { projectId: string; id: number; with: number | null }) => ({
        url: `projects/${projectId}/checkpoints/${id}/compare`,
        params: other === null ? {} : { with: other },
      }),
      responseSchema: comparedStatesSchema,
      providesTags: ['Project'],
    }),
    returnTo: build.mutation({
      query: ({ projectId, id }: { projectId: string; id: number }) => post(projectId, `checkpoints/${id}/return`),
      responseSchema: actSchema,
      invalidatesTags: ['Project'],
    }),
    ruleSets: build.query({
      query: (projectId: string) => `projects/${projectId}/rule-sets`,
      responseSchema: ruleSetsSchema,
      providesTags: ['Project'],
    }),
    keepRuleSets: build.mutation({
      query: ({ projectId, sets }: { projectId: string; sets: readonly RuleSet[] }) => ({
        url: `projects/${projectId}/rule-sets`,
        method: 'PUT',
        body: sets,
      }),
      responseSchema: ruleSetsSchema,
      invalidatesTags: ['Project'],
    }),
    setRules: build.mutation({
      query: ({ projectId, rules }: { projectId: string; rules: MatchRules }) => ({
        url: `projects/${projectId}/rules`,
        method: 'PUT',
        body: rules,
      }),
      responseSchema: jobSchema,
      invalidatesTags: ['Project', 'Jobs'],
    }),
    weighed: build.query({
      query: (projectId: string) => `projects/${projectId}/weighed`,
      responseSchema: weighedClipsSchema,
      providesTags: ['Project'],
    }),
  }),
});

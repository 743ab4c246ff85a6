import {
  clipBlockQuerySchema,
  clipBlockSchema,
  clipRowSchema,
  clipsSinceQuerySchema,
  cutRecordingSchema,
  cutSchema,
  recordingsAskedSchema,
  darknessSchema,
  deletedProjectSchema,
  jobSchema,
  newProjectSchema,
  projectIdSchema,
  projectSchema,
  projectSummarySchema,
  usesSchema,
} from '@legame/core/contract';
import { z } from 'zod';
import { viewCut, viewDarkness, viewRecordings } from '../../clips/cutViews.ts';
import { listUses } from '../../clips/useViews.ts';
import { clipBlockJson, clipsSinceJson, listClipRows } from '../../clips/views.ts';
import { asJson, route } from '../route.ts';
import { createProject, deleteProject, matchAnew, restoreProject } from '../../projects/change.ts';
import { listDeleted, listProjects, summarize } from '../../projects/views.ts';

const params = z.object({ projectId: projectIdSchema });

export const projectRoutes = [
  route({
    method: 'get',
    path: '/projects',
    summary: 'All projects',
    answer: z.array(projectSchema),
    handle: (_, { db }) => listProjects({ db }),
  }),
  route({
    method: 'post',
    path: '/projects',
    summary: 'Create a project',
    body: newProjectSchema,
    answer: projectSchema,
    status: 201,
    handle: ({ body }, { db }) => createProject({ db }, body.name),
  }),
  route({
    method: 'get',
    path: '/projects/deleted',
    summary: 'Deleted projects that can still be brought back',
    answer: z.array(deletedProjectSchema),
    handle: (_, { db }) => listDeleted({ db }),
  }),
  route({
    method: 'post',
    path: '/projects/deleted/:id/restore',
    summary: 'Bring a deleted project back',
    params: z.object({ id: projectIdSchema }),
    answer: projectSchema,
    handle: ({ params: p }, { db }) => restoreProject({ db }, p.id),
  }),
  route({
    method: 'delete',
    path: '/projects/:projectId',
    summary: 'Delete a project; it can be brought back for a week',
    params,
    handle: ({ params: p }, { db }) => deleteProject({ db }, p.projectId),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId',
    summary: 'A project with its counts by status',
    params,
    answer: projectSummarySchema,
    handle: ({ params: p }, { db }) => summarize({ db }, p.projectId),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/clips',
    summary: 'All clips with status, reason, and the evidence in short',
    params,
    answer: z.array(clipRowSchema),
    handle: ({ params: p }, { db }) => listClipRows({ db }, p.projectId),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/clips/block',
    summary: 'So many clips of the list from a position on, and what to ask by for what changes later',
    params,
    query: clipBlockQuerySchema,
    answer: clipBlockSchema,
    handle: async ({ params: p, query }, { db }) =>
      asJson(await clipBlockJson({ db }, p.projectId, query.from, query.limit)),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/clips/since',
    summary: 'The clips of the list that are others than somebody knows',
    params,
    query: clipsSinceQuerySchema,
    answer: clipBlockSchema,
    handle: async ({ params: p, query }, { db }) => asJson(await clipsSinceJson({ db }, p.projectId, query)),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/uses',
    summary: 'Every showing of every clip, with its coverage and its first frame in the file',
    params,
    answer: usesSchema,
    handle: ({ params: p }, { db }) => listUses({ db }, p.projectId),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/cut',
    summary: 'The timelines with every event',
    params,
    answer: cutSchema,
    handle: ({ params: p }, { db }) => viewCut({ db }, p.projectId),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/cut/recordings',
    summary: 'The recordings under these clips, and which stretch of each every showing reads',
    params,
    body: recordingsAskedSchema,
    answer: z.array(cutRecordingSchema).readonly(),
    handle: ({ params: p, body }, { db }) => viewRecordings({ db }, p.projectId, body.clips),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/darkness',
    summary: 'How much of each timeline is dark',
    params,
    answer: darknessSchema,
    handle: ({ params: p }, { db }) => viewDarkness({ db }, p.projectId),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/match',
    summary: 'Match all clips anew, as a job; links nothing',
    params,
    answer: jobSchema,
    status: 202,
    handle: ({ params: p }, { db }) => matchAnew({ db }, p.projectId),
  }),
];

import { z } from 'zod';
import {
  clipRowSchema,
  cutSchema,
  jobSchema,
  newProjectSchema,
  projectIdSchema,
  projectSchema,
  projectSummarySchema,
  usesSchema,
} from '@legame/core/contract';
import { listUses } from '../../actions/clipDetail.ts';
import { listClipRows, summarize, viewCut } from '../../actions/clipViews.ts';
import { startMatch } from '../../actions/matchProject.ts';
import { tell } from '../../actions/tell.ts';
import { projectStore, type ProjectRecord } from '../../stores/projects.ts';
import { route } from '../route.ts';

const params = z.object({ projectId: projectIdSchema });
const view = (p: ProjectRecord) => ({ id: p.id, name: p.name, createdAt: p.createdAt.toISOString() });

export const projectRoutes = [
  route({
    method: 'get',
    path: '/projects',
    summary: 'All projects',
    answer: z.array(projectSchema),
    handle: async (_, { db }) => (await projectStore.listProjects(db)).map(view),
  }),
  route({
    method: 'post',
    path: '/projects',
    summary: 'Create a project',
    body: newProjectSchema,
    answer: projectSchema,
    status: 201,
    handle: async ({ body }, { db }) => {
      const project = await projectStore.createProject(db, body.name);
      await tell(db, 'project', project.id);
      return view(project);
    },
  }),
  route({
    method: 'get',
    path: '/projects/:projectId',
    summary: 'A project with its counts by status',
    params,
    answer: projectSummarySchema,
    handle: ({ params: p }, { db }) => summarize(db, p.projectId),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/clips',
    summary: 'All clips with status, reason, and the evidence in short',
    params,
    answer: z.array(clipRowSchema),
    handle: ({ params: p }, { db }) => listClipRows(db, p.projectId),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/uses',
    summary: 'Every showing of every clip, with its coverage and its first frame in the file',
    params,
    answer: usesSchema,
    handle: ({ params: p }, { db }) => listUses(db, p.projectId),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/cut',
    summary: 'The timelines with every event, and how much of each is dark',
    params,
    answer: cutSchema,
    handle: ({ params: p }, { db }) => viewCut(db, p.projectId),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/match',
    summary: 'Match all clips anew, as a job; links nothing',
    params,
    answer: jobSchema,
    status: 202,
    handle: async ({ params: p }, { db }) => {
      const project = await projectStore.getProject(db, p.projectId);
      return startMatch(db, project.id, project.name);
    },
  }),
];

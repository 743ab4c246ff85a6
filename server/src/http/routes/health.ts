import { z } from 'zod';
import {
  acceptFindingsSchema,
  actSchema,
  bringHomeSchema,
  bringingHomeSchema,
  healthClipsQuerySchema,
  healthClipsSchema,
  healthSchema,
  homeRequestSchema,
  jobSchema,
  projectIdSchema,
} from '@legame/core/contract';
import { acceptFindings, keepHealth, setHome } from '../../health/accept.ts';
import { previewBringingHome, startBringingHome } from '../../health/bringHome.ts';
import { listHealthClips, viewHealth } from '../../health/views.ts';
import { route } from '../route.ts';

const params = z.object({ projectId: projectIdSchema });

export const healthRoutes = [
  route({
    method: 'get',
    path: '/projects/:projectId/health',
    summary: 'What may go wrong with a project’s media later',
    params,
    answer: healthSchema,
    handle: ({ params: p }, { db }) => viewHealth({ db }, p.projectId),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/health/clips',
    summary: 'The clips that a check found something of which nobody accepted',
    params,
    query: healthClipsQuerySchema,
    answer: healthClipsSchema,
    handle: ({ params: p, query }, { db }) => listHealthClips({ db }, p.projectId, query.check),
  }),
  route({
    method: 'put',
    path: '/projects/:projectId/home',
    summary: 'Say where a project’s media should lie',
    params,
    body: homeRequestSchema,
    answer: actSchema,
    handle: ({ params: p, body }, context) => setHome(context, p.projectId, body.home),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/health/accept',
    summary: 'Accept what a check found, or take that back',
    params,
    body: acceptFindingsSchema,
    answer: actSchema,
    handle: ({ params: p, body }, context) => acceptFindings(context, p.projectId, body),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/health/keep',
    summary: 'Keep what is found now, to tell later what is new',
    params,
    answer: healthSchema,
    handle: ({ params: p }, context) => keepHealth(context, p.projectId),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/health/home',
    summary: 'What bringing home would copy, and where to; nothing is written',
    params,
    query: bringHomeSchema,
    answer: bringingHomeSchema,
    handle: ({ params: p, query }, context) => previewBringingHome(context, p.projectId, query.check),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/health/home',
    summary: 'Copy files home, proven, and move their links to the copies',
    params,
    body: bringHomeSchema,
    answer: jobSchema,
    status: 202,
    handle: ({ params: p, body }, context) => startBringingHome(context, p.projectId, body.check),
  }),
];

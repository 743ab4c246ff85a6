import { z } from 'zod';
import {
  newProjectSchema,
  newSetCheckSchema,
  projectSchema,
  setCheckSchema,
  setFilesQuerySchema,
  setFilesSchema,
} from '@legame/core/contract';
import { goOn, removeCheck, startCheck } from '../../sets/check.ts';
import { openSet } from '../../sets/open.ts';
import { listChecks, pageOfFiles, viewCheck } from '../../sets/views.ts';
import { route } from '../route.ts';

const params = z.object({ checkId: z.uuid() });

export const setRoutes = [
  route({
    method: 'get',
    path: '/set-checks',
    summary: 'Received sets that were checked, newest first',
    answer: z.array(setCheckSchema),
    handle: (_, context) => listChecks(context),
  }),
  route({
    method: 'post',
    path: '/set-checks',
    summary: 'Hold a received set against its hash lists; nothing of it is changed unless a generation is asked for',
    body: newSetCheckSchema,
    answer: setCheckSchema,
    status: 201,
    handle: ({ body }, context) => startCheck(context, body),
  }),
  route({
    method: 'get',
    path: '/set-checks/:checkId',
    summary: 'A check with how many files are verified, changed, missing, new…',
    params,
    answer: setCheckSchema,
    handle: ({ params: p }, context) => viewCheck(context, p.checkId),
  }),
  route({
    method: 'get',
    path: '/set-checks/:checkId/files',
    summary: 'Its files, what is wrong first; `next` is the `after` of the next page',
    params,
    query: setFilesQuerySchema,
    answer: setFilesSchema,
    handle: ({ params: p, query }, context) => pageOfFiles(context, p.checkId, query),
  }),
  route({
    method: 'post',
    path: '/set-checks/:checkId/run',
    summary: 'Go on with a check that was stopped or failed, where it was',
    params,
    answer: setCheckSchema,
    status: 202,
    handle: ({ params: p }, context) => goOn(context, p.checkId),
  }),
  route({
    method: 'post',
    path: '/set-checks/:checkId/open',
    summary: 'Open the set: its timelines as a new project, its folder as a place, its media linked',
    params,
    body: newProjectSchema.partial(),
    answer: projectSchema,
    status: 201,
    handle: ({ params: p, body }, context) => openSet(context, p.checkId, body.name),
  }),
  route({
    method: 'delete',
    path: '/set-checks/:checkId',
    summary: 'Forget a check; the set stays as it is',
    params,
    answer: z.object({ forgotten: z.literal(true) }),
    handle: ({ params: p }, context) => removeCheck(context, p.checkId),
  }),
];

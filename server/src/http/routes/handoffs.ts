import { z } from 'zod';
import {
  handoffDraftSchema,
  handoffIdSchema,
  handoffPreviewSchema,
  handoffSchema,
  newHandoffSchema,
  projectIdSchema,
} from '@legame/core/contract';
import { cancelHandoff, planHandoff, previewHandoff, runHandoffSoon } from '../../handoffs/plan.ts';
import { getHandoff, viewHandoffs } from '../../handoffs/views.ts';
import { route, untilLeft } from '../route.ts';

const inProject = z.object({ projectId: projectIdSchema });
const params = z.object({ handoffId: handoffIdSchema });

export const handoffRoutes = [
  route({
    method: 'get',
    path: '/projects/:projectId/handoffs',
    summary: 'Handoffs of a project, newest first',
    params: inProject,
    answer: z.array(handoffSchema),
    handle: ({ params: p }, context) => viewHandoffs(context, p.projectId),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/handoffs',
    summary: 'Plan a handoff; nothing is copied yet',
    params: inProject,
    body: newHandoffSchema,
    answer: handoffSchema,
    status: 201,
    handle: async ({ params: p, body }, context) => getHandoff(context, await planHandoff(context, p.projectId, body)),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/handoffs/preview',
    summary: 'What a handoff would take where, worked out and not kept',
    params: inProject,
    body: handoffDraftSchema,
    answer: handoffPreviewSchema,
    handle: ({ params: p, body }, context, response) => previewHandoff(context, p.projectId, body, untilLeft(response)),
  }),
  route({
    method: 'get',
    path: '/handoffs/:handoffId',
    summary: 'A handoff with the state of every file',
    params,
    answer: handoffSchema,
    handle: ({ params: p }, context) => getHandoff(context, p.handoffId),
  }),
  route({
    method: 'post',
    path: '/handoffs/:handoffId/run',
    summary: 'Run a planned handoff, or go on with one that stopped',
    params,
    answer: handoffSchema,
    status: 202,
    handle: async ({ params: p }, context) => {
      await runHandoffSoon(context, p.handoffId);
      return getHandoff(context, p.handoffId);
    },
  }),
  route({
    method: 'post',
    path: '/handoffs/:handoffId/cancel',
    summary: 'Stop a running handoff; what is verified stays',
    params,
    answer: handoffSchema,
    status: 202,
    handle: async ({ params: p }, context) => {
      await cancelHandoff(context, p.handoffId);
      return getHandoff(context, p.handoffId);
    },
  }),
];

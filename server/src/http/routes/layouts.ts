import { z } from 'zod';
import {
  layoutRequestSchema,
  layoutsQuerySchema,
  layoutsSchema,
  projectIdSchema,
  removeLayoutSchema,
} from '@legame/core/contract';
import { dropLayout, keepLayout, listLayouts } from '../../layouts/keep.ts';
import { route } from '../route.ts';

const params = z.object({ projectId: projectIdSchema });

export const layoutRoutes = [
  route({
    method: 'get',
    path: '/projects/:projectId/layouts',
    summary: 'How a table’s columns were arranged and kept, for this project and for all',
    params,
    query: layoutsQuerySchema,
    answer: layoutsSchema,
    handle: ({ params: p, query }, { db }) => listLayouts({ db }, { ...p, ...query }),
  }),
  route({
    method: 'put',
    path: '/projects/:projectId/layouts',
    summary: 'Keep an arrangement of columns under a name',
    params,
    body: layoutRequestSchema,
    answer: layoutsSchema,
    handle: ({ params: p, body: { table, ...layout } }, context) => keepLayout(context, { ...p, table }, layout),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/layouts/remove',
    summary: 'Forget an arrangement',
    params,
    body: removeLayoutSchema,
    answer: layoutsSchema,
    handle: ({ params: p, body: { table, ...layout } }, context) => dropLayout(context, { ...p, table }, layout),
  }),
];

import { z } from 'zod';
import {
  actSchema,
  markPullsSchema,
  projectIdSchema,
  pullDeskQuerySchema,
  pullDeskSchema,
  pullQuerySchema,
  pullRowSchema,
} from '@legame/core/contract';
import { markPulls } from '../../pulls/mark.ts';
import { pullCsv, pullEdl, pullRows, viewPullDesk } from '../../pulls/views.ts';
import { route } from '../route.ts';

const params = z.object({ projectId: projectIdSchema });

/** What has to be fetched, as lists for whoever holds it, and as a desk where it is said what came of that. */
export const pullRoutes = [
  route({
    method: 'get',
    path: '/projects/:projectId/pulls',
    summary: 'What is to be fetched, with what was asked for and what came of it',
    params,
    query: pullDeskQuerySchema,
    answer: pullDeskSchema,
    handle: ({ params: p, query }, context) => viewPullDesk(context, p.projectId, query),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/pulls/mark',
    summary: 'Say of sources that they were asked for, are here or cannot be had',
    params,
    body: markPullsSchema,
    answer: actSchema,
    handle: ({ params: p, body }, context) => markPulls(context, p.projectId, body),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/pull-list',
    summary: 'What has to be fetched, by reel, ranges united with handles',
    params,
    query: pullQuerySchema,
    answer: z.array(pullRowSchema),
    handle: async ({ params: p, query }, context) => pullRows(context, p.projectId, query),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/pull-list.csv',
    summary: 'The pull list as CSV',
    params,
    query: pullQuerySchema,
    answerType: 'text/csv',
    handle: async ({ params: p, query }, context, response) => {
      response
        .attachment('pull-list.csv')
        .type('text/csv')
        .send(await pullCsv(context, p.projectId, query));
    },
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/pull-list.edl',
    summary: 'The pull list as an EDL, laid end to end',
    params,
    query: pullQuerySchema,
    answerType: 'text/plain',
    handle: async ({ params: p, query }, context, response) => {
      response
        .attachment('pull-list.edl')
        .type('text/plain')
        .send(await pullEdl(context, p.projectId, query));
    },
  }),
];

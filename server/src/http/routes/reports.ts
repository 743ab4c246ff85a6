import { z } from 'zod';
import { projectIdSchema, projectSchema } from '@legame/core/contract';
import { openProjectApart } from '../../documents/apart.ts';
import { exportProject } from '../../projects/package.ts';
import { usedMediaCsv } from '../../reports/views.ts';
import { getProject } from '../../projects/views.ts';
import { route } from '../route.ts';

const params = z.object({ projectId: projectIdSchema });

/** What leaves a project besides its documents: lists for people and machines, and the project itself. */
export const reportRoutes = [
  route({
    method: 'get',
    path: '/projects/:projectId/used-media.csv',
    summary: 'The media that the timelines use, as CSV',
    params,
    answerType: 'text/csv',
    handle: async ({ params: p }, context, response) => {
      response
        .attachment('used-media.csv')
        .type('text/csv')
        .send(await usedMediaCsv(context, p.projectId));
    },
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/export',
    summary: 'The whole project as one OTIO collection',
    params,
    answerType: 'application/octet-stream',
    handle: async ({ params: p }, context, response) => {
      const { name, content } = await exportProject(context, p.projectId);
      response.attachment(name).type('application/octet-stream').send(Buffer.from(content));
    },
  }),
  route({
    method: 'post',
    path: '/projects/import',
    summary: 'Make a project of an exported one: its bytes as the body',
    query: z.object({ name: z.string().min(1).max(500) }),
    takesBytes: true,
    answer: projectSchema,
    status: 201,
    handle: async ({ query, bytes }, context) => {
      const id = await openProjectApart(context, bytes, query.name);
      return getProject(context, id);
    },
  }),
];

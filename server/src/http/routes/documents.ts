import { z } from 'zod';
import { bringInQuerySchema, documentIdSchema, documentSchema, projectIdSchema } from '@legame/core/contract';
import { bringIn, listDocuments, takeOut } from '../../actions/bringIn.ts';
import { exportDocument } from '../../actions/references.ts';
import { route } from '../route.ts';

const inProject = z.object({ projectId: projectIdSchema });
const params = z.object({ documentId: documentIdSchema });

export const documentRoutes = [
  route({
    method: 'get',
    path: '/projects/:projectId/documents',
    summary: 'What was brought in, with remarks',
    params: inProject,
    answer: z.array(documentSchema),
    handle: ({ params: p }, context) => listDocuments(context, p.projectId),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/documents',
    summary: 'Bring in an EDL or OTIO document: its bytes as the body',
    params: inProject,
    query: bringInQuerySchema,
    takesBytes: true,
    answer: documentSchema,
    status: 201,
    handle: async ({ params: p, query, bytes }, context) => {
      const id = await bringIn(context, p.projectId, { name: query.name, bytes, rate: query.rate });
      return (await listDocuments(context, p.projectId)).find((d) => d.id === id)!;
    },
  }),
  route({
    method: 'delete',
    path: '/documents/:documentId',
    summary: 'Take a document with its clips out of the project',
    params,
    handle: ({ params: p }, context) => takeOut(context, p.documentId),
  }),
  route({
    method: 'get',
    path: '/documents/:documentId/export',
    summary: 'The document with only its media references changed',
    params,
    answerType: 'application/octet-stream',
    handle: async ({ params: p }, { db }, response) => {
      const { name, content } = await exportDocument(db, p.documentId);
      response.attachment(name).type('application/octet-stream').send(Buffer.from(content));
    },
  }),
];

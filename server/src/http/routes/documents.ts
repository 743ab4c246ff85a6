import {
  bringInFromPlaceSchema,
  bringInQuerySchema,
  comparisonSchema,
  documentIdSchema,
  documentSchema,
  exportQuerySchema,
  jobSchema,
  logMappingQuerySchema,
  logMappingSchema,
  passOverSchema,
  placeDocumentsSchema,
  placeIdSchema,
  projectIdSchema,
  readAgainSchema,
  unpackRequestSchema,
  watchedSchema,
  watchRequestSchema,
  wouldChangeQuerySchema,
  wouldChangeSchema,
} from '@legame/core/contract';
import { z } from 'zod';
import { bringInApart, readAgainApart } from '../../documents/apart.ts';
import { takeOut } from '../../documents/bringIn.ts';
import { bringInFromPlace } from '../../documents/bringInFromPlace.ts';
import { exportDocument } from '../../documents/relinked.ts';
import { startUnpacking } from '../../documents/unpackBundle.ts';
import {
  compareWithFormer,
  getDocument,
  knownRoles,
  listDocuments,
  listPlaceDocuments,
} from '../../documents/views.ts';
import { compareWatched, lookAtWatched, passOver, watchFolder } from '../../documents/watched.ts';
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
    summary: 'Bring in an EDL, OTIO document, bundle or shot log: its bytes as the body',
    params: inProject,
    query: bringInQuerySchema,
    takesBytes: true,
    answer: documentSchema,
    status: 201,
    handle: async ({ params: p, query, bytes }, context) => {
      const { name, reading = {}, replaces, mediaInside, beside } = query;
      const id = await bringInApart(context, p.projectId, {
        name,
        bytes,
        reading,
        replaces,
        beside: beside === 'true',
        ...(mediaInside ? { mediaInside } : {}),
      });
      return getDocument(context, id);
    },
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/documents/from-place',
    summary: 'Bring in a document or bundle that lies in a place',
    params: inProject,
    body: bringInFromPlaceSchema,
    answer: documentSchema,
    status: 201,
    handle: async ({ params: p, body }, context) =>
      getDocument(context, await bringInFromPlace(context, p.projectId, body)),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/watched',
    summary: 'The folder in which newer versions are looked for, and what of it is newer',
    params: inProject,
    answer: watchedSchema,
    handle: ({ params: p }, context) => lookAtWatched(context, p.projectId),
  }),
  route({
    method: 'put',
    path: '/projects/:projectId/watched',
    summary: 'Say in which folder newer versions are looked for',
    params: inProject,
    body: watchRequestSchema,
    answer: watchedSchema,
    handle: ({ params: p, body }, context) => watchFolder(context, p.projectId, body.folder),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/watched/pass-over',
    summary: 'A document of the watched folder is not wanted: these bytes are not told of again',
    params: inProject,
    body: passOverSchema,
    answer: watchedSchema,
    handle: ({ params: p, body }, context) => passOver(context, p.projectId, body.path),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/watched/changes',
    summary: 'What bringing in a document of the watched folder would change; nothing is kept',
    params: inProject,
    query: wouldChangeQuerySchema,
    answer: wouldChangeSchema,
    handle: ({ params: p, query }, context) => compareWatched(context, p.projectId, query),
  }),
  route({
    method: 'get',
    path: '/places/:placeId/documents',
    summary: 'What one folder of a place holds that could be brought in',
    params: z.object({ placeId: placeIdSchema }),
    query: z.object({ folder: z.string().max(4096).default('') }),
    answer: placeDocumentsSchema,
    handle: ({ params: p, query }, context) => listPlaceDocuments(context, p.placeId, query.folder),
  }),
  route({
    method: 'post',
    path: '/bundles/unpack',
    summary: 'Unpack a zipped bundle of a place into a new bundle folder, as a job',
    body: unpackRequestSchema,
    answer: jobSchema,
    status: 202,
    handle: ({ body }, context) => startUnpacking(context, body),
  }),
  route({
    method: 'get',
    path: '/log-mapping',
    summary: 'What the columns of a log with these headers last meant',
    query: logMappingQuerySchema,
    answer: logMappingSchema,
    handle: async ({ query }, { db }) => ({ roles: await knownRoles(db, query.headers) }),
  }),
  route({
    method: 'put',
    path: '/documents/:documentId/reading',
    summary: 'Read a document again by other decisions; links and decisions are kept',
    params,
    body: readAgainSchema,
    answer: documentSchema,
    handle: async ({ params: p, body }, context) => {
      await readAgainApart(context, await getDocument(context, p.documentId), body);
      return getDocument(context, p.documentId);
    },
  }),
  route({
    method: 'get',
    path: '/documents/:documentId/comparison',
    summary: 'What changed since the version that this one replaced',
    params,
    answer: comparisonSchema,
    handle: ({ params: p }, context) => compareWithFormer(context, p.documentId),
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
    summary: 'The document with only its media references changed, or written in another format',
    params,
    query: exportQuerySchema,
    answerType: 'application/octet-stream',
    handle: async ({ params: p, query }, { db }, response) => {
      const { name, content, relinked, reencoded } = await exportDocument({ db }, p.documentId, query);
      // What the file itself cannot say: how many clips were relinked, and that its encoding had to change.
      response.set({ 'Legame-Relinked': String(relinked), 'Legame-Reencoded': String(reencoded) });
      response.attachment(name).type('application/octet-stream').send(Buffer.from(content));
    },
  }),
];

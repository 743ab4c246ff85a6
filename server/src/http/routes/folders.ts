import { z } from 'zod';
import {
  actSchema,
  foldersAtSchema,
  foldersSchema,
  folderTemplateRequestSchema,
  keptPatternSchema,
  makeFoldersSchema,
  projectIdSchema,
} from '@legame/core/contract';
import { keepNamePattern, makeFolders, setFolders } from '../../folders/template.ts';
import { viewFolders, viewFoldersAt } from '../../folders/views.ts';
import { route } from '../route.ts';

const params = z.object({ projectId: projectIdSchema });

export const folderRoutes = [
  route({
    method: 'get',
    path: '/projects/:projectId/folder-template',
    summary: 'The folders of a project, and what goes where',
    params,
    answer: foldersSchema,
    handle: ({ params: p }, { db }) => viewFolders({ db }, p.projectId),
  }),
  route({
    method: 'put',
    path: '/projects/:projectId/folder-template',
    summary: 'Say which folders a project has',
    params,
    body: folderTemplateRequestSchema,
    answer: actSchema,
    handle: ({ params: p, body }, context) => setFolders(context, p.projectId, body.template),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/folder-template/at',
    summary: 'What lies where the folders of a project would be made',
    params,
    query: makeFoldersSchema,
    answer: foldersAtSchema,
    handle: ({ params: p, query }, { db }) => viewFoldersAt({ db }, p.projectId, query),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/folder-template/make',
    summary: 'Make the folders of a project in a place; answers what was there before',
    params,
    body: makeFoldersSchema,
    answer: foldersAtSchema,
    handle: ({ params: p, body }, context) => makeFolders(context, p.projectId, body),
  }),
  route({
    method: 'put',
    path: '/projects/:projectId/name-pattern',
    summary: 'Keep how files of a project are named',
    params,
    body: keptPatternSchema,
    handle: ({ params: p, body }, context) => keepNamePattern(context, p.projectId, body.pattern),
  }),
];

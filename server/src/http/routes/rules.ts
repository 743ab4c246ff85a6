import { z } from 'zod';
import {
  jobSchema,
  projectIdSchema,
  ruleSetsRequestSchema,
  ruleSetsSchema,
  rulesRequestSchema,
  weighedClipsSchema,
} from '@legame/core/contract';
import { keepRuleSets } from '../../matching/rules.ts';
import { listRuleSets, weighedClips } from '../../matching/views.ts';
import { setRules } from '../../projects/change.ts';
import { route } from '../route.ts';

const params = z.object({ projectId: projectIdSchema });

export const ruleRoutes = [
  route({
    method: 'put',
    path: '/projects/:projectId/rules',
    summary: 'Set the match rules; clips are matched anew, nothing is linked',
    params,
    body: rulesRequestSchema,
    answer: jobSchema,
    status: 202,
    handle: ({ params: p, body }, { db }) => setRules({ db }, p.projectId, body),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/rule-sets',
    summary: 'Sets of rules by name: those that every project has, then its own',
    params,
    answer: ruleSetsSchema,
    handle: ({ params: p }, context) => listRuleSets(context, p.projectId),
  }),
  route({
    method: 'put',
    path: '/projects/:projectId/rule-sets',
    summary: 'Keep these sets of rules as the project’s own',
    params,
    body: ruleSetsRequestSchema,
    answer: ruleSetsSchema,
    handle: ({ params: p, body }, context) => keepRuleSets(context, p.projectId, body),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/weighed',
    summary: 'All clips with their candidates’ evidence in short, for trying rules',
    params,
    answer: weighedClipsSchema,
    handle: ({ params: p }, context) => weighedClips(context, p.projectId),
  }),
];

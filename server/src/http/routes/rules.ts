import { z } from 'zod';
import {
  jobSchema,
  projectIdSchema,
  ruleSetsRequestSchema,
  ruleSetsSchema,
  rulesRequestSchema,
  weighedClipsSchema,
} from '@legame/core/contract';
import { startMatch } from '../../actions/matchProject.ts';
import { keepRuleSets, listRuleSets, weighedClips } from '../../actions/rules.ts';
import { tell } from '../../actions/tell.ts';
import { projectStore } from '../../stores/projects.ts';
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
    handle: async ({ params: p, body }, { db }) => {
      const project = await projectStore.getProject(db, p.projectId);
      await projectStore.setRules(db, p.projectId, body);
      await tell(db, 'project', p.projectId);
      return startMatch(db, project.id, project.name);
    },
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

import { z } from 'zod';
import {
  peopleSchema,
  personSchema,
  preferencesSchema,
  saidPreferencesSchema,
  settingsSchema,
} from '@legame/core/contract';
import { changePreferences, changeSettings } from '../../settings/change.ts';
import { listPeople, viewPreferences, viewSettings } from '../../settings/views.ts';
import { route } from '../route.ts';

const params = z.object({ person: personSchema });

export const settingRoutes = [
  route({
    method: 'get',
    path: '/settings',
    summary: 'What is so for everybody who uses this Legame',
    answer: settingsSchema,
    handle: (_, { db }) => viewSettings({ db }),
  }),
  route({
    method: 'put',
    path: '/settings',
    summary: 'Say what is so for everybody',
    body: settingsSchema,
    answer: settingsSchema,
    handle: ({ body }, context) => changeSettings(context, body),
  }),
  route({
    method: 'get',
    path: '/people',
    summary: 'The names under which preferences are kept',
    answer: peopleSchema,
    handle: (_, { db }) => listPeople({ db }),
  }),
  route({
    method: 'get',
    path: '/people/:person/preferences',
    summary: 'How somebody likes to work',
    params,
    answer: preferencesSchema,
    handle: ({ params: p }, { db }) => viewPreferences({ db }, p.person),
  }),
  route({
    method: 'put',
    path: '/people/:person/preferences',
    summary: 'Keep how somebody likes to work',
    params,
    body: saidPreferencesSchema,
    answer: preferencesSchema,
    handle: ({ params: p, body }, context) => changePreferences(context, p.person, body),
  }),
];

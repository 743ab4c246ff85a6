import { findQuerySchema, thingsSchema } from '@legame/core/contract';
import { findEverywhere } from '../../find/views.ts';
import { route } from '../route.ts';

export const findRoutes = [
  route({
    method: 'get',
    path: '/find',
    summary: 'Projects, documents, clips, places and files by their names',
    query: findQuerySchema,
    answer: thingsSchema,
    handle: ({ query }, { db }) => findEverywhere({ db }, query),
  }),
];

import { z } from 'zod';
import {
  folderListingSchema,
  jobSchema,
  newPlaceSchema,
  placeChangeSchema,
  placeIdSchema,
  placeSchema,
} from '@legame/core/contract';
import { addPlace, changePlace, forgetPlace, startIndex } from '../../places/change.ts';
import { listFolders, listPlaces } from '../../places/views.ts';
import type { Context } from '../../context.ts';
import type { PlaceId } from '@legame/core/model';
import { route } from '../route.ts';

const params = z.object({ placeId: placeIdSchema });
const onePlace = async (context: Context, id: PlaceId) => (await listPlaces(context)).find((p) => p.id === id)!;

export const placeRoutes = [
  route({
    method: 'get',
    path: '/places',
    summary: 'All places with state, counts and room',
    answer: z.array(placeSchema),
    handle: (_, context) => listPlaces(context),
  }),
  route({
    method: 'post',
    path: '/places',
    summary: 'Add a place by path and begin to index it',
    body: newPlaceSchema,
    answer: placeSchema,
    status: 201,
    handle: async ({ body }, context) => onePlace(context, (await addPlace(context, body)).id),
  }),
  route({
    method: 'patch',
    path: '/places/:placeId',
    summary: 'Change what a person may say of a place: name, other names, what is left out, where it lies now',
    params,
    body: placeChangeSchema,
    answer: placeSchema,
    handle: async ({ params: p, body }, context) => {
      await changePlace(context, p.placeId, body);
      return onePlace(context, p.placeId);
    },
  }),
  route({
    method: 'delete',
    path: '/places/:placeId',
    summary: 'Forget a place; its files are not touched',
    params,
    handle: ({ params: p }, context) => forgetPlace(context, p.placeId),
  }),
  route({
    method: 'post',
    path: '/places/:placeId/index',
    summary: 'Index a place, or one folder of it, as a job',
    params,
    body: z.object({ folder: z.string().max(4096).default('') }),
    answer: jobSchema,
    status: 202,
    handle: ({ params: p, body }, context) => startIndex(context, p.placeId, body.folder),
  }),
  route({
    method: 'get',
    path: '/folders',
    summary: 'Folders to choose from; the allowed roots without a path',
    query: z.object({ path: z.string().max(4096).optional() }),
    answer: folderListingSchema,
    handle: ({ query }, { config }) => listFolders(config, query.path),
  }),
];

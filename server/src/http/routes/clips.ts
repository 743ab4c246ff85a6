import { z } from 'zod';
import {
  actSchema,
  clipDetailSchema,
  clipIdSchema,
  lookSchema,
  comparedPicturesSchema,
  declineRequestSchema,
  mediaFileIdSchema,
  mediaFileSchema,
  placeIdSchema,
  weighedFileSchema,
} from '@legame/core/contract';
import { clipDetail, weighFileFor } from '../../clips/detailViews.ts';
import { listFolder } from '../../places/views.ts';
import { declineCandidate } from '../../links/aside.ts';
import { compareLook, keptPicture } from '../../reading/keptPictures.ts';
import { comparePictures, picture, preview } from '../../reading/pictures.ts';
import { route } from '../route.ts';

const params = z.object({ clipId: clipIdSchema });
const fileParams = z.object({ mediaFileId: mediaFileIdSchema });
const placeParams = z.object({ placeId: placeIdSchema });

export const clipRoutes = [
  route({
    method: 'get',
    path: '/clips/:clipId',
    summary: 'One clip with uses, candidates and evidence',
    params,
    answer: clipDetailSchema,
    handle: ({ params: p }, { db }) => clipDetail({ db }, p.clipId),
  }),
  route({
    method: 'post',
    path: '/clips/:clipId/decline',
    summary: 'Say that a candidate is not the one',
    params,
    body: declineRequestSchema,
    answer: actSchema,
    handle: ({ params: p, body }, context) => declineCandidate(context, p.clipId, body.mediaFileId),
  }),
  route({
    method: 'get',
    path: '/clips/:clipId/weigh/:mediaFileId',
    summary: 'The evidence for any file as this clip’s',
    params: z.object({ clipId: clipIdSchema, mediaFileId: mediaFileIdSchema }),
    answer: weighedFileSchema,
    handle: ({ params: p }, { db }) => weighFileFor({ db }, p.clipId, p.mediaFileId),
  }),
  route({
    method: 'get',
    path: '/clips/:clipId/picture',
    summary: 'The picture that is kept of a clip from the time when it was linked, as JPEG',
    params,
    query: z.object({ v: z.string().max(80).optional() }),
    answerType: 'image/jpeg',
    handle: async ({ params: p }, context, response) => {
      const kept = await keptPicture(context, p.clipId);
      response.type('image/jpeg').set('Cache-Control', 'private, max-age=60').send(kept);
    },
  }),
  route({
    method: 'get',
    path: '/clips/:clipId/look/:mediaFileId',
    summary: 'How a file looks beside the picture that is kept of a clip; evidence for the eye, which links nothing',
    params: z.object({ clipId: clipIdSchema, mediaFileId: mediaFileIdSchema }),
    answer: lookSchema,
    handle: ({ params: p }, context) => compareLook(context, p.clipId, p.mediaFileId),
  }),
  route({
    method: 'get',
    path: '/places/:placeId/files',
    summary: 'Folders and media files in one folder of a place',
    params: placeParams,
    query: z.object({ folder: z.string().max(4096).default('') }),
    answer: z.object({ folder: z.string(), folders: z.array(z.string()), files: z.array(mediaFileSchema) }),
    handle: ({ params: p, query }, { db }) => listFolder({ db }, p.placeId, query.folder),
  }),
  route({
    method: 'get',
    path: '/media/:mediaFileId/picture',
    summary: 'One frame as JPEG, counted from the start of the file',
    params: fileParams,
    query: z.object({
      frame: z.coerce.number().int().nonnegative().max(1e9).default(0),
      width: z.coerce.number().int().min(64).max(960).default(480),
      /** Changes when the file is read anew, so that nobody keeps the picture of before. */
      v: z.string().max(80).optional(),
    }),
    answerType: 'image/jpeg',
    handle: async ({ params: p, query }, context, response) => {
      const jpeg = await picture(context, p.mediaFileId, query.frame, query.width);
      response.type('image/jpeg').set('Cache-Control', 'private, max-age=60').send(jpeg);
    },
  }),
  route({
    method: 'get',
    path: '/media/:mediaFileId/compare/:otherId',
    summary: 'Whether two files show the same picture at the same source timecode',
    params: fileParams.extend({ otherId: mediaFileIdSchema }),
    answer: comparedPicturesSchema,
    handle: ({ params: p }, context) => comparePictures(context, p.mediaFileId, p.otherId),
  }),
  route({
    method: 'get',
    path: '/media/:mediaFileId/preview',
    summary: 'A short piece of a file that a browser plays',
    params: fileParams,
    query: z.object({
      from: z.coerce.number().int().nonnegative().max(1e9).default(0),
      frames: z.coerce.number().int().positive().max(100_000).default(250),
      v: z.string().max(80).optional(),
    }),
    answerType: 'video/webm',
    handle: async ({ params: p, query }, context, response) => {
      const path = await preview(context, p.mediaFileId, query);
      response.set('Cache-Control', 'private, max-age=60');
      await new Promise<void>((resolve, reject) =>
        response.sendFile(path, { dotfiles: 'allow' }, (error) => (error ? reject(error) : resolve())),
      );
    },
  }),
];

import {
  acceptanceSchema,
  acceptedCopySchema,
  actSchema,
  archiveSchema,
  clearAnswerSchema,
  clearedSchema,
  clearRequestSchema,
  driveBaySchema,
  driveChangeSchema,
  jobSchema,
  mediaFileIdSchema,
  namingPreviewSchema,
  namingRequestSchema,
  newTrialSchema,
  openingSchema,
  placeIdSchema,
  projectAcceptanceSchema,
  projectIdSchema,
  readLogQuerySchema,
  recordingSchema,
  renameRequestSchema,
  rereadSchema,
  roomByPlaceSchema,
  roomMapSchema,
  shelfRequestSchema,
  trialSchema,
  troubleSchema,
} from '@legame/core/contract';
import { z } from 'zod';
import { setAcceptance } from '../../acceptance/accept.ts';
import { startAcceptedCopy } from '../../acceptance/acceptedCopy.ts';
import { viewAcceptance } from '../../acceptance/views.ts';
import { askShelf, changeDrive } from '../../drives/bay.ts';
import { viewDriveBay } from '../../drives/views.ts';
import { route } from '../route.ts';
import { renameFiles } from '../../naming/rename.ts';
import { previewNames } from '../../naming/views.ts';
import { startHash } from '../../places/hashFiles.ts';
import { listRecordings, listTrouble } from '../../places/views.ts';
import { reread, restoreIndex, setAllAside, setIndexAside } from '../../reading/reread.ts';
import { startTrial } from '../../reading/trialReads.ts';
import { listTrials } from '../../reading/trialViews.ts';
import { listArchives, listReadLog } from '../../reading/views.ts';
import { clearFiles, restoreCleared } from '../../room/clear.ts';
import { listHeld, roomByPlace, roomMap } from '../../room/views.ts';

const ofPlace = z.object({ placeId: placeIdSchema });
const inProject = z.object({ projectId: projectIdSchema });
const byId = z.object({ id: z.uuid() });

/** Storage as it is: what lies in places and takes them up, reading, trial reads, the read log, the bay of simulated drives. */
export const storageRoutes = [
  route({
    method: 'get',
    path: '/places/:placeId/trouble',
    summary: 'Files of a place that cannot be used, with the reason',
    params: ofPlace,
    answer: z.array(troubleSchema),
    handle: ({ params }, { db }) => listTrouble({ db }, params.placeId),
  }),
  route({
    method: 'get',
    path: '/places/:placeId/recordings',
    summary: 'Recordings that a camera split into several files',
    params: ofPlace,
    answer: z.array(recordingSchema),
    handle: ({ params }, { db }) => listRecordings({ db }, params.placeId),
  }),
  route({
    method: 'post',
    path: '/reread',
    summary:
      'Forget what is remembered of files and read them anew: of clips, single ones, or a place from a folder down',
    body: rereadSchema,
    answer: z.object({ files: z.int() }),
    handle: ({ body }, context) => reread(context, body),
  }),
  route({
    method: 'get',
    path: '/places/:placeId/archives',
    summary: 'Indexes of a place that were set aside',
    params: ofPlace,
    answer: z.array(archiveSchema),
    handle: ({ params }, { db }) => listArchives(db, params.placeId),
  }),
  route({
    method: 'post',
    path: '/places/:placeId/archives',
    summary: 'Set the index of a place aside under today’s date and build it anew',
    params: ofPlace,
    answer: z.object({ archive: archiveSchema, job: jobSchema.nullable() }),
    status: 201,
    handle: ({ params }, context) => setIndexAside(context, params.placeId),
  }),
  route({
    method: 'post',
    path: '/archives',
    summary: 'Set the indexes of all places aside in one act, and build them anew',
    answer: z.array(archiveSchema),
    status: 201,
    handle: (_, context) => setAllAside(context),
  }),
  route({
    method: 'post',
    path: '/archives/:id/restore',
    summary: 'Bring an index back that was set aside, with those that were set aside with it',
    params: byId,
    answer: z.object({ files: z.int() }),
    handle: ({ params }, context) => restoreIndex(context, params.id),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/room',
    summary: 'What takes up each place, by use',
    params: inProject,
    answer: roomByPlaceSchema,
    handle: ({ params }, context) => roomByPlace(context, params.projectId),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/places/:placeId/room',
    summary: 'What takes up a place, by folder and by use',
    params: inProject.extend(ofPlace.shape),
    query: z.object({ folder: z.string().max(4096).default('') }),
    answer: roomMapSchema,
    handle: ({ params, query }, context) => roomMap(context, params.projectId, params.placeId, query.folder),
  }),
  route({
    method: 'get',
    path: '/places/:placeId/cleared',
    summary: 'Files in the holding folder of a place',
    params: ofPlace,
    answer: z.array(clearedSchema),
    handle: ({ params }, { db }) => listHeld(db, params.placeId),
  }),
  route({
    method: 'post',
    path: '/places/:placeId/clear',
    summary: 'Move files that nothing uses into the holding folder; nothing is deleted',
    params: ofPlace,
    body: clearRequestSchema,
    answer: clearAnswerSchema,
    handle: ({ params, body }, context) => clearFiles(context, params.placeId, body.mediaFileIds),
  }),
  route({
    method: 'post',
    path: '/cleared/:id/restore',
    summary: 'Move a cleared file back',
    params: byId,
    answer: z.object({ path: z.string() }),
    handle: ({ params }, context) => restoreCleared(context, params.id),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/renames/preview',
    summary: 'How the files of clips would be called by a pattern, and what stands in the way',
    params: inProject,
    body: namingRequestSchema,
    answer: namingPreviewSchema,
    handle: async ({ params, body }, { db }) => ({ files: await previewNames({ db }, params.projectId, body) }),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/renames',
    summary: 'Give files other names in their folders, all or none; undo renames them back',
    params: inProject,
    body: renameRequestSchema,
    answer: actSchema,
    handle: ({ params, body }, context) => renameFiles(context, params.projectId, body),
  }),
  route({
    method: 'get',
    path: '/read-log',
    summary: 'What is being opened, and was, newest first',
    query: readLogQuerySchema,
    answer: z.array(openingSchema),
    handle: ({ query }, { db }) => listReadLog(db, query),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/trials',
    summary: 'Trial reads of a project with what they found',
    params: inProject,
    answer: z.array(trialSchema),
    handle: ({ params }, { db }) => listTrials({ db }, params.projectId),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/trials',
    summary: 'Decode files from end to end, as a job: of chosen clips, all in use, or in the order of suspicion',
    params: inProject,
    body: newTrialSchema,
    answer: z.object({ trial: trialSchema, job: jobSchema }),
    status: 202,
    handle: ({ params, body }, context) => startTrial(context, params.projectId, body),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/acceptance',
    summary: 'What a project accepts as media',
    params: inProject,
    answer: projectAcceptanceSchema,
    handle: ({ params }, { db }) => viewAcceptance({ db }, params.projectId),
  }),
  route({
    method: 'put',
    path: '/projects/:projectId/acceptance',
    summary: 'Change what a project accepts',
    params: inProject,
    body: acceptanceSchema,
    answer: projectAcceptanceSchema,
    handle: ({ params, body }, context) => setAcceptance(context, params.projectId, body),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/accepted-copies',
    summary: 'Make a copy of a film in a form the project accepts, as a job, and link it in the original’s stead',
    params: inProject,
    body: acceptedCopySchema,
    answer: jobSchema,
    status: 202,
    handle: ({ params, body }, context) => startAcceptedCopy(context, params.projectId, body),
  }),
  route({
    method: 'post',
    path: '/media/:mediaFileId/hash',
    summary: 'Hash a file whole, as a job',
    params: z.object({ mediaFileId: mediaFileIdSchema }),
    answer: jobSchema,
    status: 202,
    handle: ({ params }, context) => startHash(context, params.mediaFileId),
  }),
  route({
    method: 'get',
    path: '/drive-bay',
    summary: 'The simulated drives and shelves of the demo',
    answer: driveBaySchema,
    handle: (_, context) => viewDriveBay(context),
  }),
  route({
    method: 'patch',
    path: '/drive-bay/drives/:name',
    summary: 'Plug, unplug or rename a simulated drive, or make it read-only, full, slow or stalling',
    params: z.object({ name: z.string().max(100) }),
    body: driveChangeSchema,
    answer: driveBaySchema,
    handle: ({ params, body }, context) => changeDrive(context, params.name, body),
  }),
  route({
    method: 'post',
    path: '/drive-bay/shelves/ask',
    summary: 'Ask for a file on the recycle or vault shelf; it comes back after a while',
    body: shelfRequestSchema,
    answer: jobSchema,
    status: 202,
    handle: ({ body }, context) => askShelf(context, body),
  }),
];

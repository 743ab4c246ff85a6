import {
  actSchema,
  comparedStatesSchema,
  compareQuerySchema,
  droppedAnswerSchema,
  droppedRequestSchema,
  benchRowSchema,
  carryPreviewSchema,
  carryRequestSchema,
  causePreviewSchema,
  causesSchema,
  certainRequestSchema,
  folderPreviewSchema,
  folderRequestSchema,
  formRequestSchema,
  historyChangeSchema,
  historySchema,
  interpretRequestSchema,
  linkPreviewRequestSchema,
  linkPreviewSchema,
  linkRequestSchema,
  memberSchema,
  mendRequestSchema,
  newCheckpointSchema,
  pinRequestSchema,
  projectIdSchema,
  putBackAnswerSchema,
  putBackRequestSchema,
  undoRequestSchema,
  renditionsSchema,
  setAsideRequestSchema,
} from '@legame/core/contract';
import { z } from 'zod';
import { lookAtDropped } from '../../links/dropped.ts';
import { mendCause } from '../../causes/mend.ts';
import { listCauses, previewCause } from '../../causes/views.ts';
import { timecodeBench } from '../../clips/timecodeViews.ts';
import { switchForm } from '../../forms/switch.ts';
import { listRenditions, previewForm } from '../../forms/views.ts';
import { redo, undo } from '../../history/act.ts';
import { compareCheckpoints, returnToCheckpoint, setCheckpoint } from '../../history/checkpoints.ts';
import { startPutBack } from '../../history/putBack.ts';
import { history, historyChanges } from '../../history/views.ts';
import { route } from '../route.ts';
import { interpretClips, setAside, setPinned } from '../../links/aside.ts';
import { linkCertain, linkClips } from '../../links/link.ts';
import { previewCarry, previewFolderChange, previewLinks } from '../../links/previews.ts';

const params = z.object({ projectId: projectIdSchema });
const causeParams = params.extend({ key: z.string().regex(/^[0-9a-f]{16}$/) });
const numbered = params.extend({ id: z.coerce.number().int().positive() });

/** What leads to a change of links, and the changes themselves: each is one entry of the journal. */
export const actRoutes = [
  route({
    method: 'get',
    path: '/projects/:projectId/causes',
    summary: 'Why clips are dark: the few explanations that account for all of them',
    params,
    answer: causesSchema,
    handle: ({ params: p }, context) => listCauses(context, p.projectId),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/causes/:key',
    summary: 'What a cause’s remedy would do, clip by clip; changes nothing',
    params: causeParams,
    answer: causePreviewSchema,
    handle: ({ params: p }, context) => previewCause(context, p.projectId, p.key),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/causes/:key/mend',
    summary: 'Mend a cause: link all that it explains, as one act',
    params: causeParams,
    body: mendRequestSchema,
    answer: actSchema,
    handle: ({ params: p, body }, context) => mendCause(context, p.projectId, p.key, body),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/links',
    summary: 'Link or unlink clips, as one act',
    params,
    body: linkRequestSchema,
    answer: actSchema,
    handle: ({ params: p, body: { by, from = null, links } }, context) =>
      linkClips(
        context,
        p.projectId,
        by === 'swap' ? { by: 'hand', verb: 'swap' } : by === 'carry' ? { by, carriedFrom: from } : { by },
        links,
      ),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/links/preview',
    summary: 'What linking clips to their candidates would do, and what is left out; nothing is changed',
    params,
    body: linkPreviewRequestSchema,
    answer: linkPreviewSchema,
    handle: ({ params: p, body }, context) => previewLinks(context, p.projectId, body),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/dropped',
    summary: 'What files are that somebody has in hand: which dark clips they are for, and where they lie',
    params,
    body: droppedRequestSchema,
    answer: droppedAnswerSchema,
    handle: ({ params: p, body }, context) => lookAtDropped(context, p.projectId, body),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/links/certain',
    summary: 'Run the rules: link every clip that has one certain candidate',
    params,
    body: certainRequestSchema,
    answer: actSchema,
    handle: ({ params: p, body }, context) => linkCertain(context, p.projectId, body.clipIds),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/carry',
    summary: 'What one decision would carry to other dark clips; changes nothing',
    params,
    body: carryRequestSchema,
    answer: carryPreviewSchema,
    handle: ({ params: p, body }, context) => previewCarry(context, p.projectId, body.clipId, body.mediaFileId),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/folders/preview',
    summary: 'What changing one folder of the remembered paths for another would resolve; changes nothing',
    params,
    body: folderRequestSchema,
    answer: folderPreviewSchema,
    handle: ({ params: p, body }, context) => previewFolderChange(context, p.projectId, body),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/folders',
    summary: 'Change a folder for another: link what that resolves, as one act',
    params,
    body: folderRequestSchema,
    answer: actSchema,
    handle: async ({ params: p, body }, context) => {
      const { members } = await previewFolderChange(context, p.projectId, body);
      const links = members.flatMap((m) =>
        m.fits && m.file
          ? [{ clipId: m.clipId, mediaFileId: m.file.mediaFileId, interpretation: m.interpretation }]
          : [],
      );
      const about = { code: 'folder' as const, from: body.from, to: body.to };
      return linkClips(context, p.projectId, { by: 'carry', verb: 'change-folder', about }, links);
    },
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/set-aside',
    summary: 'Park or waive clips, or take them up again',
    params,
    body: setAsideRequestSchema,
    answer: actSchema,
    handle: ({ params: p, body }, context) => setAside(context, p.projectId, body.clipIds, body.as, body.reason),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/pins',
    summary: 'Pin links, so that no rule, carry or cause changes them, or free them again',
    params,
    body: pinRequestSchema,
    answer: actSchema,
    handle: ({ params: p, body }, context) => setPinned(context, p.projectId, body.clipIds, body.pinned),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/timecode',
    summary: 'What the edit counts from and what the files carry, clip by clip',
    params,
    answer: z.array(benchRowSchema),
    handle: ({ params: p }, context) => timecodeBench(context, p.projectId),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/timecode',
    summary: 'Say how clips are read where the edit counts otherwise than their files; null restores',
    params,
    body: interpretRequestSchema,
    answer: actSchema,
    handle: ({ params: p, body }, context) => interpretClips(context, p.projectId, body.clips),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/forms',
    summary: 'The forms in which recordings of linked clips lie on the storage',
    params,
    answer: renditionsSchema,
    handle: ({ params: p }, context) => listRenditions(context, p.projectId),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/forms/preview',
    summary: 'What switching to another form would change; changes nothing',
    params,
    body: formRequestSchema,
    answer: z.array(memberSchema),
    handle: ({ params: p, body }, context) => previewForm(context, p.projectId, body.form, body.clipIds),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/forms',
    summary: 'Switch clips to another form of their recording, as one act',
    params,
    body: formRequestSchema,
    answer: actSchema,
    handle: ({ params: p, body }, context) => switchForm(context, p.projectId, body.form, body.clipIds),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/put-back',
    summary: 'Copy the files of clips to where the edit expects them, inside a place; one job each',
    params,
    body: putBackRequestSchema,
    answer: putBackAnswerSchema,
    status: 202,
    handle: ({ params: p, body }, context) => startPutBack(context, p.projectId, body.clipIds),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/undo',
    summary: 'Take the newest act back',
    params,
    answer: actSchema,
    body: undoRequestSchema,
    handle: ({ params: p, body }, context) => undo(context, p.projectId, body.act),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/redo',
    summary: 'Do the act again that was undone last',
    params,
    answer: actSchema,
    body: undoRequestSchema,
    handle: ({ params: p, body }, context) => redo(context, p.projectId, body.act),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/history',
    summary: 'What was done, newest first, and the checkpoints to return to',
    params,
    answer: historySchema,
    handle: ({ params: p }, context) => history(context, p.projectId),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/history/:id',
    summary: 'One act, clip by clip, before and after',
    params: numbered,
    answer: z.array(historyChangeSchema),
    handle: ({ params: p }, context) => historyChanges(context, p.projectId, p.id),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/checkpoints',
    summary: 'Give the present state of all links a name',
    params,
    body: newCheckpointSchema,
    answer: historySchema,
    handle: ({ params: p, body }, context) => setCheckpoint(context, p.projectId, body.name),
  }),
  route({
    method: 'post',
    path: '/projects/:projectId/checkpoints/:id/return',
    summary: 'Put all links back to a checkpoint, as one act',
    params: numbered,
    answer: actSchema,
    handle: ({ params: p }, context) => returnToCheckpoint(context, p.projectId, p.id),
  }),
  route({
    method: 'get',
    path: '/projects/:projectId/checkpoints/:id/compare',
    summary: 'What is otherwise now, or at another checkpoint, than it was at this one',
    params: numbered,
    query: compareQuerySchema,
    answer: comparedStatesSchema,
    handle: ({ params: p, query }, context) => compareCheckpoints(context, p.projectId, p.id, query.with),
  }),
];

import type { JobKind, JobPayload } from '@legame/core/contract';
import { makeAcceptedCopy } from '../../acceptance/acceptedCopy.ts';
import { fetchShelved } from '../../drives/bay.ts';
import { hashFile } from '../../places/hashFiles.ts';
import type { JobContext } from '../../context.ts';
import { indexPlace } from '../../places/indexPlace.ts';
import { bringHome } from '../../health/bringHome.ts';
import { matchProject } from '../../matching/matchProject.ts';
import { putBack } from '../../history/putBack.ts';
import { runHandoff } from '../../handoffs/run.ts';
import { checkSet } from '../../sets/check.ts';
import { linkOpened } from '../../sets/open.ts';
import { runTrial } from '../../reading/trialReads.ts';
import { unpackBundle } from '../../documents/unpackBundle.ts';

/** Every kind of job and what does it. */
export const tasks: { readonly [K in JobKind]: (job: JobContext, payload: JobPayload<K>) => Promise<void> } = {
  'index-place': indexPlace,
  'match-project': (job, { projectId }) => matchProject(job, projectId),
  'run-handoff': (job, { handoffId }) => runHandoff(job, handoffId),
  'unpack-bundle': (job, { unpackingId }) => unpackBundle(job, unpackingId),
  'trial-read': (job, { trialId }) => runTrial(job, trialId),
  'accepted-copy': (job, { copyId }) => makeAcceptedCopy(job, copyId),
  'fetch-shelved': fetchShelved,
  'hash-files': (job, { mediaFileId }) => hashFile(job, mediaFileId),
  'put-back': (job, { clipId }) => putBack(job, clipId),
  'bring-home': bringHome,
  'check-set': (job, { checkId }) => checkSet(job, checkId),
  'open-set': linkOpened,
};

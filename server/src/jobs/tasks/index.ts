import type { Job } from '@legame/core/contract';
import type { HandoffId, ProjectId } from '@legame/core/model';
import { makeAcceptedCopy } from '../../acceptance/acceptedCopy.ts';
import { fetchShelved } from '../../drives/bay.ts';
import { hashFile } from '../../places/hashFiles.ts';
import type { JobContext } from '../../context.ts';
import { indexPlace } from '../../places/indexPlace.ts';
import { matchProject } from '../../matching/matchProject.ts';
import { putBack } from '../../history/putBack.ts';
import { runHandoff } from '../../handoffs/run.ts';
import { runTrial } from '../../reading/trialReads.ts';
import { unpackBundle } from '../../documents/unpackBundle.ts';

/** Every kind of job and the action that does it. */
export const tasks: Readonly<Record<Job['kind'], (job: JobContext, subject: string) => Promise<void>>> = {
  'index-place': indexPlace,
  'match-project': (job, subject) => matchProject(job, subject as ProjectId),
  'run-handoff': (job, subject) => runHandoff(job, subject as HandoffId),
  'unpack-bundle': unpackBundle,
  'trial-read': runTrial,
  'accepted-copy': makeAcceptedCopy,
  'fetch-shelved': fetchShelved,
  'hash-files': hashFile,
  'put-back': putBack,
};

import type { Job } from '@legame/core/contract';
import type { HandoffId, ProjectId } from '@legame/core';
import { makeAcceptedCopy } from '../../actions/acceptedCopy.ts';
import { fetchShelved } from '../../actions/driveBay.ts';
import { hashFile } from '../../actions/hashFiles.ts';
import type { JobContext } from '../../actions/context.ts';
import { indexPlace } from '../../actions/indexPlace.ts';
import { matchProject } from '../../actions/matchProject.ts';
import { putBack } from '../../actions/putBack.ts';
import { runHandoff } from '../../actions/runHandoff.ts';
import { runTrial } from '../../actions/trialReads.ts';
import { unpackBundle } from '../../actions/unpackBundle.ts';

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

import type { Job } from '@legame/core/contract';
import type { HandoffId, PlaceId, ProjectId } from '@legame/core';
import { indexPlace, type JobContext } from '../../actions/indexPlace.ts';
import { matchProject } from '../../actions/matchProject.ts';
import { runHandoff } from '../../actions/runHandoff.ts';
import { unpackBundle } from '../../actions/unpackBundle.ts';

/** Every kind of job and the action that does it. */
export const tasks: Readonly<Record<Job['kind'], (job: JobContext, subject: string) => Promise<void>>> = {
  'index-place': (job, subject) => indexPlace(job, subject as PlaceId),
  'match-project': (job, subject) => matchProject(job, subject as ProjectId),
  'run-handoff': (job, subject) => runHandoff(job, subject as HandoffId),
  'unpack-bundle': unpackBundle,
};

import { match } from '@legame/core/match';
import type { ProjectId } from '@legame/core/model';
import type { Database } from '../db/database.ts';
import { proposalOf, toMatch } from '../matching/matchProject.ts';
import { clipStore } from '../stores/clips.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';

/** What matching found of a project's clips, as it is kept. */
export const proposalsOf = async (db: Database, projectId: ProjectId) =>
  (await clipStore.listClips(db, projectId)).map(({ id, proposal }) => ({ id, proposal }));

/** What matching makes of all that stands in the database now. */
export async function proposalsAnew(db: Database, projectId: ProjectId) {
  const project = await projectStore.getProject(db, projectId);
  const clips = (await clipStore.listClips(db, projectId)).map(toMatch);
  const files = await mediaFileStore.listPresent(db);
  const results = match({ clips, files, places: await placeStore.listPlaces(db), rules: project.rules });
  return results.map(proposalOf).map(({ clipId, ...proposal }) => ({ id: clipId, proposal }));
}

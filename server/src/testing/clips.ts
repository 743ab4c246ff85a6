import type { ClipId, MediaFileId, ProjectId } from '@legame/core/model';
import { loadProject } from '../clips/project.ts';
import { undo } from '../history/act.ts';
import { UserProblem } from '../problems.ts';
import type { House } from './house.ts';

/** Takes back whatever was decided and can be; any failure but a user's is one of the test. */
export async function undoAll(house: House, projectId: ProjectId): Promise<void> {
  const noFurther = (error: unknown): null => {
    if (error instanceof UserProblem) return null;
    throw error;
  };
  while (await undo(house, projectId).catch(noFurther));
}

/** Clips and films of a project by name, without ending, and the way back to where nothing was decided. */
export function clipsOf(house: () => House, projectId: () => ProjectId) {
  const state = async (name: string) =>
    (await loadProject(house().db, projectId())).states.find((s) => s.clip.name === `${name}.mov`)!;
  return {
    state,
    clipId: async (name: string): Promise<ClipId> => (await state(name)).clip.id,
    fileId: async (name: string): Promise<MediaFileId> => {
      const rows = (await house()
        .db('media_files')
        .where({ name: `${name}.mov` })
        .select('id')) as { id: MediaFileId }[];
      return rows[0]!.id;
    },
    undoAll: async (): Promise<void> => {
      await undoAll(house(), projectId());
      await house().idle();
    },
  };
}

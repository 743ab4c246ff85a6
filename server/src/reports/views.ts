import type { Looking } from '../context.ts';
import { writeCsv } from '@legame/core/formats';
import type { ProjectId } from '@legame/core/model';
import { usedMediaHeaders, usedMediaTable } from '@legame/core/report';
import { listClipRows } from '../clips/views.ts';
import { loadProject } from '../clips/project.ts';

/** The media that a project's timelines use, as CSV. */
export async function usedMediaCsv({ db }: Looking, projectId: ProjectId): Promise<string> {
  const [{ states }, rows] = await Promise.all([loadProject(db, projectId), listClipRows({ db }, projectId)]);
  const uses = new Map(rows.map((r) => [r.id, r.uses]));
  const used = states.filter((s) => (uses.get(s.clip.id) ?? 0) > 0);
  const table = usedMediaTable(
    used.map(({ clip, status, tied }) => ({
      ...clip,
      status: status.status,
      uses: uses.get(clip.id) ?? 0,
      file: tied ? [tied.place.name, tied.file.folder, tied.file.name].filter((p) => p !== '').join('/') : null,
      sizeInBytes: tied?.file.sizeInBytes ?? null,
    })),
  );
  return writeCsv(usedMediaHeaders, table);
}

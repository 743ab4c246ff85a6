import type { Looking } from '../context.ts';
import { formatOf, writeCsv } from '@legame/core/formats';
import type { ProjectId } from '@legame/core/model';
import {
  pullAsEdit,
  pullHeaders,
  pullList,
  pullTable,
  usedMediaHeaders,
  usedMediaTable,
  type PullRow,
} from '@legame/core/report';
import { isDark } from '@legame/core/state';
import { projectStore } from '../stores/projects.ts';
import { listClipRows } from '../clips/views.ts';
import { loadProject } from '../clips/project.ts';
import type { Context } from '../context.ts';

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

type PullQuery = { readonly handles: number; readonly of: 'dark' | 'used' };

/** What has to be fetched: of everything that is used, or of what is dark. */
export async function pullRows({ db }: Looking, projectId: ProjectId, { handles, of }: PullQuery): Promise<PullRow[]> {
  const { states } = await loadProject(db, projectId);
  const wanted = states.filter((s) => s.clip.used.length > 0 && (of === 'used' || isDark(s.status.status)));
  return pullList(
    wanted.map((s) => s.clip),
    handles,
  );
}

export async function pullCsv(context: Context, projectId: ProjectId, query: PullQuery): Promise<string> {
  return writeCsv(pullHeaders, pullTable(await pullRows(context, projectId, query)));
}

export async function pullEdl(context: Context, projectId: ProjectId, query: PullQuery): Promise<string> {
  const project = await projectStore.getProject(context.db, projectId);
  const { edit } = pullAsEdit(await pullRows(context, projectId, query), `${project.name} PULL LIST`);
  return formatOf('edl').write(edit);
}

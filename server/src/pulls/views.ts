import { stretchAsked, vaultHolder, type PullDesk, type PullDeskQuery, type PullQuery } from '@legame/core/contract';
import { formatOf, writeCsv } from '@legame/core/formats';
import type { ProjectId } from '@legame/core/model';
import { pullAsEdit, pullHeaders, pullList, pullTable, rowsAskedOf, type PullRow } from '@legame/core/report';
import { isDark } from '@legame/core/state';
import { listClipRows } from '../clips/views.ts';
import { loadProject } from '../clips/project.ts';
import type { Context, Looking } from '../context.ts';
import { projectStore } from '../stores/projects.ts';
import { handlesOf, lookAtDesk, statesIn } from './look.ts';

/** What has to be fetched: of everything that is used, of what is dark, or what one holder was asked for. */
export async function pullRows({ db }: Looking, projectId: ProjectId, query: PullQuery): Promise<PullRow[]> {
  if (query.holder !== undefined) return rowsAskedOf(await lookAtDesk({ db }, projectId, query), query.holder);
  const project = await loadProject(db, projectId);
  const stretch = stretchAsked(query);
  const wanted = (stretch ? statesIn(project, stretch) : project.states).filter(
    (s) => s.clip.used.length > 0 && (query.of === 'used' || isDark(s.status.status)),
  );
  return pullList(
    wanted.map((s) => s.clip),
    handlesOf(project, query.handles),
  );
}

export async function pullCsv(context: Looking, projectId: ProjectId, query: PullQuery): Promise<string> {
  return writeCsv(pullHeaders, pullTable(await pullRows(context, projectId, query)));
}

export async function pullEdl(context: Looking, projectId: ProjectId, query: PullQuery): Promise<string> {
  const project = await projectStore.getProject(context.db, projectId);
  const { edit } = pullAsEdit(await pullRows(context, projectId, query), `${project.name} PULL LIST`);
  return formatOf('edl').write(edit);
}

/** The pull list with what was asked for, and which files are here for it. */
export async function viewPullDesk(
  { db, config }: Pick<Context, 'db' | 'config'>,
  projectId: ProjectId,
  asked: PullDeskQuery,
): Promise<PullDesk> {
  const [desk, clipRows] = await Promise.all([lookAtDesk({ db }, projectId, asked), listClipRows({ db }, projectId)]);
  const rowOf = new Map(clipRows.map((row) => [row.id, row]));
  // Whatever was asked for has its row.
  const holders = desk.flatMap(({ request }) => request?.holder || []);
  return {
    rows: desk.map(({ clips, ...row }) => {
      const found = clips.flatMap(({ id }) => {
        const clip = rowOf.get(id);
        if (clip?.tied) return [{ ...clip.tied, isTied: true }];
        return clip?.candidate ? [{ ...clip.candidate, isTied: false }] : [];
      });
      const here = new Map(found.map((file) => [file.mediaFileId, file]));
      return { ...row, clipIds: clips.map((c) => c.id), here: [...here.values()] };
    }),
    holders: [...new Set([...(config.drives === null ? [] : [vaultHolder]), ...holders])],
  };
}

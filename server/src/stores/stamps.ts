import type { ProjectId } from '@legame/core/model';
import type { Database } from '../db/database.ts';

/**
 * What a view of a project may rest on, and how the database tells that anything of it is another. Of rows that change
 * in their place the sum of the transactions that wrote them, and not the highest: one that is committed late is not
 * higher than one that began after it and was committed before.
 */
const tellers = {
  /** Clips with their links, proposals, notes, facts of their files, and whether their places are there. */
  clips: `(select count(*) from stale_rows where project_id = :projectId) || ' ' ||
    (select list_epoch from projects where id = :projectId) || ' ' ||
    (select coalesce(max(version), 0) from clip_rows where project_id = :projectId) || ' ' ||
    (select coalesce(sum(turned), 0) from places)`,
  /** Documents, and which clips they have. */
  documents: `(select coalesce(string_agg(id || ' ' || xmin, ',' order by brought_in_at, id), '') from documents
      where project_id = :projectId) || ' ' ||
    (select list_epoch from projects where id = :projectId)`,
  /** What is said of the project itself: name, rules, bins, labels. */
  project: `(select xmin::text from projects where id = :projectId)`,
  places: `(select coalesce(string_agg(id || ' ' || xmin, ',' order by created_at, id), '') from places)`,
  acts: `(select count(*) || ' ' || coalesce(sum(xmin::text::bigint), 0) from journal where project_id = :projectId)`,
  /** Any file of any place: matching weighs them all. */
  files: `(select count(*) || ' ' || coalesce(sum(changed_in::text::bigint), 0) from media_files)`,
};
export type StampPart = keyof typeof tellers;

export const stampStore = {
  /** A text that is another whenever anything of these parts is; and whether rows of clips are still to be made anew. */
  async ofProject(
    db: Database,
    projectId: ProjectId,
    parts: readonly StampPart[],
  ): Promise<{ readonly stamp: string; readonly isStale: boolean }> {
    const { rows } = (await db.raw(
      `select concat_ws('/', :projectId::text, ${parts.map((part) => tellers[part]).join(', ')}) as stamp,
         exists (select 1 from stale_rows where project_id = :projectId) as "isStale"`,
      { projectId },
    )) as { rows: [{ stamp: string; isStale: boolean }] };
    return rows[0];
  },
};

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
  files: `(select count(*) || ' ' || coalesce(sum(in_xact::text::bigint), 0) from media_changes)`,
};
export type StampPart = keyof typeof tellers;

/** For each part a text that is another whenever anything of it is. */
export type Stamps<P extends StampPart = StampPart> = Readonly<Record<P, string>>;

export const stampStore = {
  /** The stamps of these parts, all of one moment; and whether rows of clips are still to be made anew. */
  async ofProject<P extends StampPart>(
    db: Database,
    projectId: ProjectId,
    parts: readonly P[],
  ): Promise<{ readonly stamps: Stamps<P>; readonly isStale: boolean }> {
    const { rows } = (await db.raw(
      `select ${parts.map((part) => `${tellers[part]} as ${part}`).join(', ')},
         exists (select 1 from stale_rows where project_id = :projectId) as "isStale"`,
      { projectId },
    )) as { rows: [Stamps<P> & { isStale: boolean }] };
    const { isStale, ...stamps } = rows[0];
    return { stamps: stamps as unknown as Stamps<P>, isStale };
  },
  /**
   * Lets go of all but the last of the transactions that touched files. Those that come are later ones, so that no stamp
   * is ever again as it was.
   */
  async dropOldChanges(db: Database): Promise<void> {
    await db.raw(
      `delete from media_changes where in_xact < (select in_xact from media_changes order by 1 desc limit 1)`,
    );
  },
};

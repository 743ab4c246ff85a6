import type { Thing } from '@legame/core/contract';
import type { ProjectId } from '@legame/core/model';
import type { Database } from '../db/database.ts';

/** So many of each kind are found; who wants others says more. */
const mostOfAKind = 8;

/** Whether every word stands in a text, whatever its case; what means something to a pattern means itself. */
const holding = (expression: string, words: readonly string[]) => ({
  sql: words.map(() => `${expression} ilike ?`).join(' and '),
  bindings: words.map((word) => `%${word.replace(/[\\%_]/g, '\\$&')}%`),
});

/** Things of all projects and places by their names. */
export const findStore = {
  /** Without the project `beside` and its clips, if one is said. */
  async find(db: Database, words: readonly string[], beside: ProjectId | null): Promise<Thing[]> {
    const ask = async <W extends Thing['what']>(what: W, select: string, from: string, text: string) => {
      const { sql, bindings } = holding(text, words);
      const { rows } = (await db.raw(
        `with given as (select ?::uuid as beside)
         select '${what}' as what, ${select} from given, ${from} and ${sql} order by 2 limit ${mostOfAKind}`,
        [beside, ...bindings] as string[],
      )) as { rows: Extract<Thing, { what: W }>[] };
      return rows;
    };
    const project = 'projects.id as "projectId", projects.name as "projectName"';
    const found = await Promise.all([
      ask(
        'project',
        `name as "projectName", id as "projectId"`,
        'projects where deleted_at is null and id is distinct from beside',
        'name',
      ),
      ask(
        'document',
        `documents.name, documents.id as "documentId", ${project}`,
        'documents join projects on projects.id = project_id where deleted_at is null',
        'documents.name',
      ),
      ask('place', `name, id as "placeId", path`, 'places where true', `concat_ws(' ', name, path)`),
      ask(
        'clip',
        `clip_rows.there::jsonb->>'name' as name, clip_rows.there::jsonb->>'fileName' as "fileName",
         clip_id as "clipId", ${project}`,
        'clip_rows join clips on clips.id = clip_id join projects on projects.id = clip_rows.project_id where deleted_at is null and projects.id is distinct from beside',
        `concat_ws(' ', clips.body->>'name', clips.body->>'remembered', clips.body->>'reel')`,
      ),
      ask(
        'file',
        `media_files.name, folder, place_id as "placeId", places.name as "placeName"`,
        'media_files join places on places.id = place_id where not gone',
        `concat_ws('/', folder, media_files.name)`,
      ),
    ]);
    return found.flat();
  },
};

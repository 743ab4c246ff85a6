import type { Knex } from 'knex';

/**
 * Which clips a change of files or places touches is looked up in the rows that are kept. While rows are being made anew
 * the answer would be the one of before: the change waits for that, and who makes rows anew waits for changes that are
 * not yet committed, else it would make them of what was. Changes do not wait for one another. The lock is the one that
 * `staleRowStore.takeStale` takes.
 */
export const notes = {
  name: '011-notes',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      create or replace function note_clips_with() returns trigger language plpgsql as $$
        begin
          if not exists (select 1 from changed) then return null; end if;
          perform pg_advisory_xact_lock_shared(hashtext('rows ' || id)) from (select id from projects order by id) as known;
          insert into stale_rows
            select project_id, clip_id, false from changed join clip_rows on tied_id = changed.id
            union all
            select project_id, clip_id, false from changed join clip_rows on decided_id = changed.id;
          return null;
        end $$;
      create or replace function note_place() returns trigger language plpgsql as $$
        begin
          perform pg_advisory_xact_lock_shared(hashtext('rows ' || id)) from (select id from projects order by id) as known;
          if old.name is distinct from new.name then
            insert into stale_rows select project_id, clip_id, false from clip_rows
              where place_id = new.id or decided_place_id = new.id;
          elsif old.there is distinct from new.there then
            insert into stale_rows select project_id, clip_id, false from clip_rows
              where decided_place_id = new.id and is_unusable;
          end if;
          return null;
        end $$;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

import type { Knex } from 'knex';

/** What changed since somebody last looked, so that matching that is kept is renewed by parts; reasons in the read log. */
export const renewal = {
  name: '006-renewal',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      alter table media_files
        -- The transaction that last changed the row: whoever looked before it had ended has not seen it yet.
        add column changed_in xid8 not null default pg_current_xact_id();
      create index on media_files (changed_in);
      create function note_media_file_change() returns trigger language plpgsql as $$
        begin
          new.changed_in := pg_current_xact_id();
          return new;
        end $$;
      create trigger note_change before update on media_files
        for each row execute function note_media_file_change();
      alter table projects
        -- Whose matching the proposals are: a worker that finds another's matches the project anew.
        add column matched_by uuid;
      alter table read_log
        -- Why a file could not be read, in fields; words are made of them where it is shown.
        add column reason jsonb;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

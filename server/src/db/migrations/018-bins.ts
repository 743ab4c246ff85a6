import type { Knex } from 'knex';

/** Bins are paths, own ones beside those of documents; labels; and what people note of clips. */
export const bins = {
  name: '018-bins',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      alter table projects
        -- Bins that people made, by their paths; those in which clips lie are there anyway.
        add column bins jsonb not null default '[]',
        add column labels jsonb not null default '[]';
      -- Apart from the clips: what is noted of one is nothing that matching looks at.
      create table clip_notes (
        clip_id uuid primary key references clips on delete cascade,
        noted jsonb not null
      );
      create trigger note_rows_insert after insert on clip_notes
        referencing new table as changed for each statement execute function note_clips_of();
      create trigger note_rows_update after update on clip_notes
        referencing new table as changed for each statement execute function note_clips_of();
      create trigger note_rows_delete after delete on clip_notes
        referencing old table as changed for each statement execute function note_clips_of();

      -- Columns as a table shows them, kept under a name: of a project, or of all.
      create table layouts (
        id uuid primary key default gen_random_uuid(),
        project_id uuid references projects on delete cascade,
        of_table text not null,
        name text not null,
        body jsonb not null
      );
      create unique index on layouts (coalesce(project_id, '00000000-0000-0000-0000-000000000000'), of_table, name);

      -- The bin of a row is a path now: all rows are made anew.
      update clip_rows set bin = null;
      insert into stale_rows select project_id, id, true from clips where not retired;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

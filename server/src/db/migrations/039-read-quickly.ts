import type { Knex } from 'knex';

/**
 * Timelines, and what an act changed, are only ever read whole: kept as the text they are, nothing takes them apart on the
 * way in and puts them together on the way out. A clip is one of its document's project, which is held by one look instead
 * of two. And whether any file is another is told by the transactions that touched some, instead of by all files.
 */
export const readQuickly = {
  name: '039-read-quickly',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      alter table documents alter column timelines type json using timelines::json;
      alter table document_versions alter column timelines type json using timelines::json;
      alter table journal alter column changes type json using changes::json;
      alter table documents add constraint documents_of_project unique (id, project_id);
      alter table clips
        add constraint clips_of_document foreign key (document_id, project_id)
          references documents (id, project_id) on delete cascade,
        drop constraint clips_document_id_fkey,
        drop constraint clips_project_id_fkey;

      create table media_changes (in_xact xid8 primary key);
      create function note_media_changes() returns trigger language plpgsql as $$
        begin
          insert into media_changes values (pg_current_xact_id()) on conflict do nothing;
          return null;
        end $$;
      create trigger note_changes after insert or update or delete on media_files
        for each statement execute function note_media_changes();
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

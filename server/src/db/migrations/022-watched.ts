import type { Knex } from 'knex';

/** The folder of each project in which newer versions of its documents are looked for. */
export const watched = {
  name: '022-watched',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      create table watched_folders (
        project_id uuid primary key references projects on delete cascade,
        place_id uuid not null references places on delete cascade,
        folder text not null,
        -- SHA-256 of documents that somebody does not want to be told of.
        passed_over text[] not null default '{}'
      );
      create index watched_folders_place on watched_folders (place_id);
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

import type { Knex } from 'knex';

/** What somebody asked for of the sources that are to be fetched, of whom, and what came of it. */
export const pulls = {
  name: '021-pulls',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      create table pull_requests (
        project_id uuid not null references projects on delete cascade,
        -- A file of a reel by one count of timecode, alike however it is spelled.
        key text not null,
        request jsonb not null,
        primary key (project_id, key)
      );
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

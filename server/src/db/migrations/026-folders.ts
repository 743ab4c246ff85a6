import type { Knex } from 'knex';

/** The folders of a project, and the pattern by which its files are named. */
export const folders = {
  name: '026-folders',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      alter table projects add column folders jsonb;
      alter table projects add column name_pattern text;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

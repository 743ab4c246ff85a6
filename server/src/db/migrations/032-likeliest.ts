import type { Knex } from 'knex';

/**
 * `clip_rows.decided_id` is the file that a clip is shown beside while it is tied to none, also where the last decision
 * is about none: whatever shows it is noted when the file changes.
 */
export const likeliest = {
  name: '032-likeliest',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      -- A clip is noted anew where its row tells of no such file, for it may tell of one now.
      insert into stale_rows select project_id, clip_id, false from clip_rows where decided_id is null;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

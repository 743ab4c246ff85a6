import type { Knex } from 'knex';

/** What was decided before a clip's name could tell its reel, and one folder alone no recording, is decided anew. */
export const decidedAnew = {
  name: '038-decided-anew',
  async up(knex: Knex): Promise<void> {
    await knex.raw('delete from proposals; update projects set matched_by = null');
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

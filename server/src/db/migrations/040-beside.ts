import type { Knex } from 'knex';

/** What was decided before a folder could tell that a file is of the camera beside it is decided anew. */
export const decidedBeside = {
  name: '040-decided-beside',
  async up(knex: Knex): Promise<void> {
    await knex.raw('delete from proposals; update projects set matched_by = null');
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

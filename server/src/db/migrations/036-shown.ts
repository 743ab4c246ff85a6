import type { Knex } from 'knex';

/**
 * Movies that were cut at their ends without being coded anew were taken for as long as all that lies in them. What is
 * known of movies stays until their place is looked through the next time, when they are measured anew. And what was
 * certain before folders told versions is decided anew.
 */
export const shownFrames = {
  name: '036-shown-frames',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      update media_files set read_at = null
        where facts->>'kind' = 'picture' and facts->>'container' = 'mov';
      delete from proposals;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

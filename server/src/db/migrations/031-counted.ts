import type { Knex } from 'knex';

/**
 * Sound whose container states no length was taken for as long as its first moments made it seem. What is known of it
 * stays until its place is looked through the next time, when it is measured anew.
 */
export const counted = {
  name: '031-counted',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      update media_files set read_at = null
        where facts->>'kind' = 'sound' and facts->>'container' in ('mp3', 'aac');
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

import type { Knex } from 'knex';

/** Where a cleared file is being put back to, noted before it is moved: who ends in between is known by it afterwards. */
export const putBack = {
  name: '012-put-back',
  async up(knex: Knex): Promise<void> {
    await knex.raw('alter table cleared_files add column restoring text');
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

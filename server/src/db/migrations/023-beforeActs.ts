import type { Knex } from 'knex';

/** Checkpoints that were set by themselves, before an act that changed many clips. */
export const beforeActs = {
  name: '023-beforeActs',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      -- The act that followed: its verb and how many clips it changed. Null where a person set the checkpoint.
      alter table checkpoints add column before_act jsonb;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

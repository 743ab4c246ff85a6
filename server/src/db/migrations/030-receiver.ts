import type { Knex } from 'knex';

/** Handoffs for a receiver who can use only some of what the project accepts. */
export const receiver = {
  name: '030-receiver',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      update handoffs set plan = jsonb_set(plan, '{choices,receiver}', 'null'::jsonb);
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

import type { Knex } from 'knex';

/** Handoffs with which the whole project goes along. */
export const archive = {
  name: '028-archive',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      update handoffs set plan = jsonb_set(plan, '{choices,archive}', 'false'::jsonb);
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

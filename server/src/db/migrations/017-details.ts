import type { Knex } from 'knex';

/** What the read log says of an opening beside its outcome is a code with its fields, or another program's words. */
export const details = {
  name: '017-details',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`alter table read_log alter column detail type jsonb using to_jsonb(detail)`);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

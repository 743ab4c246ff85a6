import type { Knex } from 'knex';

/** How people like to work, by the name they go by; and what is so for everybody. */
export const preferences = {
  name: '027-preferences',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      create table people (
        name text primary key,
        preferences jsonb not null,
        changed_at timestamptz not null default now()
      );
      -- One row.
      create table settings (
        is_it boolean primary key default true check (is_it),
        headroom_percent int not null,
        cache_limit_in_mb int
      );
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

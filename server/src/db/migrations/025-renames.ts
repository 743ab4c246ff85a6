import type { Knex } from 'knex';

/** Files that are being given other names. */
export const renames = {
  name: '025-renames',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      -- How often files of a place were renamed: what was listed before does not tell what lies there after.
      alter table places add column renamed bigint not null default 0;
      -- Noted before anything is moved, and gone when it is done; what is found here at start is moved back. Holds nothing
      -- of other tables, so that it outlives whatever it is about.
      create table renames (
        batch uuid not null,
        position int not null,
        ground jsonb not null,
        folder text not null,
        from_name text not null,
        to_name text not null,
        aside text not null,
        identity jsonb not null,
        noted_at timestamptz not null default clock_timestamp(),
        primary key (batch, position)
      );
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

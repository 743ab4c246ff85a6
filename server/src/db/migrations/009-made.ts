import type { Knex } from 'knex';

/** What Legame makes in users' storage, and what folders there are known by: by that ours is told from theirs. */
export const made = {
  name: '009-made',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      create table made_files (
        id uuid primary key default gen_random_uuid(),
        -- The handoff, unpacking, copy… that makes it.
        owner text not null,
        -- The folder that is written into, and in it the name in the making and the one it gets.
        folder text not null,
        aside text not null,
        target text not null,
        -- What it is known by once it is whole and proven, which is written down before it gets its name.
        identity jsonb,
        xxh64 text,
        is_named boolean not null default false,
        noted_at timestamptz not null default clock_timestamp(),
        unique (owner, target)
      );
      create index on made_files (noted_at) where not is_named;

      alter table places add column root jsonb;
      -- By which it is seen at once that a worker is no more.
      alter table workers add column pid int;
      -- Deleted, with a way back for a while.
      alter table projects add column deleted_at timestamptz;
      alter table handoffs
        add column parent jsonb,
        -- It was about to be made; what it is known by, since it was.
        add column folder_intended boolean not null default false,
        add column made_folder jsonb;
      alter table unpackings
        add column parent jsonb,
        add column folder_intended boolean not null default false,
        add column made_folder jsonb;
      alter table handoff_files
        -- What the source was when the handoff was planned.
        add column place_id uuid,
        add column path text,
        add column expected jsonb;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

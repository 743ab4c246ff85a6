import type { Knex } from 'knex';

/** Received sets that are held against their hash lists: one row a check, and one a file of it. */
export const sets = {
  name: '013-sets',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      create table set_checks (
        id uuid primary key default gen_random_uuid(),
        folder text not null,
        -- What the folder was when the check was asked for.
        ground jsonb not null,
        adds_generation boolean not null,
        -- The lists as they were found; null until all files are known.
        lists jsonb,
        lists_gone jsonb not null default '[]',
        unlisted jsonb not null default '[]',
        handoff_id uuid references handoffs on delete set null,
        listed_otherwise int not null default 0,
        -- The name of the generation that was added.
        generation text,
        job_id uuid references jobs on delete set null,
        created_at timestamptz not null default clock_timestamp()
      );
      create table set_check_files (
        check_id uuid not null references set_checks on delete cascade,
        -- The path with its letters composed: systems differ in how they spell the same name.
        key text collate "C" not null,
        path text not null,
        listed_path text,
        -- What lists say of it; hashes are null where none tells of it.
        listed_size bigint,
        hashes jsonb,
        found_size bigint,
        modified_ms double precision,
        found jsonb not null default '{}',
        -- The hash by which it is held against its lists, and those that are still to be reckoned.
        wanted text,
        to_reckon text[],
        state text not null default 'waiting',
        detail text,
        primary key (check_id, key)
      );
      create index on set_check_files (check_id, state, key);
      create index on set_check_files (check_id, key) where to_reckon is not null;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

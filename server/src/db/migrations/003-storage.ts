import type { Knex } from 'knex';

/** Places as they really are, what reading found out, trial reads, the read log, set-aside indexes, cleared files. */
export const storage = {
  name: '003-storage',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      alter table places
        -- Names under which linked clips remember it, learned; and those that somebody took away again.
        add column learned_names text[] not null default '{}',
        add column unlearned_names text[] not null default '{}',
        -- Why it is not there: nothing lies at its path, it does not answer, another drive lies there.
        add column away_because text,
        add column read_only boolean not null default false,
        add column slow boolean not null default false,
        add column file_system_id text,
        add column excluded text[] not null default '{}',
        add column skipped jsonb,
        -- Where it lay before it was recognised under its present path.
        add column moved_from text;
      alter table media_files
        add column fingerprint text,
        add column full_hash text,
        -- What a trial read found: whole, or where it fails.
        add column trial jsonb,
        -- Not opened again until somebody asks for it to be read anew.
        add column quarantined boolean not null default false;
      create index media_files_unreadable on media_files (place_id) where unreadable is not null and not gone;
      create index media_files_by_fingerprint on media_files (fingerprint) where fingerprint is not null and not gone;
      -- What was measured before these were noted is completed by what they would be.
      update media_files set facts = facts || '{"chroma": null, "readBy": "decoder", "doubts": []}' where facts is not null;
      -- Reasons were named more coarsely before; such files are read again.
      update media_files set unreadable = null, read_at = null where unreadable is not null;
      alter table projects add column acceptance jsonb;
      create table read_log (
        id bigint generated always as identity primary key,
        worker text not null,
        what text not null,
        place_id uuid,
        media_file_id uuid,
        path text not null,
        files int not null default 1,
        begun_at timestamptz not null,
        ended_at timestamptz,
        outcome text,
        detail text
      );
      create index on read_log (begun_at desc);
      create index read_log_open on read_log (worker) where ended_at is null;
      create table trial_reads (
        id uuid primary key default gen_random_uuid(),
        project_id uuid not null references projects on delete cascade,
        scope text not null,
        job_id uuid references jobs on delete set null,
        created_at timestamptz not null default clock_timestamp()
      );
      create table trial_read_files (
        trial_id uuid not null references trial_reads on delete cascade,
        position int not null,
        media_file_id uuid not null references media_files on delete cascade,
        -- Why it stands where it stands in the order.
        suspicion text not null,
        -- Ways by which the edit reaches it.
        reached_by jsonb not null,
        state text not null default 'waiting',
        result jsonb,
        primary key (trial_id, position)
      );
      create table index_archives (
        id uuid primary key default gen_random_uuid(),
        place_id uuid not null references places on delete cascade,
        files int not null,
        -- Those that were set aside in one act come back in one.
        batch uuid not null,
        set_aside_at timestamptz not null default clock_timestamp()
      );
      create table archived_readings (
        archive_id uuid not null references index_archives on delete cascade,
        media_file_id uuid not null references media_files on delete cascade,
        size_in_bytes bigint not null,
        modified_ms double precision not null,
        facts jsonb,
        unreadable jsonb,
        fingerprint text,
        full_hash text,
        trial jsonb,
        quarantined boolean not null,
        read_at timestamptz not null,
        primary key (archive_id, media_file_id)
      );
      create table cleared_files (
        id uuid primary key default gen_random_uuid(),
        place_id uuid not null references places on delete cascade,
        original text not null,
        holding text not null,
        size_in_bytes bigint not null,
        cleared_at timestamptz not null default clock_timestamp(),
        restored_at timestamptz
      );
      create table accepted_copies (
        id uuid primary key default gen_random_uuid(),
        project_id uuid not null references projects on delete cascade,
        media_file_id uuid not null references media_files on delete cascade,
        folder text not null,
        codec text not null,
        made_path text
      );
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

import type { Knex } from 'knex';

export const first = {
  name: '001-first',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      create table projects (
        id uuid primary key default gen_random_uuid(),
        name text not null,
        rules jsonb not null,
        created_at timestamptz not null default now()
      );
      create table documents (
        id uuid primary key default gen_random_uuid(),
        project_id uuid not null references projects on delete cascade,
        name text not null,
        format text not null,
        title text not null,
        rate jsonb,
        -- Byte for byte as it was brought in; exports are made from it.
        content bytea not null,
        bins jsonb not null,
        timelines jsonb not null,
        remarks jsonb not null,
        brought_in_at timestamptz not null default clock_timestamp()
      );
      create index on documents (project_id, brought_in_at);
      create table clips (
        id uuid primary key default gen_random_uuid(),
        project_id uuid not null references projects on delete cascade,
        document_id uuid not null references documents on delete cascade,
        ordinal int not null,
        body jsonb not null,
        set_aside jsonb
      );
      create index on clips (project_id, document_id, ordinal);
      create table places (
        id uuid primary key default gen_random_uuid(),
        name text not null,
        path text not null unique,
        known_as text[] not null default '{}',
        there boolean not null default true,
        indexed_at timestamptz,
        created_at timestamptz not null default clock_timestamp()
      );
      create table media_files (
        id uuid primary key default gen_random_uuid(),
        place_id uuid not null references places on delete cascade,
        folder text not null,
        name text not null,
        size_in_bytes bigint not null,
        modified_ms double precision not null,
        sequence jsonb,
        facts jsonb,
        unreadable jsonb,
        read_at timestamptz,
        gone boolean not null default false,
        unique (place_id, folder, name)
      );
      create index media_files_unread on media_files (place_id) where read_at is null and not gone;
      create table links (
        clip_id uuid primary key references clips on delete cascade,
        media_file_id uuid not null references media_files on delete cascade,
        made_by text not null,
        -- What the file measured when the link was made, to notice that it was replaced.
        seen jsonb not null,
        made_at timestamptz not null default clock_timestamp()
      );
      create table declined (
        clip_id uuid not null references clips on delete cascade,
        media_file_id uuid not null references media_files on delete cascade,
        primary key (clip_id, media_file_id)
      );
      create table proposals (
        clip_id uuid primary key references clips on delete cascade,
        where_remembered uuid references media_files on delete set null,
        decision jsonb not null,
        why jsonb not null,
        candidates jsonb not null
      );
      create table journal (
        id bigint generated always as identity primary key,
        project_id uuid not null references projects on delete cascade,
        verb text not null,
        changes jsonb not null,
        undone boolean not null default false,
        made_at timestamptz not null default clock_timestamp()
      );
      create index on journal (project_id, id desc);
      create table jobs (
        id uuid primary key default gen_random_uuid(),
        kind text not null,
        subject text not null,
        label text not null,
        state text not null default 'queued',
        progress jsonb,
        problem text,
        cancel_requested boolean not null default false,
        created_at timestamptz not null default clock_timestamp(),
        started_at timestamptz,
        finished_at timestamptz
      );
      create index on jobs (created_at desc);
      create table workers (
        id text primary key,
        beat_at timestamptz not null default clock_timestamp()
      );
      create table handoffs (
        id uuid primary key default gen_random_uuid(),
        project_id uuid not null references projects on delete cascade,
        folder text not null,
        state text not null default 'planned',
        plan jsonb not null,
        timelines jsonb not null,
        job_id uuid references jobs on delete set null,
        problem text,
        folder_made boolean not null default false,
        created_at timestamptz not null default clock_timestamp(),
        finished_at timestamptz
      );
      create table handoff_files (
        handoff_id uuid not null references handoffs on delete cascade,
        position int not null,
        media_file_id uuid,
        source text not null,
        target text not null,
        size_in_bytes bigint not null,
        state text not null default 'waiting',
        xxh64 text,
        problem text,
        primary key (handoff_id, position)
      );
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

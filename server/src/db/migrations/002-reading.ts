import type { Knex } from 'knex';

/** How documents are read, their former versions, clips that went and may come back, and links that wait for a file. */
export const reading = {
  name: '002-reading',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      alter table documents
        -- What a person decided about the reading, and what there was to decide.
        add column reading jsonb not null default '{}',
        add column choices jsonb not null default '{"rates":[],"clipsBy":[],"referenceKeys":[],"columns":null}',
        -- Documents read by an older reader are read again when the server starts.
        add column read_by int not null default 1,
        -- The folder in which it lay, where that is known; relative references are resolved against it.
        add column folder text,
        -- Media that lies in the bundle it came in.
        add column media_inside jsonb not null default '[]';
      update documents set reading = jsonb_build_object('rate', rate) where rate is not null;
      alter table documents drop column rate;
      -- Made anew from the content by the present reader.
      update documents set timelines = '[]';
      update clips set body = body || '{"metadata": {}}';
      create table document_versions (
        id bigint generated always as identity primary key,
        document_id uuid not null references documents on delete cascade,
        name text not null,
        content bytea not null,
        title text not null,
        timelines jsonb not null,
        clips jsonb not null,
        brought_in_at timestamptz not null,
        replaced_at timestamptz not null default clock_timestamp()
      );
      create index on document_versions (document_id, id desc);
      -- A clip that a newer version of its document has no more keeps its link and decisions for when it comes back.
      alter table clips add column retired boolean not null default false;
      -- A link of a project that was brought in, to a file that no place here has yet.
      alter table clips add column awaited jsonb;
      create index clips_awaiting on clips (id) where awaited is not null;
      -- A plain folder, or a bundle of OpenTimelineIO as a folder or a zip.
      alter table handoffs add column layout text not null default 'folder';
      -- Zipped bundles being unpacked into a folder.
      create table unpackings (
        id uuid primary key default gen_random_uuid(),
        place_id uuid not null references places on delete cascade,
        path text not null,
        folder text not null,
        folder_made boolean not null default false
      );
      create table log_mappings (
        headers text primary key,
        roles jsonb not null,
        used_at timestamptz not null default clock_timestamp()
      );
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

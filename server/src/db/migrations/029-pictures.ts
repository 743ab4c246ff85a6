import type { Knex } from 'knex';

/** The picture of a clip as it looked while it was linked; the bytes lie in the cache, and may have gone from there. */
export const pictures = {
  name: '029-pictures',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      create table clip_pictures (
        clip_id uuid primary key references clips on delete cascade,
        -- Of which file it was taken. That may be gone from the index by now, which is what the picture is for.
        media_file_id uuid not null,
        modified_ms double precision not null,
        file_name text not null,
        -- The frame of the file, and the same as the clip counts it.
        frame int not null,
        address bigint not null,
        -- What it looks like in short; null where it looks like nothing, or could not be made.
        look text,
        is_made boolean not null,
        taken_at timestamptz not null default now()
      );
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

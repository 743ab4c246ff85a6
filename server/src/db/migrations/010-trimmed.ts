import type { Knex } from 'knex';

/** Handoffs of parts of files: where each file can be cut, what is done for each file of a set. */
export const trimmed = {
  name: '010-trimmed',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      create table cuttings (
        media_file_id uuid primary key references media_files (id) on delete cascade,
        -- What the file was when it was looked at.
        size_in_bytes bigint not null,
        modified_ms double precision not null,
        cutting jsonb not null,
        -- How its picture and sound are counted; null for sound alone.
        streams jsonb
      );
      alter table handoff_files
        -- The part that is kept and what it has to be afterwards; null where the whole file is copied.
        add column trim jsonb;

      -- Plans tell recordings, each with the files that are made of it.
      update handoffs set plan = (plan - 'files') || jsonb_build_object(
        'choices', '{"picture": "whole", "sound": "whole", "still": "whole", "handlesInFrames": 24, "division": "span",
          "gapInFrames": 0, "foldering": "flat", "levels": null, "pattern": "{name}"}'::jsonb,
        'wholeInBytes', plan -> 'sizeInBytes',
        'recordings', (
          select coalesce(jsonb_agg(jsonb_build_object(
            'mediaFileId', f -> 'mediaFileId',
            'placeName', f -> 'placeName',
            'source', f -> 'source',
            'kind', null,
            'length', null,
            'used', '[]'::jsonb,
            'wholeBecause', null,
            'outs', jsonb_build_array(jsonb_build_object(
              'target', f -> 'target',
              'range', null,
              'sizeInBytes', f -> 'sizeInBytes',
              'files', f -> 'files',
              'renamed', f -> 'renamed',
              'handlesCut', '{"head": 0, "tail": 0}'::jsonb
            )),
            'wholeInBytes', f -> 'sizeInBytes',
            'sizeInBytes', f -> 'sizeInBytes',
            'clips', f -> 'clips',
            'usedBy', f -> 'usedBy'
          )), '[]'::jsonb) from jsonb_array_elements(plan -> 'files') f
        )
      ) where plan -> 'files' is not null;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

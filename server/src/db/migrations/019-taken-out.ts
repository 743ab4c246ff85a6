import type { Knex } from 'knex';

/**
 * Whatever goes takes along what points to it, or frees it; without an index of who points, the database looks through
 * all for each: a place of 20,000 files took minutes to be taken off the list.
 */
export const takenOut = {
  name: '019-taken-out',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      create index on links (media_file_id);
      create index on declined (media_file_id);
      create index on proposals (where_remembered) where where_remembered is not null;
      create index on trial_read_files (media_file_id);
      create index on archived_readings (media_file_id);
      create index on accepted_copies (media_file_id);
      create index on accepted_copies (project_id);
      create index on clips (document_id);
      create index on index_archives (place_id);
      create index on unpackings (place_id);
      create index on cleared_files (place_id);
      create index on handoffs (project_id);
      create index on trial_reads (project_id);
      create index on set_checks (handoff_id);
      create index on layouts (project_id);
      -- Jobs are cleared away by the thousand.
      create index on handoffs (job_id);
      create index on trial_reads (job_id);
      create index on set_checks (job_id);
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

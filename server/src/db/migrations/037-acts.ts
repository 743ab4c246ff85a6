import type { Knex } from 'knex';

/**
 * What is told of an act stands beside its changes: those of 20,000 clips are tens of megabytes, and were read whenever
 * anybody asked what the last act was.
 */
export const actsTold = {
  name: '037-acts-told',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      alter table journal add column clips int not null default 0, add column kinds text[] not null default '{}';
      update journal set clips = told.clips, kinds = told.kinds from (
        select id, count(distinct change->>'clipId')::int as clips, array_agg(distinct change->>'what') as kinds
        from journal, jsonb_array_elements(changes) as change group by id
      ) as told where told.id = journal.id;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

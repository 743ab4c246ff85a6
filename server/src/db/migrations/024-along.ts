import type { Knex } from 'knex';

/** What goes along with a handoff: sidecars, logs, bins of which all comes; and hashes beside xxh64. */
export const along = {
  name: '024-along',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      -- Hashes that were asked for beside xxh64, by their names.
      alter table made_files add column others jsonb not null default '{}';
      update handoffs set
        scope = scope || '{"bins": []}'::jsonb,
        plan = plan || '{"bins": []}'::jsonb
          || jsonb_build_object('choices',
               plan -> 'choices' || '{"sidecars": false, "logs": false, "alsoHashed": []}'::jsonb)
          || jsonb_build_object('recordings', (
            select coalesce(jsonb_agg(recording || '{"sidecars": []}'::jsonb order by place), '[]'::jsonb)
              from jsonb_array_elements(plan -> 'recordings') with ordinality as of_plan (recording, place)));
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

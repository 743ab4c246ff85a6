import type { Knex } from 'knex';

/** What goes along with a handoff: sidecars, logs, bins of which all comes; hashes beside xxh64; and how long runs took. */
export const along = {
  name: '024-along',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      -- Hashes that were asked for beside xxh64, by their names.
      alter table made_files add column others jsonb not null default '{}';
      create table handoff_runs (
        id uuid primary key default gen_random_uuid(),
        -- Where the drive is mounted that was written to.
        drive text not null,
        is_coded boolean not null,
        files int not null,
        bytes bigint not null,
        ms int not null,
        at timestamptz not null default clock_timestamp()
      );
      create index on handoff_runs (drive, is_coded, at desc);
      update handoffs set
        scope = scope || '{"bins": []}'::jsonb,
        plan = plan || '{"bins": []}'::jsonb
          || jsonb_build_object('choices',
               plan -> 'choices' || '{"sidecars": false, "logs": false, "alsoHashed": []}'::jsonb)
          || jsonb_build_object('targets', (
            select coalesce(jsonb_agg(target || '{"seconds": null}'::jsonb order by place), '[]'::jsonb)
              from jsonb_array_elements(plan -> 'targets') with ordinality as of_plan (target, place)))
          || jsonb_build_object('recordings', (
            select coalesce(jsonb_agg(recording || '{"sidecars": []}'::jsonb order by place), '[]'::jsonb)
              from jsonb_array_elements(plan -> 'recordings') with ordinality as of_plan (recording, place)));
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

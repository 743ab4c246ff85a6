import type { Knex } from 'knex';

/** What of a project a handoff takes: beside whole timelines, ranges of them, and chosen clips. */
export const scope = {
  name: '014-scope',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      alter table handoffs add column scope jsonb;
      update handoffs set scope = jsonb_build_object('timelines', timelines, 'ranges', '[]'::jsonb, 'clips', null);
      update handoffs set plan = plan || '{"clipsChosen": null, "ranges": []}'::jsonb || jsonb_build_object('recordings', (
        select coalesce(jsonb_agg(recording || '{"tracksLeft": 0}'::jsonb order by place), '[]'::jsonb)
          from jsonb_array_elements(plan -> 'recordings') with ordinality as of_plan (recording, place)));
      alter table handoffs alter column scope set not null, drop column timelines;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

import type { Knex } from 'knex';

/** Handoffs code anew as well: how each recording is treated, how it is coded, and what of a file could not be kept. */
export const coded = {
  name: '015-coded',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      alter table handoff_files add column lost jsonb not null default '[]';
      update handoffs set plan = plan
        || jsonb_build_object('choices',
             plan -> 'choices' || '{"coding": "ffv1", "transcodesRefused": false, "exceptions": []}'::jsonb)
        || jsonb_build_object('recordings', (
          select coalesce(jsonb_agg(recording || jsonb_build_object('coded', null, 'treatment', plan -> 'choices' ->>
                   case recording ->> 'kind' when 'sound' then 'sound' when 'still' then 'still' else 'picture' end)
                   order by place), '[]'::jsonb)
            from jsonb_array_elements(plan -> 'recordings') with ordinality as of_plan (recording, place)))
        || jsonb_build_object('leftOut', (
          select coalesce(jsonb_agg(clip || '{"mediaFileId": null, "kind": null}'::jsonb order by place), '[]'::jsonb)
            from jsonb_array_elements(plan -> 'leftOut') with ordinality as of_plan (clip, place)));
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

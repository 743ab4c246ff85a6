import type { Knex } from 'knex';

/** Rules with options and named sets, timecode interpretations, pins, redo, checkpoints, the form that a project prefers. */
export const causes = {
  name: '004-causes',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      update projects set rules = jsonb_build_object(
        'weights', '{"content":"counts","kind":"must","codec":"counts","sound":"counts","size":"counts","date":"ignored"}'::jsonb || rules,
        'ignoreCase', true, 'ignoreExtension', false, 'acrossRates', false, 'within', null, 'kinds', null);
      alter table projects
        add column rule_sets jsonb not null default '[]',
        add column preferred_form text;
      alter table clips
        -- How the edit's addresses are to be read where it counts otherwise than the file.
        add column interpretation jsonb,
        add column pinned boolean not null default false;
      alter table journal
        -- What it followed from: a cause, a change of folder, a checkpoint.
        add column about jsonb,
        -- Undone, and then overtaken by another act: kept to be read, never done again.
        add column overtaken boolean not null default false;
      update journal set overtaken = true where undone;
      create table checkpoints (
        id bigint generated always as identity primary key,
        project_id uuid not null references projects on delete cascade,
        name text not null,
        -- What had been decided of every clip.
        state jsonb not null,
        made_at timestamptz not null default clock_timestamp()
      );
      create index on checkpoints (project_id, id desc);
      -- Proposals are worked out anew; their shape changed.
      delete from proposals;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

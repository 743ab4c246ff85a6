import type { Knex } from 'knex';

/** Where a project's media should lie, what of its health is accepted, and how that was when somebody kept it. */
export const health = {
  name: '020-health',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      alter table projects add column home jsonb;
      create table accepted_findings (
        project_id uuid not null references projects on delete cascade,
        of_check text not null,
        -- What the check found, by its own key.
        key text not null,
        note text not null,
        accepted_at timestamptz not null,
        primary key (project_id, of_check, key)
      );
      -- All that was found when health was kept last.
      create table kept_findings (
        project_id uuid not null references projects on delete cascade,
        of_check text not null,
        key text not null,
        primary key (project_id, of_check, key)
      );
      alter table projects add column health_kept_at timestamptz;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

import type { Knex } from 'knex';

/** How many rows the list of a project has is kept, and not counted by everybody who asks what changed. */
export const listCounted = {
  name: '042-list-counted',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      alter table projects add column list_total int not null default 0;
      update projects set list_total = (select count(*) from clip_rows where project_id = projects.id);
      create or replace function note_list() returns trigger language plpgsql as $$
        declare
          sign int := case when tg_op = 'INSERT' then 1 else -1 end;
        begin
          update projects set list_epoch = nextval('clip_row_versions'), list_total = list_total + sign * rows
            from (select project_id, count(*) as rows from changed group by project_id) counted
            where projects.id = counted.project_id;
          return null;
        end $$;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

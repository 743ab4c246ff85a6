import type { Knex } from 'knex';

/** A handoff is written into several folders at once; what each is known by is kept by folder. */
export const targets = {
  name: '016-targets',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      create table handoff_targets (
        handoff_id uuid not null references handoffs on delete cascade,
        position int not null,
        folder text not null,
        parent jsonb,
        folder_intended boolean not null default false,
        made_folder jsonb,
        primary key (handoff_id, position)
      );
      create index on handoff_targets (folder);
      insert into handoff_targets (handoff_id, position, folder, parent, folder_intended, made_folder)
        select id, 0, folder, parent, folder_intended, made_folder from handoffs;
      alter table handoffs drop column parent, drop column folder_intended, drop column made_folder, drop column folder_made;
      update handoffs set plan = plan - 'folder' - 'room'
        || jsonb_build_object('targets', jsonb_build_array(jsonb_build_object('folder', plan -> 'folder', 'room', plan -> 'room')));
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

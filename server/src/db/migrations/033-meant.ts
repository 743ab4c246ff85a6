import type { Knex } from 'knex';

/** What is parked, pinned or noted of a clip is nothing that matching looks at: 20,000 of them are not matched anew for it. */
export const meant = {
  name: '033-meant',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      alter table clips
        -- The transaction that last changed which recording is meant: what the document says of it, or how that is read.
        add column meant_in xid8 not null default pg_current_xact_id();
      create function note_what_is_meant() returns trigger language plpgsql as $$
        begin
          if (old.body, old.interpretation) is distinct from (new.body, new.interpretation) then
            new.meant_in := pg_current_xact_id();
          end if;
          return new;
        end $$;
      create trigger note_what_is_meant before update of body, interpretation on clips
        for each row execute function note_what_is_meant();
      -- What was certain by other rules than are known now is decided anew.
      delete from proposals;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

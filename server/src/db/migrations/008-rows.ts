import type { Knex } from 'knex';

/**
 * What lists show of a clip, kept: a row a clip, and notes of clips whose row has to be made anew because something it
 * was made of changed. The notes are written by the database itself, in the transaction that changes something, so that
 * no code can forget one.
 */
export const rows = {
  name: '008-rows',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      create sequence clip_row_versions;
      create table clip_rows (
        clip_id uuid primary key references clips on delete cascade,
        project_id uuid not null references projects on delete cascade,
        -- Its place in the list of its project: by document as they came in, then as the document has it.
        position int not null default 0,
        -- Greater than every version given before in its project.
        version bigint not null,
        -- The place of the file it is tied to; null where it is tied to none.
        place_id uuid,
        tied_id uuid,
        -- The file that the last decision is about, and its place.
        decided_id uuid,
        decided_place_id uuid,
        -- It says that a file cannot be used, which holds only while the file's place is there.
        is_unusable boolean not null,
        bin text,
        uses int not null,
        used_seconds double precision not null,
        -- The row as JSON while the place of its file is there, and what of it is otherwise while that is away: a drive
        -- that comes or goes turns the one into the other and writes nothing here.
        there text not null,
        away text,
        status_there text not null,
        status_away text,
        certain_there boolean not null,
        certain_away boolean
      );
      create index on clip_rows (project_id, position);
      create index on clip_rows (project_id, version);
      create index on clip_rows (tied_id) where tied_id is not null;
      create index on clip_rows (decided_id) where decided_id is not null;

      -- No key: two transactions may note the same clip and never wait for one another.
      create table stale_rows (
        project_id uuid not null,
        clip_id uuid not null,
        -- Its document changed, and with that how it is used.
        uses boolean not null
      );
      create index on stale_rows (project_id);

      alter table projects
        -- Another number whenever clips come, go or change their order in the list.
        add column list_epoch bigint not null default 0,
        -- How long its last matching took and when it ended: by that every worker knows when the next may be.
        add column matching_took_ms int not null default 0,
        add column matched_at timestamptz;
      alter table places
        -- When it came or went last, as a number of the same count as the versions of rows.
        add column turned bigint not null default 0,
        -- It was asked and has not answered yet; until more is known it counts as it did.
        add column silent boolean not null default false;

      create function note_clips() returns trigger language plpgsql as $$
        begin
          insert into stale_rows select project_id, id, true from changed;
          return null;
        end $$;
      create trigger note_rows_insert after insert on clips
        referencing new table as changed for each statement execute function note_clips();
      create function note_clips_updated() returns trigger language plpgsql as $$
        begin
          insert into stale_rows
            select changed.project_id, changed.id,
              (was.ordinal, was.retired, was.body, was.interpretation)
                is distinct from (changed.ordinal, changed.retired, changed.body, changed.interpretation)
            from changed join was on was.id = changed.id;
          return null;
        end $$;
      create trigger note_rows_update after update on clips
        referencing old table as was new table as changed for each statement execute function note_clips_updated();

      create function note_clips_of() returns trigger language plpgsql as $$
        begin
          insert into stale_rows
            select clips.project_id, clips.id, false from changed join clips on clips.id = changed.clip_id;
          return null;
        end $$;
      create trigger note_rows_insert after insert on links
        referencing new table as changed for each statement execute function note_clips_of();
      create trigger note_rows_update after update on links
        referencing new table as changed for each statement execute function note_clips_of();
      create trigger note_rows_delete after delete on links
        referencing old table as changed for each statement execute function note_clips_of();
      create trigger note_rows_insert after insert on declined
        referencing new table as changed for each statement execute function note_clips_of();
      create trigger note_rows_delete after delete on declined
        referencing old table as changed for each statement execute function note_clips_of();
      create trigger note_rows_insert after insert on proposals
        referencing new table as changed for each statement execute function note_clips_of();
      create trigger note_rows_update after update on proposals
        referencing new table as changed for each statement execute function note_clips_of();
      create trigger note_rows_delete after delete on proposals
        referencing old table as changed for each statement execute function note_clips_of();

      create function note_clips_with() returns trigger language plpgsql as $$
        begin
          insert into stale_rows
            select project_id, clip_id, false from changed join clip_rows on tied_id = changed.id
            union all
            select project_id, clip_id, false from changed join clip_rows on decided_id = changed.id;
          return null;
        end $$;
      create trigger note_rows_update after update on media_files
        referencing new table as changed for each statement execute function note_clips_with();
      create trigger note_rows_delete after delete on media_files
        referencing old table as changed for each statement execute function note_clips_with();

      create function note_document() returns trigger language plpgsql as $$
        begin
          insert into stale_rows
            select clips.project_id, clips.id, true from changed join clips on clips.document_id = changed.id;
          return null;
        end $$;
      create trigger note_rows_update after update on documents
        referencing new table as changed for each statement execute function note_document();

      create function note_project() returns trigger language plpgsql as $$
        begin
          insert into stale_rows select project_id, id, false from clips where project_id = new.id;
          return null;
        end $$;
      create trigger note_rows_update after update of acceptance on projects for each row
        when (old.acceptance is distinct from new.acceptance) execute function note_project();
      create function note_project_of_document() returns trigger language plpgsql as $$
        begin
          -- What a log said of the clips of others goes with it.
          insert into stale_rows select project_id, id, false from clips where project_id = old.project_id;
          return null;
        end $$;
      create trigger note_rows_delete after delete on documents for each row
        execute function note_project_of_document();

      create function note_place() returns trigger language plpgsql as $$
        begin
          if old.name is distinct from new.name then
            insert into stale_rows select project_id, clip_id, false from clip_rows
              where place_id = new.id or decided_place_id = new.id;
          elsif old.there is distinct from new.there then
            insert into stale_rows select project_id, clip_id, false from clip_rows
              where decided_place_id = new.id and is_unusable;
          end if;
          return null;
        end $$;
      create trigger note_rows_update after update of name, there on places for each row execute function note_place();
      create function note_turn() returns trigger language plpgsql as $$
        begin
          new.turned := nextval('clip_row_versions');
          return new;
        end $$;
      create trigger note_turn before update of there on places for each row
        when (old.there is distinct from new.there) execute function note_turn();

      create function note_list() returns trigger language plpgsql as $$
        begin
          update projects set list_epoch = nextval('clip_row_versions')
            where id in (select project_id from changed);
          return null;
        end $$;
      create trigger note_list_insert after insert on clip_rows
        referencing new table as changed for each statement execute function note_list();
      create trigger note_list_delete after delete on clip_rows
        referencing old table as changed for each statement execute function note_list();

      -- Rows of all clips there are, made when somebody looks.
      insert into stale_rows select project_id, id, true from clips where not retired;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

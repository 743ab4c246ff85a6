import type { Knex } from 'knex';

/** What links rested on, clips taken offline on purpose, and how common a clip's name is. */
export const grounds = {
  name: '005-grounds',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      alter table links
        -- Grounds, verdicts, witnesses and the next best, as they stood when the link was made.
        add column because jsonb;
      alter table clips
        -- Untied by a person: what lies where the edit says does not tie it again.
        add column taken_offline boolean not null default false;
      alter table proposals
        -- How often the clip's name stands in the whole index, and what of that was not weighed.
        add column standing jsonb not null default '{"namesakes":0,"outOfTime":0,"leftOut":0}';
      alter table media_files
        -- By which the file system knows the file, whatever it is called; null until it is seen the next time.
        add column inode bigint;
      create index on media_files (place_id, inode) where inode is not null;
      -- What out points of a log may mean.
      update documents set choices = choices || '{"outPoints":[]}';
      alter table documents alter column choices
        set default '{"rates":[],"clipsBy":[],"referenceKeys":[],"columns":null,"outPoints":[]}';
      -- Proposals are worked out anew: more is asked of what is certain.
      delete from proposals;
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

import type { Knex } from 'knex';

/** Jobs say what they are about by fields, and what went wrong as a problem with a code, not as a sentence. */
export const problems = {
  name: '007-problems',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      alter table jobs add column payload jsonb;
      update jobs set payload = case kind
        when 'index-place' then
          jsonb_build_object('placeId', split_part(subject, ' ', 1), 'folder', coalesce(substr(subject, 38), ''))
        when 'match-project' then jsonb_build_object('projectId', subject)
        when 'run-handoff' then jsonb_build_object('handoffId', subject)
        when 'unpack-bundle' then jsonb_build_object('unpackingId', subject)
        when 'trial-read' then jsonb_build_object('trialId', subject, 'scope', coalesce(
          (select t.scope from trial_reads t where t.id::text = subject), 'chosen'))
        when 'accepted-copy' then jsonb_build_object('copyId', subject)
        when 'fetch-shelved' then
          jsonb_build_object('shelf', split_part(subject, '/', 1), 'path', substr(subject, strpos(subject, '/') + 1))
        when 'hash-files' then jsonb_build_object('mediaFileId', subject)
        when 'put-back' then jsonb_build_object('clipId', subject)
      end;
      delete from jobs where payload is null;
      alter table jobs alter column payload set not null;
      alter table jobs rename column label to about;
      alter table jobs drop column subject;
      update jobs set progress = null;
      create index on jobs (kind, state);
    `);
    for (const table of ['jobs', 'handoffs', 'handoff_files'])
      await knex.raw(
        `alter table ?? alter column problem type jsonb
           using case when problem is null then null else jsonb_build_object('code', 'internal', 'detail', problem) end`,
        [table],
      );
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

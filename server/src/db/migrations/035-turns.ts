import type { Knex } from 'knex';

/**
 * Whoever looked after a place came or went asks for what turned later: of two places that come at one moment, the one
 * that is committed last must be the later one by its number, too, or nobody who looked in between is told of it.
 */
export const turnsInOrder = {
  name: '035-turns-in-order',
  async up(knex: Knex): Promise<void> {
    await knex.raw(`
      create function turn_in_order() returns trigger language plpgsql as $$
        begin
          perform pg_advisory_xact_lock(hashtext('turns of places'));
          return null;
        end $$;
      -- Before any row is held, or two that turn the same places could wait for one another.
      create trigger turn_in_order before update of there on places for each statement execute function turn_in_order();
    `);
  },
  down(): Promise<void> {
    return Promise.reject(new Error('Migrations only go forward.'));
  },
};

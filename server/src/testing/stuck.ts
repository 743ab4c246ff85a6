import type { NextFunction, Request, Response } from 'express';
import pg from 'pg';

const tooLongMs = 30_000;

/** Tells once what a house is busy with when something in it takes longer than any test needs: its test ends saying only that. */
export function tellWhenStuck(databaseUrl: string): {
  note: (request: Request, response: Response, next: NextFunction) => void;
  stop: () => Promise<void>;
} {
  const open = new Map<Response, { what: string; since: number }>();
  const look = async () => {
    const requests = [...open.values()].filter(({ since }) => Date.now() - since > tooLongMs).map(({ what }) => what);
    const client = new pg.Client({ connectionString: databaseUrl });
    await client.connect();
    try {
      const ask = async (statement: string) => (await client.query<object>(statement)).rows;
      const jobs = await ask(
        `select kind, about, state, progress, created_at, started_at from jobs where state in ('queued', 'running')
           and created_at < now() - make_interval(secs => ${tooLongMs / 1000})`,
      );
      if (requests.length === 0 && jobs.length === 0) return;
      clearInterval(timer);
      const entries = await ask(
        `select task_identifier, queue_name, run_at, attempts, locked_by, locked_at, last_error from graphile_worker.jobs`,
      );
      const asked = await ask(
        `select pid, state, wait_event_type, wait_event, pg_blocking_pids(pid) as blocked_by, xact_start, left(query, 300) as query
           from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()`,
      );
      console.error('Stuck:', JSON.stringify({ now: new Date(), requests, jobs, entries, asked }, null, 1));
    } finally {
      await client.end();
    }
  };
  let looking = Promise.resolve();
  const timer = setInterval(() => {
    looking = look().catch(() => undefined);
  }, 10_000);
  timer.unref();
  return {
    note: (request, response, next) => {
      open.set(response, { what: `${request.method} ${request.url}`, since: Date.now() });
      response.on('close', () => open.delete(response));
      next();
    },
    // Its database is about to go, and its connection must not be cut off in the middle of a look.
    stop: () => {
      clearInterval(timer);
      return looking;
    },
  };
}

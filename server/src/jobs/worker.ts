import { EventEmitter } from 'node:events';
import { run, type JobHelpers, type Runner, type WorkerEvents } from 'graphile-worker';
import { Logger as QueueLogger } from 'graphile-worker';
import { z } from 'zod';
import { jobIdSchema, jobKinds, type Job, type Problem, type Progress } from '@legame/core/contract';
import type { JobId } from '@legame/core/model';
import type { Context, JobContext } from '../context.ts';
import { tell } from '../events/tell.ts';
import { isConnectionLoss, type Database } from '../db/database.ts';
import { problemFor, UserProblem } from '../problems.ts';
import { jobStore } from '../stores/jobs.ts';
import { workerStore } from '../stores/workers.ts';
import { matchingsAtHand } from '../matching/matchingsAtHand.ts';
import { Rest } from '../rest.ts';
import { tasks } from './tasks/index.ts';

/** A share that stalls holds its jobs up until patience ends; others must go on beside them. */
const jobsAtOnce = 8;
const beatEveryMs = 4000;
const progressEveryMs = 250;
const payloadSchema = z.object({ jobId: jobIdSchema });

/**
 * Carries jobs until stopped. Each task gets a signal that fires on cancel ("cancel") and on shutdown ("shutdown").
 * A heartbeat row tells that this worker lives; the jobs of workers whose heart stopped are set free on a sweep, so a
 * crash costs seconds, not the hours after which the queue itself would give them up. A helper matches nothing, for
 * what is matched is kept in one memory, and leaves the dead to the first worker.
 */
export async function startWorker(
  { db, config, log, readLog }: Context,
  databaseUrl: string,
  { isHelper = false } = {},
): Promise<{ stop: () => Promise<void>; done: Promise<void> }> {
  const shutdown = new AbortController();
  /** The hands of this worker by the names under which they lock entries of the queue, and what each carries. */
  const hands = new Map<string, JobId | null>();
  const events: WorkerEvents = new EventEmitter();
  events.on('worker:create', ({ worker }) => hands.set(worker.workerId, null));
  const idle = () => [...hands].flatMap(([name, carried]) => (carried === null ? [name] : []));
  const lookAfterOthers = async () => {
    await workerStore.freeLost(db, idle());
    if (isHelper) return;
    await workerStore.freeJobsOfTheDead(db);
    for (const id of await jobStore.endGivenUp(db)) await tell(db, 'jobs', id);
  };
  await lookAfterOthers();
  const beat = setInterval(() => {
    void workerStore
      .beat(db, [...hands.keys()])
      .then(lookAfterOthers)
      .catch((error: unknown) => log.error(error, 'heartbeat failed'));
  }, beatEveryMs);

  const rest = new Rest();
  /** What was indexed is what the next matching is about. */
  const readAhead = () =>
    matchingsAtHand(db)
      .readAhead(db)
      .catch((error: unknown) => log.warn(error, 'files were not read ahead'));
  const carryOut = (kind: Job['kind']) => async (payload: unknown, helpers: JobHelpers) => {
    const { jobId } = payloadSchema.parse(payload);
    // Freed by mistake, as seen from here: whoever carries it goes on.
    if ([...hands.values()].includes(jobId)) return;
    const hand = helpers.job.locked_by ?? '';
    hands.set(hand, jobId);
    rest.end();
    try {
      await carryJob({ db, config, log, readLog }, kind, jobId, shutdown.signal);
      // Nobody waits for it, and the next job on this drive does not either.
      if (kind === 'index-place' && !isHelper) void readAhead();
    } finally {
      hands.set(hand, null);
      if (idle().length === hands.size) rest.begin();
    }
  };
  const kinds = jobKinds.filter((kind) => !isHelper || kind !== 'match-project');
  const runner: Runner = await run({
    connectionString: databaseUrl,
    concurrency: jobsAtOnce,
    noHandleSignals: true,
    events,
    pollInterval: 1000,
    logger: new QueueLogger(() => (level, message) => {
      if (level === 'error' || level === 'warning') log.warn(message);
    }),
    taskList: Object.fromEntries(kinds.map((kind) => [kind, carryOut(kind)])),
  });
  await workerStore.beat(db, [...hands.keys()]);
  return {
    done: runner.promise,
    stop: async () => {
      clearInterval(beat);
      rest.end();
      shutdown.abort('shutdown');
      await runner.stop().catch(() => undefined);
      await workerStore.retire(db, [...hands.keys()]);
    },
  };
}

async function carryJob(
  { db, config, log, readLog }: Context,
  kind: Job['kind'],
  id: JobId,
  shutdown: AbortSignal,
): Promise<void> {
  const job = await jobStore.getJob(db, id).catch((error: unknown) => {
    // Only one that nobody knows any more is passed over; a database that does not answer just now is asked again.
    if (error instanceof UserProblem) return null;
    throw error;
  });
  if (!job || (job.state !== 'queued' && job.state !== 'running')) return;
  const cancel = new AbortController();
  const signal = AbortSignal.any([shutdown, cancel.signal]);
  if (await jobStore.isCancelRequested(db, id)) return end(db, id, 'cancelled');
  // Cancelled at this moment.
  if (!(await jobStore.setState(db, id, 'running'))) return;
  const watch = setInterval(() => {
    void jobStore.isCancelRequested(db, id).then(
      (asked) => asked && cancel.abort('cancel'),
      (error: unknown) => log.warn(error, 'cancel flag not read'),
    );
  }, 500);
  await tell(db, 'jobs', id);
  try {
    const task = tasks[kind] as (context: JobContext, payload: Job['payload']) => Promise<void>;
    const working = task({ db, config, readLog, signal, report: throttledReport(db, id, log) }, job.payload);
    // What comes of it once it was given up nobody waits for.
    working.catch(() => undefined);
    await Promise.race([working, givenUpAfter(signal)]);
    await end(db, id, 'done');
  } catch (error) {
    if (cancel.signal.aborted) return await end(db, id, 'cancelled');
    if (shutdown.aborted) {
      await jobStore.setState(db, id, 'queued');
      // Thrown, so that the queue makes it due again for the next worker.
      throw error;
    }
    if (isConnectionLoss(error)) {
      // No fault of the job's: the queue makes it due again, and it goes on where it was.
      await jobStore.setState(db, id, 'queued').catch(() => undefined);
      throw error;
    }
    if (!(error instanceof UserProblem)) log.error(error, `job ${kind} failed`);
    await end(db, id, 'failed', problemFor(error));
  } finally {
    clearInterval(watch);
  }
}

/** A task that was told to stop and hangs in the system itself, as on a share that is gone, holds its slot no longer. */
const patienceToStopMs = 1500;

function givenUpAfter(signal: AbortSignal): Promise<never> {
  return new Promise((_, reject) => {
    const giveUp = () =>
      setTimeout(() => reject(new DOMException('It did not stop in time.', 'AbortError')), patienceToStopMs).unref();
    if (signal.aborted) giveUp();
    else signal.addEventListener('abort', giveUp, { once: true });
  });
}

async function end(db: Database, id: JobId, state: Job['state'], problem: Problem | null = null): Promise<void> {
  await jobStore.setState(db, id, state, problem);
  await tell(db, 'jobs', id);
}

/** Writes progress a few times a second at most, always one write at a time, never after the job has ended. */
function throttledReport(
  db: Database,
  id: JobId,
  log: Context['log'],
): (progress: Omit<Progress, 'elapsedSeconds'>) => Promise<void> {
  const begun = performance.now();
  let last = 0;
  let writing = false;
  return async (progress) => {
    const now = performance.now();
    if (writing || now - last < progressEveryMs) return;
    last = now;
    writing = true;
    try {
      await jobStore.setProgress(db, id, { ...progress, elapsedSeconds: (now - begun) / 1000 });
      await tell(db, 'jobs', id);
    } catch (error) {
      // Nobody waits for it, and the work itself goes on; a database that is away shows soon enough.
      log.warn(error, 'progress not written');
    } finally {
      writing = false;
    }
  };
}

import type { Progress } from '@legame/core/contract';
import type { BaseLogger } from 'pino';
import type { Config } from './config/config.ts';
import type { Database } from './db/database.ts';
import type { ReadLog } from './reading/readLog.ts';

/** What every act may need of the house. The first parameter of all that routes and jobs call is such a context. */
export type Context = {
  readonly db: Database;
  readonly config: Config;
  readonly log: BaseLogger;
  readonly readLog: ReadLog;
};

/** What a view has of it: it looks, and neither tells nor enqueues anything. */
export type Looking = Pick<Context, 'db'>;

/** What a job has of it: it can be stopped, and says how far it is. */
export type JobContext = {
  readonly db: Database;
  readonly config: Config;
  readonly readLog: ReadLog;
  readonly signal: AbortSignal;
  readonly report: (progress: Omit<Progress, 'elapsedSeconds'>) => Promise<void>;
};

import { constants, setPriority } from 'node:os';
import { pino } from 'pino';
import { ReadLog } from './reading/readLog.ts';
import { readConfig } from './config/config.ts';
import { onDatabaseGone, openDatabase } from './db/database.ts';
import { startWorker } from './jobs/worker.ts';
import { tidyUp } from './jobs/tidying.ts';
import { keepPictures } from './jobs/keeping.ts';
import { watchPlaces } from './jobs/watching.ts';
import { useBay } from './disk/conditions.ts';
import { useFence } from './disk/held.ts';
import { letMemoryGrowBy } from './memory.ts';

/** The worker process: carries jobs from the queue until told to stop. Helpers beside the first are told so. */
letMemoryGrowBy(40);
// Who looks is answered first, and this, with all that it starts, takes what is left of the cores.
setPriority(constants.priority.PRIORITY_BELOW_NORMAL);
const isHelper = process.argv.includes('--helper');
const config = readConfig(process.env);
const log = pino({ level: 'warn' }, pino.destination({ dest: 2, sync: true }));
if (!config.databaseUrl) throw new Error('LEGAME_DATABASE is not set. Start Legame with "npm start".');
const db = openDatabase(config.databaseUrl, { mayLoseAMoment: true });
useBay(config.drives);
useFence([...config.roots, config.dataFolder]);
if (!isHelper) await ReadLog.closeLost(db);
const readLog = new ReadLog(db, 'worker');
const worker = await startWorker({ db, config, log, readLog }, config.databaseUrl, { isHelper });
if (!isHelper) {
  const tidy = () =>
    tidyUp({ db, config }).catch((error: unknown) => {
      log.error(error, 'not tidied up');
    });
  void tidy();
  setInterval(() => void tidy(), 3600_000).unref();
}
const watching = isHelper ? null : watchPlaces(db, log);
const keeping = isHelper ? null : keepPictures({ db, config, log, readLog });
const letGo = await onDatabaseGone(config.databaseUrl, (error) => {
  log.error(error, 'the database went away; beginning anew');
  process.exit(1);
});
// Whoever started it may have ended meanwhile, which is heard of as a disconnection.
process.send?.('listening', undefined, {}, () => undefined);

const stop = async () => {
  await letGo();
  watching?.stop();
  keeping?.stop();
  await worker.stop();
  await readLog.close();
  await db.destroy();
  process.exit(0);
};
// A fault of one job must not end those of others.
process.on('unhandledRejection', (error) => log.error(error, 'something failed that nobody waited for'));
process.on('SIGTERM', () => void stop());
// Without its queue it is of no use: it ends, and is started again.
worker.done.then(
  () => undefined,
  (error: unknown) => {
    log.error(error, 'the queue gave up');
    process.exit(1);
  },
);
process.on('SIGINT', () => undefined);
process.on('disconnect', () => void stop());

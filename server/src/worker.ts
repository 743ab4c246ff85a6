import { pino } from 'pino';
import { ReadLog } from './reading/readLog.ts';
import { readConfig } from './config/config.ts';
import { openDatabase } from './db/database.ts';
import { startWorker } from './jobs/worker.ts';
import { watchPlaces } from './jobs/watching.ts';
import { useBay } from './disk/conditions.ts';

/** The worker process: carries jobs from the queue until told to stop. Helpers beside the first are told so. */
const isHelper = process.argv.includes('--helper');
const config = readConfig(process.env);
const log = pino({ level: 'warn' }, pino.destination({ dest: 2, sync: true }));
if (!config.databaseUrl) throw new Error('LEGAME_DATABASE is not set. Start Legame with "npm start".');
const db = openDatabase(config.databaseUrl);
useBay(config.drives);
if (!isHelper) await ReadLog.closeLost(db);
const readLog = new ReadLog(db, 'worker');
const worker = await startWorker({ db, config, log, readLog }, config.databaseUrl, { isHelper });
const watching = isHelper ? null : watchPlaces(db, log);
process.send?.('listening');

const stop = async () => {
  watching?.stop();
  await worker.stop();
  await readLog.close();
  await db.destroy();
  process.exit(0);
};
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => undefined);
process.on('disconnect', () => void stop());

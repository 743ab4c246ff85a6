import { pino } from 'pino';
import { readConfig } from './config/config.ts';
import { openDatabase } from './db/database.ts';
import { startWorker } from './jobs/worker.ts';

/** The worker process: carries jobs from the queue until told to stop. */
const config = readConfig(process.env);
const log = pino({ level: 'warn' }, pino.destination({ dest: 2, sync: true }));
if (!config.databaseUrl) throw new Error('LEGAME_DATABASE is not set. Start Legame with "npm start".');
const db = openDatabase(config.databaseUrl);
const worker = await startWorker(db, config.databaseUrl, log);
process.send?.('listening');

const stop = async () => {
  await worker.stop();
  await db.destroy();
  process.exit(0);
};
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => undefined);
process.on('disconnect', () => void stop());

import { pino } from 'pino';
import { readOutdated } from './documents/bringIn.ts';
import { matchUnmatched } from './matching/matchProject.ts';
import { settleRenames } from './naming/carry.ts';
import { settlePlaces } from './room/clear.ts';
import { sweepPlaces } from './places/states.ts';
import { endDocumentProcesses, standReady } from './documents/apart.ts';
import { ReadLog } from './reading/readLog.ts';
import { readConfig } from './config/config.ts';
import { openDatabase } from './db/database.ts';
import { makeApp } from './http/app.ts';
import { ChangeStream } from './http/events.ts';
import { portTaken } from './http/listen.ts';
import { readToken } from './http/session.ts';
import { useBay } from './disk/conditions.ts';
import { useFence } from './disk/held.ts';
import { letMemoryGrowBy } from './memory.ts';
import { Rest } from './rest.ts';

/** The web process: config → database → http. Long work is the worker's. */
const sweepEveryMs = 1000;

letMemoryGrowBy(30);
const config = readConfig(process.env);
const log = pino({ level: 'warn' }, pino.destination({ dest: 2, sync: true }));
if (!config.databaseUrl) throw new Error('LEGAME_DATABASE is not set. Start Legame with "npm start".');
const db = openDatabase(config.databaseUrl);
const changes = new ChangeStream(config.databaseUrl, log);
await changes.start();
useBay(config.drives);
useFence([...config.roots, config.dataFolder]);
const context = { db, config, log, readLog: new ReadLog(db, 'server') };
await readOutdated(context);
await matchUnmatched({ db });
await settlePlaces(context);
await settleRenames(context);

// Whoever runs this without the page that it serves, as developers do, shows nothing.
const token = config.webFolder ? await readToken(config.tokenFile) : null;
const app = makeApp(context, changes, { token });
const server = app.listen(config.port, '127.0.0.1', (error?: Error) => {
  if (error) {
    log.error(error, `port ${config.port} cannot be used`);
    process.exit(portTaken);
  }
  // Whoever started it may have ended meanwhile, which is heard of as a disconnection.
  process.send?.('listening', undefined, {}, () => undefined);
  standReady(context);
});

const rest = new Rest();
server.on('request', (_, response) => {
  rest.begin();
  response.once('close', () => rest.begin());
});

const sweep = setInterval(() => {
  sweepPlaces(context).catch((error: unknown) => log.error(error, 'places were not looked at'));
  settleRenames(context).catch((error: unknown) => log.error(error, 'renames that were begun were not settled'));
}, sweepEveryMs);

const stop = async () => {
  clearInterval(sweep);
  server.close();
  endDocumentProcesses();
  await changes.close();
  await context.readLog.close();
  server.closeAllConnections();
  await db.destroy();
  process.exit(0);
};
// A fault of one request must not end those of others; it is said, and looked for by tests.
process.on('unhandledRejection', (error) => log.error(error, 'something failed that nobody waited for'));
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => undefined);
process.on('disconnect', () => void stop());

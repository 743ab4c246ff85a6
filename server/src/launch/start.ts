import { fork, spawn, type ChildProcess } from 'node:child_process';
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import { runMigrations } from 'graphile-worker';
import { portTaken } from '../http/listen.ts';
import { readConfig } from '../config/config.ts';
import { migrate, openDatabase } from '../db/database.ts';
import { seedDemo } from '../demo/seed.ts';
import { useFence } from '../disk/held.ts';
import { ensureDatabase, startCluster, type Cluster } from './cluster.ts';
import { holdDataFolder } from './lock.ts';
import { readOrMakeToken } from './secrets.ts';
import { keepUp, ProcessEnded, Supervised } from './supervisor.ts';

/**
 * Starts everything one copy of Legame needs, in order, keeps it up, and stops it in reverse; scripts/start.mjs begins
 * here, from the project's folder. Whatever ends by itself is started again, the database too; only a person ends it.
 * `--dev` runs from source with hot reload.
 */
const root = process.cwd();
const dev = process.argv.includes('--dev');
const say = (text: string) => void process.stdout.write(`${text}\n`);

const config = readConfig(process.env, root);
const running: Supervised[] = [];
const watched: ChildProcess[] = [];
let cluster: Cluster | null = null;
let stopWatching: (() => Promise<void>) | null = null;
let stopping = false;

/** Matching, and lists made anew, make many short-lived objects: with more room for the young ones far fewer are moved. */
const roomOf = { worker: ['--max-semi-space-size=32'], main: ['--max-semi-space-size=16'] };

async function stop(code: number, why: string | null = null): Promise<void> {
  if (stopping) return;
  stopping = true;
  if (why) process.stderr.write(`${why}\n`);
  say('Stopping…');
  await stopWatching?.();
  await Promise.all([...running.map((process) => process.stop()), ...watched.map(end)]);
  await cluster?.stop();
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => void stop(0));
process.on('uncaughtException', (error) => void stop(1, `Legame’s launcher failed: ${error.stack ?? error.message}`));
stopWithParent();

try {
  await mkdir(config.dataFolder, { recursive: true });
  // The one before may still be stopping.
  const hold = await holdDataFolder(config.dataFolder, 10_000);
  if (!hold) {
    const how = 'Stop it, or set LEGAME_DATA (and LEGAME_PORT) to run a second copy beside it.';
    process.stderr.write(`Another Legame is running in ${config.dataFolder}. ${how}\n`);
    process.exit(1);
  }
  say('Starting the database…');
  cluster = await startCluster(join(config.dataFolder, 'postgres'));
  const databaseUrl = await ensureDatabase(cluster, 'legame');
  stopWatching = keepUp(cluster, say);
  await readOrMakeToken(config.tokenFile);
  const db = openDatabase(databaseUrl);
  await migrate(db);
  await runMigrations({ connectionString: databaseUrl });
  const environment = {
    ...process.env,
    LEGAME_DATABASE: databaseUrl,
    LEGAME_DATA: config.dataFolder,
    ...(dev ? {} : { LEGAME_WEB: join(root, 'web/dist') }),
  };
  await keep('worker', environment);
  for (let i = 1; i < config.workers; i += 1) await keep('worker', environment, ['--helper']);
  useFence([...config.roots, config.dataFolder]);
  await seedDemo({ db, config, say });
  await db.destroy();
  await startWeb(environment);
  if (dev) watchClient(environment);
  else
    say(
      `\nLegame is ready: http://127.0.0.1:${config.port}\nCtrl-C stops it; what you did stays in ${config.dataFolder}.`,
    );
} catch (error) {
  await stop(1, error instanceof Error ? error.message : String(error));
}

/** Starts one of the two kinds of processes, waits until it is ready, and keeps it up. */
async function keep(name: 'main' | 'worker', env: NodeJS.ProcessEnv, args: string[] = []): Promise<void> {
  if (dev) {
    // Node watches the sources and restarts the process at each change.
    const source = join(root, `server/src/${name}.ts`);
    const flags = ['--watch', '--watch-preserve-output', '--import', 'tsx'];
    watched.push(spawn(process.execPath, [...flags, source, ...args], { env, stdio: 'inherit' }));
    return;
  }
  const start = () =>
    fork(join(root, `server/dist/${name}.js`), args, {
      // Calls to drives that hang take a thread each for as long as they hang; others need some too.
      env: { ...env, NODE_ENV: 'production', UV_THREADPOOL_SIZE: '32' },
      execArgv: roomOf[name],
    });
  const supervised = new Supervised(name, start, say);
  running.push(supervised);
  await supervised.up();
}

/** The port may be held for a moment by a web process that is on its way out. */
async function startWeb(env: NodeJS.ProcessEnv): Promise<void> {
  for (let tries = 1; ; tries += 1) {
    try {
      return await keep('main', env);
    } catch (error) {
      if (!(error instanceof ProcessEnded) || error.code !== portTaken) throw error;
      running.pop();
      if (tries === 10)
        throw new Error(`Port ${config.port} is taken. Stop what uses it, or choose another with LEGAME_PORT.`, {
          cause: error,
        });
      await after(1000);
    }
  }
}

function watchClient(env: NodeJS.ProcessEnv): void {
  const vite = join(root, 'node_modules/vite/bin/vite.js');
  const options = { stdio: 'inherit', env: { ...env, LEGAME_PORT: String(config.port) } } as const;
  watched.push(spawn(process.execPath, [vite, join(root, 'web')], options));
}

function end(child: ChildProcess): Promise<void> {
  return new Promise((resolve) => {
    if (child.exitCode !== null || child.signalCode !== null) return resolve();
    child.once('exit', () => resolve());
    child.kill('SIGTERM');
  });
}

/** Started by npm, it ends with npm: not every signal that ends npm is passed on by it. */
function stopWithParent(): void {
  if (!process.env.npm_lifecycle_event) return;
  const parent = process.ppid;
  setInterval(() => {
    if (process.ppid !== parent) void stop(0, 'The process that started Legame is gone.');
  }, 500).unref();
}

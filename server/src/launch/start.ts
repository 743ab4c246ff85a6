import { fork, spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { runMigrations } from 'graphile-worker';
import { lock } from 'proper-lockfile';
import { readConfig, type Config } from '../config/config.ts';
import { migrate, openDatabase } from '../db/database.ts';
import { seedDemo } from '../demo/seed.ts';
import { ensureDatabase, startCluster, type Cluster } from './cluster.ts';

/**
 * Starts everything one copy of Legame needs, in order, and stops it in reverse; scripts/start.mjs begins here, from the
 * project's folder. `--dev` runs from source with hot reload.
 */
const root = process.cwd();
const dev = process.argv.includes('--dev');
const say = (text: string) => process.stdout.write(`${text}\n`);

const config = readConfig(process.env, root);
await mkdir(config.dataFolder, { recursive: true });
const release = await takeLock(config);
const children: ChildProcess[] = [];
let cluster: Cluster | null = null;
let stopping = false;

async function stop(code: number): Promise<void> {
  if (stopping) return;
  stopping = true;
  say('Stopping…');
  await Promise.all(children.map(endChild));
  await cluster?.stop();
  await release().catch(() => undefined);
  process.exit(code);
}
process.on('SIGINT', () => void stop(0));
process.on('SIGTERM', () => void stop(0));
process.on('SIGHUP', () => void stop(0));

try {
  say('Starting the database…');
  cluster = await startCluster(join(config.dataFolder, 'postgres'));
  const databaseUrl = await ensureDatabase(cluster, 'legame');
  const db = openDatabase(databaseUrl);
  await migrate(db);
  await runMigrations({ connectionString: databaseUrl });
  const environment = {
    ...process.env,
    LEGAME_DATABASE: databaseUrl,
    LEGAME_DATA: config.dataFolder,
    ...(dev ? {} : { LEGAME_WEB: join(root, 'web/dist') }),
  };
  await startChild('worker', environment);
  for (let i = 1; i < config.workers; i += 1) await startChild('worker', environment, ['--helper']);
  await seedDemo({ db, config, say });
  await db.destroy();
  await startChild('main', environment);
  if (dev)
    children.push(
      spawn(process.execPath, [join(root, 'node_modules/vite/bin/vite.js'), join(root, 'web')], {
        stdio: 'inherit',
        env: { ...environment, LEGAME_PORT: String(config.port) },
      }),
    );
  else
    say(
      `\nLegame is ready: http://127.0.0.1:${config.port}\nCtrl-C stops it; what you did stays in ${config.dataFolder}.`,
    );
} catch (error) {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  await stop(1);
}

/**
 * Forks one of the two processes and waits until it is ready. Should it die, it is started again; its jobs go on.
 * In development Node watches the sources instead and restarts the process at each change.
 */
async function startChild(name: 'main' | 'worker', env: NodeJS.ProcessEnv, args: string[] = []): Promise<void> {
  if (dev) {
    const source = join(root, `server/src/${name}.ts`);
    const flags = ['--watch', '--watch-preserve-output', '--import', 'tsx'];
    children.push(spawn(process.execPath, [...flags, source, ...args], { env, stdio: 'inherit' }));
    return;
  }
  // Matching, and lists made anew, make many short-lived objects; with more room for the young ones far fewer are moved.
  const child = fork(join(root, `server/dist/${name}.js`), args, {
    env: { ...env, NODE_ENV: 'production' },
    execArgv: [`--max-semi-space-size=${name === 'worker' ? 128 : 32}`],
  });
  children.push(child);
  await new Promise<void>((resolve, reject) => {
    child.once('message', () => resolve());
    child.once('error', reject);
    child.once('exit', (code) => reject(new Error(whyItEnded(name, code))));
  });
  child.removeAllListeners('exit');
  child.on('exit', () => {
    children.splice(children.indexOf(child), 1);
    if (!stopping) setTimeout(() => void startChild(name, env, args).catch(() => stop(1)), 500);
  });
}

const whyItEnded = (name: string, code: number | null): string =>
  name === 'main' && code === 1
    ? `Port ${config.port} is taken. Stop what uses it, or choose another with LEGAME_PORT.`
    : `The ${name} process ended with code ${code}.`;

function endChild(child: ChildProcess): Promise<void> {
  return new Promise((resolve) => {
    if (child.exitCode !== null || child.signalCode !== null) return resolve();
    const hard = setTimeout(() => child.kill('SIGKILL'), 8000);
    child.once('exit', () => {
      clearTimeout(hard);
      resolve();
    });
    child.kill('SIGTERM');
  });
}

/** One Legame per data folder. The lock of one that crashed goes stale after a few seconds and is taken over. */
async function takeLock({ dataFolder }: Config): Promise<() => Promise<void>> {
  const lockfilePath = join(dataFolder, 'running.lock');
  if (existsSync(lockfilePath)) say('Another Legame uses this data folder, or one crashed; looking…');
  try {
    return await lock(dataFolder, {
      lockfilePath,
      stale: 6000,
      update: 2000,
      retries: { retries: 9, factor: 1, minTimeout: 1000 },
      onCompromised: () => undefined,
    });
  } catch {
    process.stderr.write(
      `Another Legame is running in ${dataFolder}. Stop it, or set LEGAME_DATA (and LEGAME_PORT) to run a second copy beside it.\n`,
    );
    process.exit(1);
  }
}

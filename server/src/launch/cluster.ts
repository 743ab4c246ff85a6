import getPort from 'get-port';
import { execFile } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import { chown, mkdir, readFile, rm, stat } from 'node:fs/promises';
import { userInfo } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';

const exec = promisify(execFile);

/**
 * A private PostgreSQL in a data folder: on loopback only, without a socket, for this copy of Legame alone.
 * The server refuses to run as root, so as root its programs run as the user "postgres" that Debian's package makes.
 */
export type Cluster = {
  readonly port: number;
  /** Somebody else had started it. */
  readonly wasRunning: boolean;
  readonly stop: () => Promise<void>;
  readonly urlOf: (database: string) => string;
};

const superuser = 'legame';

export async function startCluster(folder: string): Promise<Cluster> {
  const programs = findPrograms();
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const owner = await ownerFor(folder);
  const run = (program: string, args: readonly string[]) => asOwner(owner, join(programs, program), args);
  if (!existsSync(join(folder, 'PG_VERSION'))) {
    await run('initdb', [
      '-D',
      folder,
      '-A',
      'trust',
      '-E',
      'UTF8',
      '--locale=C.UTF-8',
      '-U',
      superuser,
      '--no-instructions',
      '-N',
    ]);
  }
  const stop = async () => {
    await run('pg_ctl', ['stop', '-D', folder, '-m', 'fast', '-w', '-t', '30']).catch(() => undefined);
  };
  const running = await runningPort(folder);
  const port = running ?? (await startServer(folder, run));
  return {
    port,
    wasRunning: running !== null,
    stop,
    urlOf: (database) => `postgres://${superuser}@127.0.0.1:${port}/${database}`,
  };
}

async function startServer(
  folder: string,
  run: (program: string, args: readonly string[]) => Promise<unknown>,
): Promise<number> {
  const port = await getPort({ host: '127.0.0.1' });
  const options = `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories= -c max_connections=60 -c shared_buffers=128MB -c synchronous_commit=off`;
  await run('pg_ctl', ['start', '-D', folder, '-w', '-t', '60', '-s', '-l', join(folder, 'server.log'), '-o', options]);
  return port;
}

/** Creates a database where it is absent. */
export async function ensureDatabase(cluster: Cluster, name: string): Promise<string> {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: cluster.urlOf('postgres') });
  await client.connect();
  try {
    const { rowCount } = await client.query('select 1 from pg_database where datname = $1', [name]);
    if (!rowCount) await client.query(`create database ${client.escapeIdentifier(name)}`);
  } finally {
    await client.end();
  }
  return cluster.urlOf(name);
}

/**
 * The port of a server that really runs on this folder. After a crash the pid file is stale: its process is gone, or
 * the number has gone to another program, so the process itself is asked for its command line. A stale file is removed.
 */
async function runningPort(folder: string): Promise<number | null> {
  const pidFile = join(folder, 'postmaster.pid');
  const lines = (await readFile(pidFile, 'utf8').catch(() => '')).split('\n');
  const pid = Number(lines[0]);
  if (!pid) return null;
  const command = await readFile(`/proc/${pid}/cmdline`, 'utf8').catch(() => '');
  if (command.includes('postgres') && command.includes(folder)) return Number(lines[3]) || null;
  await rm(pidFile, { force: true });
  return null;
}

function findPrograms(): string {
  const root = '/usr/lib/postgresql';
  const versions = existsSync(root) ? readdirSync(root).filter((v) => existsSync(join(root, v, 'bin', 'initdb'))) : [];
  const newest = versions.sort((a, b) => Number(b) - Number(a))[0];
  if (!newest) throw new Error('PostgreSQL is not installed. Run: apt-get install -y postgresql');
  return join(root, newest, 'bin');
}

type Owner = { readonly uid: number; readonly gid: number; readonly reachesByCapability: boolean } | null;

/** Null when this user runs PostgreSQL itself; as root, the ids of "postgres", to whom the folder is then given. */
async function ownerFor(folder: string): Promise<Owner> {
  if (userInfo().uid !== 0) return null;
  const [uid, gid] = await Promise.all(
    ['-u', '-g'].map(async (flag) => Number((await exec('id', [flag, 'postgres'])).stdout)),
  );
  if (!uid || !gid)
    throw new Error('There is no user "postgres" to run PostgreSQL as. Run: apt-get install -y postgresql');
  const { uid: now } = await stat(folder);
  if (now !== uid) await chown(folder, uid, gid);
  const plain = { uid, gid, reachesByCapability: false };
  // A closed folder above (such as /root) keeps postgres out; then it gets leave to look through folders, no more.
  const reaches = await asOwner(plain, 'stat', [join(folder, '.')]).then(
    () => true,
    () => false,
  );
  return { ...plain, reachesByCapability: !reaches };
}

function asOwner(owner: Owner, program: string, args: readonly string[]): Promise<unknown> {
  const options = { cwd: '/', env: { PATH: process.env.PATH, LC_ALL: 'C.UTF-8' }, timeout: 90_000 };
  if (!owner) return exec(program, args, options);
  const capability = owner.reachesByCapability
    ? ['--inh-caps=+dac_read_search', '--ambient-caps=+dac_read_search']
    : [];
  return exec(
    'setpriv',
    [`--reuid=${owner.uid}`, `--regid=${owner.gid}`, '--clear-groups', ...capability, program, ...args],
    options,
  );
}

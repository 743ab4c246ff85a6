import getPort from 'get-port';
import { spawn, type ChildProcess } from 'node:child_process';
import { createWriteStream, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = dirname(dirname(fileURLToPath(import.meta.url)));

/** A running copy of Legame with the demo, in a data folder of the tests' own. */
export type Legame = {
  readonly url: string;
  readonly bay: string;
  readonly documents: string;
  /** Where what it says is kept. */
  readonly log: string;
  /** What programs show to use its interface. */
  readonly token: string;
  readonly stop: () => Promise<void>;
};

/** Starts Legame by its own start command, with a fresh database; the demo's media are kept between runs. */
export async function startLegame(): Promise<Legame> {
  const data = join(root, '.legame-test', 'browser');
  for (const stale of ['postgres', 'cache', 'bay/DELIVERY'])
    rmSync(join(data, stale), { recursive: true, force: true });
  mkdirSync(data, { recursive: true });
  const port = await getPort({ host: '127.0.0.1' });
  const env = {
    ...process.env,
    LEGAME_DATA: data,
    LEGAME_PORT: String(port),
    LEGAME_ROOTS: join(data, 'bay'),
    LEGAME_DEMO: 'on',
  };
  const child = spawn(process.execPath, [join(root, 'scripts/start.mjs')], {
    cwd: root,
    env,
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  const log = createWriteStream(join(data, 'said.log'));
  child.stdout.pipe(log);
  child.stderr.pipe(log);
  await ready(child);
  return {
    url: `http://127.0.0.1:${port}`,
    bay: join(data, 'bay'),
    documents: join(data, 'demo-documents'),
    log: join(data, 'said.log'),
    token: readFileSync(join(data, 'token'), 'utf8').trim(),
    stop: () =>
      new Promise((resolve) => {
        child.once('exit', () => resolve());
        child.kill('SIGTERM');
      }),
  };
}

function ready(child: ChildProcess): Promise<void> {
  return new Promise((resolve, reject) => {
    let said = '';
    const listen = (chunk: Buffer) => {
      said += chunk.toString();
      if (said.includes('Legame is ready')) resolve();
    };
    child.stdout?.on('data', listen);
    child.stderr?.on('data', listen);
    child.once('exit', (code) => reject(new Error(`Legame did not start (${code}): ${said}`)));
  });
}

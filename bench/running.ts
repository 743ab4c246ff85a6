import { spawn, type ChildProcess } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import getPort from 'get-port';

export type Running = {
  readonly url: string;
  readonly token: string;
  readonly child: ChildProcess;
  readonly stop: () => Promise<void>;
};

/** A Legame with nothing in it that is started as people start it, its data below this folder, which is all it may read. */
export async function startLegame(root: string, settings: Readonly<Record<string, string>> = {}): Promise<Running> {
  rmSync(join(root, 'data'), { recursive: true, force: true });
  const port = await getPort({ host: '127.0.0.1' });
  const child = spawn(process.execPath, ['scripts/start.mjs'], {
    env: {
      ...process.env,
      LEGAME_DATA: join(root, 'data'),
      LEGAME_PORT: String(port),
      LEGAME_ROOTS: root,
      LEGAME_DEMO: 'off',
      ...settings,
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((resolve, reject) => {
    child.stdout!.on('data', (chunk: Buffer) => chunk.toString().includes('Legame is ready') && resolve());
    child.once('exit', () => reject(new Error('Legame did not start.')));
  });
  return {
    url: `http://127.0.0.1:${port}`,
    token: readFileSync(join(root, 'data', 'token'), 'utf8').trim(),
    child,
    stop: () =>
      new Promise((resolve) => {
        child.once('exit', () => resolve());
        child.kill('SIGTERM');
      }),
  };
}

/** What is asked of it through HTTP; anything but an answer is thrown. */
export function talkTo({ url, token }: Running) {
  const ask = async (path: string, init?: RequestInit) => {
    const headers = { ...init?.headers, authorization: `Bearer ${token}` };
    const answer = await fetch(`${url}/api${path}`, { ...init, headers });
    const text = await answer.text();
    if (!answer.ok) throw new Error(`${path}: ${answer.status} ${text.slice(0, 300)}`);
    return text;
  };
  const get = async <T>(path: string) => JSON.parse(await ask(path)) as T;
  const post = async <T>(path: string, body: object) =>
    JSON.parse(
      (await ask(path, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      })) || 'null',
    ) as T;
  const quiet = async () => {
    for (;;) {
      const jobs = await get<{ state: string }[]>('/jobs');
      if (!jobs.some((j) => j.state === 'queued' || j.state === 'running')) return;
      await after(50);
    }
  };
  return { ask, get, post, quiet };
}

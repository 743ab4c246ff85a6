import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, openSync, readdirSync, readFileSync, readlinkSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';

/** What can be killed of a running Legame. */
export const victims = ['web', 'worker', 'launcher', 'backend', 'postmaster'] as const;
export type Victim = (typeof victims)[number];

/** A Legame started as people start it, for being mistreated. */
export class MistreatedLegame {
  readonly port: number;
  readonly data: string;
  readonly roots: string;
  #launcher: ChildProcess | null = null;

  constructor(port: number, data: string, roots: string) {
    this.port = port;
    this.data = data;
    this.roots = roots;
  }

  async start(): Promise<void> {
    const child = spawn(process.execPath, ['scripts/start.mjs'], {
      env: {
        ...process.env,
        LEGAME_DATA: this.data,
        LEGAME_PORT: String(this.port),
        LEGAME_ROOTS: this.roots,
        LEGAME_DEMO: 'off',
      },
      // What it complains of is kept beside its data.
      stdio: ['ignore', 'pipe', openSync(join(this.roots, '../complaints.log'), 'a')],
    });
    this.#launcher = child;
    await new Promise<void>((resolve, reject) => {
      child.stdout!.on('data', (chunk: Buffer) => chunk.toString().includes('Legame is ready') && resolve());
      child.once('exit', (code) => reject(new Error(`Legame ended with ${code} instead of starting.`)));
    });
  }

  async stop(): Promise<void> {
    const child = this.#launcher;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    await new Promise<void>((resolve) => {
      child.once('exit', () => resolve());
      child.kill('SIGTERM');
    });
  }

  /** Kills one of its processes at once; false where there is none of that kind just now. */
  async kill(victim: Victim): Promise<boolean> {
    const pids = this.#pidsOf(victim);
    const pid = pids[Math.floor(Math.random() * pids.length)];
    if (pid === undefined) return false;
    try {
      // That a child ended is heard of a little later than it happened.
      const ended = victim === 'launcher' ? once(this.#launcher!, 'exit') : null;
      process.kill(pid, 'SIGKILL');
      await ended;
      return true;
    } catch {
      return false;
    }
  }

  /** Milliseconds until it answers again; a launcher that was killed is started again, as a person would. */
  async untilUp(): Promise<number> {
    const begun = performance.now();
    const child = this.#launcher;
    if (child && (child.signalCode !== null || child.exitCode !== null)) await this.start();
    while (!(await this.get('/jobs').catch(() => null))) {
      if (performance.now() - begun > 60_000)
        throw new Error(`It did not come up again within a minute. ${this.#standing()}`);
      await after(50);
    }
    return performance.now() - begun;
  }

  /** What runs of it, and what it complained of last. */
  #standing(): string {
    const runs = victims.map((victim) => `${victim} ${this.#pidsOf(victim).join(' ') || 'none'}`);
    const complaints = readOr(join(this.roots, '../complaints.log')).slice(-3000);
    return `Running: ${runs.join(', ')}. Last complaints: ${complaints}`;
  }

  #pidsOf(victim: Victim): number[] {
    const postmaster = Number(readOr(join(this.data, 'postgres/postmaster.pid')).split('\n')[0]);
    switch (victim) {
      case 'launcher':
        return this.#launcher?.pid ? [this.#launcher.pid] : [];
      case 'postmaster':
        return postmaster ? [postmaster] : [];
      case 'backend':
        return processes().flatMap((p) => (p.parent === postmaster && p.command.includes('legame_app') ? [p.pid] : []));
      default: {
        const program = victim === 'web' ? 'main.js' : 'worker.js';
        return processes().flatMap((p) =>
          p.parent === this.#launcher?.pid && p.command.includes(`dist/${program}`) ? [p.pid] : [],
        );
      }
    }
  }

  async ask(method: string, path: string, body?: object | Uint8Array): Promise<{ status: number; body: unknown }> {
    const isBytes = body instanceof Uint8Array;
    const answer = await fetch(`http://127.0.0.1:${this.port}/api${path}`, {
      method,
      headers: {
        authorization: `Bearer ${readOr(join(this.data, 'token')).trim()}`,
        ...(body ? { 'content-type': isBytes ? 'application/octet-stream' : 'application/json' } : {}),
      },
      ...(body ? { body: isBytes ? Buffer.from(body) : JSON.stringify(body) } : {}),
      signal: AbortSignal.timeout(30_000),
    });
    const text = await answer.text();
    return { status: answer.status, body: text === '' ? null : (JSON.parse(text) as unknown) };
  }

  async get<T>(path: string): Promise<T> {
    const { status, body } = await this.ask('GET', path);
    if (status !== 200) throw new Error(`${path}: ${status} ${JSON.stringify(body)}`);
    return body as T;
  }

  async idle(): Promise<void> {
    for (let i = 0; i < 1800; i += 1) {
      const jobs = await this.get<{ kind: string; state: string; about: string }[]>('/jobs').catch(() => null);
      if (jobs && !jobs.some((j) => j.state === 'queued' || j.state === 'running')) return;
      await after(100);
    }
    throw new Error(`Jobs did not end: ${JSON.stringify(await this.get('/jobs'))}`);
  }
}

function readOr(path: string): string {
  return existsSync(path) ? readFileSync(path, 'utf8') : '';
}

function processes(): { pid: number; parent: number; command: string }[] {
  return readdirSync('/proc').flatMap((name) => {
    const pid = Number(name);
    if (!pid) return [];
    try {
      readlinkSync(`/proc/${name}/cwd`);
      const status = readFileSync(`/proc/${name}/status`, 'utf8');
      const parent = Number(/^PPid:\s+(\d+)/m.exec(status)?.[1]);
      return [{ pid, parent, command: readFileSync(`/proc/${name}/cmdline`, 'utf8').replaceAll('\0', ' ') }];
    } catch {
      return [];
    }
  });
}

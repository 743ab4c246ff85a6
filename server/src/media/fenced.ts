import { spawn, type ChildProcess } from 'node:child_process';
import { ProgramPatience } from '../disk/programPatience.ts';

export type { ChildProcess };

export type FencedLimits = {
  /** In which it waits for something other than a processor; see `ProgramPatience`. */
  readonly seconds: number;
  readonly cpuSeconds: number;
  readonly memoryInBytes: number;
  readonly outputInBytes: number;
};

export type FencedResult =
  | { readonly end: 'exited'; readonly code: number; readonly stdout: Buffer; readonly stderr: string }
  | { readonly end: 'too-slow'; readonly seconds: number }
  | { readonly end: 'too-much-output'; readonly limitInBytes: number }
  | { readonly end: 'aborted' };

export type FencedOptions = {
  readonly signal?: AbortSignal | undefined;
  readonly onOutput?: (chunk: Buffer) => void;
  /** Files that the program gets opened, from descriptor 3 on: it is told no path that somebody could swap. */
  readonly files?: readonly { readonly fd: number }[];
};

/** How a program that was given opened files calls the first of them; the others follow. */
export const firstGiven = 3;
export const givenFile = (index = 0): string => `/proc/self/fd/${firstGiven + index}`;

/** A program that waits in the system itself for a drive does not end even when it is killed. */
const patienceToEndMs = 5000;

/** Programs get groups of their own, unless whoever starts them is to end together with them. */
let inOwnGroup = true;
export const endTogether = (): void => {
  inOwnGroup = false;
};

/**
 * The one way in which Legame runs another program: arguments as a list and never a shell, no input, an almost empty
 * environment, and hard limits on time, processor, memory and output. The whole process group dies at a limit. Output
 * that is taken as it comes is not kept.
 */
export function runFenced(
  program: string,
  args: readonly string[],
  limits: FencedLimits,
  { signal, onOutput, files = [] }: FencedOptions = {},
): Promise<FencedResult> {
  return new Promise((resolve, reject) => {
    if (signal?.aborted) return resolve({ end: 'aborted' });
    const child = spawn(
      'prlimit',
      [`--as=${limits.memoryInBytes}`, `--cpu=${limits.cpuSeconds}`, '--core=0', program, ...args],
      {
        stdio: ['ignore', 'pipe', 'pipe', ...files.map((f) => f.fd)],
        detached: inOwnGroup,
        env: { PATH: process.env.PATH, LC_ALL: 'C.UTF-8' },
      },
    );
    const out: Buffer[] = [];
    let size = 0;
    let errors = '';
    let early: FencedResult | null = null;
    const stop = (result: FencedResult) => {
      if (early) return;
      early = result;
      if (inOwnGroup) killGroup(child);
      else child.kill('SIGKILL');
      setTimeout(() => over(result), patienceToEndMs).unref();
    };
    const over = (result: FencedResult) => {
      patience.end();
      signal?.removeEventListener('abort', onAbort);
      resolve(result);
    };
    const patience = new ProgramPatience(child.pid, limits.seconds * 1000, () =>
      stop({ end: 'too-slow', seconds: limits.seconds }),
    );
    const onAbort = () => stop({ end: 'aborted' });
    signal?.addEventListener('abort', onAbort, { once: true });
    child.stdout!.on('data', (chunk: Buffer) => {
      size += chunk.length;
      if (size > limits.outputInBytes) stop({ end: 'too-much-output', limitInBytes: limits.outputInBytes });
      else if (onOutput) onOutput(chunk);
      else out.push(chunk);
    });
    child.stderr!.on('data', (chunk: Buffer) => {
      if (errors.length < 8000) errors += chunk.toString('utf8');
    });
    child.on('error', (error) => {
      patience.end();
      reject(error);
    });
    child.on('close', (code, killed) => {
      // A signal that is not ours is the processor limit.
      if (!early && killed) early = { end: 'too-slow', seconds: limits.cpuSeconds };
      over(early ?? { end: 'exited', code: code ?? -1, stdout: Buffer.concat(out), stderr: errors });
    });
  });
}

/**
 * Starts a program that stays and is talked to by lines, in the same fence: arguments as a list, an almost empty
 * environment, a limit on memory. Its errors go nowhere; whoever asks it watches the time.
 */
export function spawnFenced(
  program: string,
  args: readonly string[],
  options: { readonly dataInBytes: number; readonly env: Readonly<Record<string, string>>; readonly cwd: string },
): ChildProcess {
  return spawn('prlimit', [`--data=${options.dataInBytes}`, '--core=0', program, ...args], {
    stdio: ['pipe', 'pipe', 'ignore'],
    detached: true,
    cwd: options.cwd,
    env: { PATH: process.env.PATH, LC_ALL: 'C.UTF-8', ...options.env },
  });
}

/** Starts a program of Node's in the same fence that is talked to by messages, which may hold bytes as they are. */
export function forkFenced(
  args: readonly string[],
  options: { readonly dataInBytes: number; readonly env: Readonly<Record<string, string>>; readonly cwd: string },
): ChildProcess {
  return spawn('prlimit', [`--data=${options.dataInBytes}`, '--core=0', process.execPath, ...args], {
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    serialization: 'advanced',
    detached: true,
    cwd: options.cwd,
    env: { PATH: process.env.PATH, LC_ALL: 'C.UTF-8', ...options.env },
  });
}

/** Ends a program with everything that it started. */
export function killGroup(child: ChildProcess): void {
  if (child.pid === undefined) return;
  try {
    process.kill(-child.pid, 'SIGKILL');
  } catch {
    // It ended by itself in the meantime.
  }
}

import { readFileSync } from 'node:fs';
import { cpus, totalmem } from 'node:os';
import { setTimeout as after } from 'node:timers/promises';

/**
 * Runs something several times after one run that does not count; milliseconds, sorted, and the memory at its height.
 * What `prepare` does before each run is not measured.
 */
export async function measure(
  run: () => unknown,
  prepare: () => unknown = () => undefined,
  runs = 5,
): Promise<{ median: number; least: number; most: number; heapInBytes: number }> {
  await prepare();
  await run();
  const times: number[] = [];
  let heapInBytes = 0;
  for (let i = 0; i < runs; i += 1) {
    await prepare();
    globalThis.gc?.();
    await after(0);
    const begun = performance.now();
    await run();
    times.push(performance.now() - begun);
    heapInBytes = Math.max(heapInBytes, process.memoryUsage().heapUsed);
  }
  times.sort((a, b) => a - b);
  return { median: times[Math.floor(times.length / 2)]!, least: times[0]!, most: times.at(-1)!, heapInBytes };
}

export const machine = (): string =>
  `${cpus().length} cores (${cpus()[0]?.model.trim() ?? 'unknown'}), ${Math.round(totalmem() / 1e9)} GB, Node.js ${process.versions.node}`;
export const ms = (n: number): string => (n < 10 ? n.toFixed(2) : n.toFixed(0));
export const say = (line: string): void => void process.stdout.write(`${line}\n`);

/** Begins a table of what takes how long, and gives what measures a line of it. */
export function tellTimes(title: string): <T>(what: string, run: () => Promise<T>) => Promise<T> {
  say(`\n## ${title}`);
  say('| what | ms |');
  say('|---|---|');
  return async (what, run) => {
    const begun = performance.now();
    const result = await run();
    say(`| ${what} | ${ms(performance.now() - begun)} |`);
    return result;
  };
}

/** Resident memory of a process and all that it started, by what each runs. */
export function memoryOf(pid: number): string {
  const children = (of: number): number[] => {
    try {
      const list = readFileSync(`/proc/${of}/task/${of}/children`, 'utf8')
        .trim()
        .split(' ')
        .filter(Boolean)
        .map(Number);
      return [...list, ...list.flatMap(children)];
    } catch {
      return [];
    }
  };
  return [pid, ...children(pid)]
    .flatMap((p) => {
      try {
        const command = readFileSync(`/proc/${p}/cmdline`, 'utf8').split('\0').filter(Boolean);
        const kib = Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${p}/status`, 'utf8'))?.[1] ?? 0);
        return command[0]?.includes('postgres')
          ? []
          : [`${command.at(-1)!.split('/').at(-1)} ${Math.round(kib / 1024)} MB`];
      } catch {
        return [];
      }
    })
    .join(', ');
}

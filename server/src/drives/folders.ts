import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Context } from '../context.ts';
import { bayStateFile, bayStateSchema, type Condition } from '../disk/conditions.ts';
import { readOwnFile } from '../disk/own.ts';
import { UserProblem } from '../problems.ts';

/**
 * The bay of simulated drives that ships with Legame, for trying what storage does to an edit: folders that are plugged
 * and unplugged by being moved, conditions that everything which touches storage endures (`disk/conditions.ts`), and
 * two shelves whose files come back some time after they were asked for. Nothing else knows that they are simulated.
 */
export const unpluggedFolder = '.unplugged';

export const shelfFolder = '.shelves';

export function bayOf({ config }: Pick<Context, 'config'>): string {
  if (config.drives !== null) return config.drives;
  throw new UserProblem({ code: 'no-drive-bay' });
}

export async function bayState(bay: string): Promise<Readonly<Record<string, Condition>>> {
  const text = await readOwnFile(join(bay, bayStateFile));
  return text === null ? {} : bayStateSchema.parse(JSON.parse(text)).drives;
}

export async function foldersIn(path: string): Promise<string[]> {
  const entries = await readdir(path, { withFileTypes: true }).catch(() => []);
  return entries.filter((e) => e.isDirectory() && !e.name.startsWith('.')).map((e) => e.name);
}

export async function filesUnder(path: string): Promise<{ path: string; sizeInBytes: number }[]> {
  const entries = await readdir(path, { withFileTypes: true, recursive: true }).catch(() => []);
  return Promise.all(
    entries
      .filter((e) => e.isFile())
      .map(async (e) => {
        const whole = join(e.parentPath, e.name);
        return { path: whole.slice(path.length + 1), sizeInBytes: (await stat(whole)).size };
      }),
  );
}

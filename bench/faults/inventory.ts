import { createHash } from 'node:crypto';
import { lstatSync, readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';

/** Every file under a folder with the hash of its content; links by where they lead. */
export function inventory(folder: string): Map<string, string> {
  const found = new Map<string, string>();
  for (const entry of readdirSync(folder, { withFileTypes: true, recursive: true })) {
    const path = join(entry.parentPath, entry.name);
    if (!entry.isFile()) continue;
    found.set(relative(folder, path), createHash('sha256').update(readFileSync(path)).digest('hex'));
  }
  return found;
}

/** What is not as it was: gone, changed; files that came are not held against anybody here. */
export function harmed(before: ReadonlyMap<string, string>, after: ReadonlyMap<string, string>): string[] {
  return [...before].flatMap(([path, hash]) =>
    after.get(path) === hash ? [] : [`${path} ${after.has(path) ? 'was changed' : 'is gone'}`],
  );
}

export const litterIn = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter((entry) => entry.name.startsWith('.legame-') || entry.name.endsWith('.part'))
    .map((entry) => relative(folder, join(entry.parentPath, entry.name)));

/** Whether bytes of a canary stand in any file under a folder. */
export function holdsCanary(folder: string, canary: Buffer): string[] {
  return readdirSync(folder, { withFileTypes: true, recursive: true }).flatMap((entry) => {
    const path = join(entry.parentPath, entry.name);
    if (!entry.isFile() || lstatSync(path).size > 200_000_000) return [];
    return readFileSync(path).includes(canary) ? [relative(folder, path)] : [];
  });
}

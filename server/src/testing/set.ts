import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { listFolder, ListReader, type HashedFile } from '@legame/core/mhl';

/** The files that the hash list of a set tells of, by their paths. */
export function listedIn(folder: string): Map<string, HashedFile> {
  const name = readdirSync(join(folder, listFolder)).find((n) => n.endsWith('.mhl'));
  if (name === undefined) throw new Error(`${folder} has no hash list`);
  const files: HashedFile[] = [];
  const reader = new ListReader((file) => files.push(file));
  reader.add(readFileSync(join(folder, listFolder, name), 'utf8'));
  const read = reader.end();
  if (!read.ok) throw new Error(JSON.stringify(read.fault));
  return new Map(files.map((f) => [f.path, f]));
}

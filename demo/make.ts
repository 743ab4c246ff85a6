import { existsSync } from 'node:fs';
import { mkdir, readFile, rename, utimes, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { edlDocument, logDocument, nestedDocument, newerEdlDocument, otioDocument } from './documents.ts';
import { filmDocument } from './film.ts';
import { makeMedia } from './media.ts';
import { brokenMedia, demoMedia, shelvedMedia } from './spec.ts';

/** Names of the demo's documents in its folder. */
export const demoDocuments = ['Saltglass.otio', 'Saltglass reel 2.edl'] as const;

/** The whole film, an edit of its own over the same media: twelve minutes. */
export const demoFilm = 'Saltglass film.otio';

/** Lies beside them for trying: a camera log, a nested timeline, and a newer version of the list. */
export const documentsToTry = [
  'Saltglass camera log.csv',
  'Saltglass memory.otio',
  'Saltglass reel 2 of tuesday.edl',
] as const;

/** Makes whatever is absent: media under `bay`, documents under `documents`. */
export async function makeDemo(
  bay: string,
  documents: string,
  report: (made: number, of: number) => void,
): Promise<void> {
  await mkdir(documents, { recursive: true });
  await writeFile(join(documents, demoDocuments[0]), otioDocument());
  await writeFile(join(documents, demoDocuments[1]), edlDocument());
  await writeFile(join(documents, demoFilm), filmDocument());
  await writeFile(join(documents, documentsToTry[0]), logDocument());
  await writeFile(join(documents, documentsToTry[1]), nestedDocument());
  await writeFile(join(documents, documentsToTry[2]), newerEdlDocument());
  await makeMedia(bay, demoMedia, report);
  for (const { shelf, media } of shelvedMedia) await shelve(bay, shelf, media);
  for (const { path, from, keep } of brokenMedia) {
    const target = join(bay, path);
    if (existsSync(target)) continue;
    const whole = from === null ? Buffer.from('Notes on the scans, by hand.\n') : await readFile(join(bay, from));
    await writeFile(target, whole.subarray(0, Math.floor(whole.length * keep)));
    // Long enough ago that nobody takes it for a file that is still being written.
    const before = new Date(Date.now() - 3_600_000);
    await utimes(target, before, before);
  }
}

/** Puts a file on its shelf again, whether it was fetched from there before or was never made. */
async function shelve(bay: string, shelf: string, media: (typeof shelvedMedia)[number]['media']): Promise<void> {
  const [onShelf, onDrive] = [join(bay, '.shelves', shelf, media.path), join(bay, media.path)];
  if (existsSync(onShelf)) return;
  if (!existsSync(onDrive)) return makeMedia(join(bay, '.shelves', shelf), [media], () => undefined);
  await mkdir(dirname(onShelf), { recursive: true });
  await rename(onDrive, onShelf);
}

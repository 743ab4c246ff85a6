import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { edlDocument, logDocument, nestedDocument, newerEdlDocument, otioDocument } from './documents.ts';
import { makeMedia } from './media.ts';
import { demoMedia } from './spec.ts';

/** Names of the demo's documents in its folder. */
export const demoDocuments = ['Saltglass.otio', 'Saltglass reel 2.edl'] as const;

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
  await writeFile(join(documents, documentsToTry[0]), logDocument());
  await writeFile(join(documents, documentsToTry[1]), nestedDocument());
  await writeFile(join(documents, documentsToTry[2]), newerEdlDocument());
  await makeMedia(bay, demoMedia, report);
}

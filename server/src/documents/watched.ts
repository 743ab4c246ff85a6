import { createHash } from 'node:crypto';
import { posix } from 'node:path';
import { findNewer, type KnownDocument, type WatchedFile } from '@legame/core/compare';
import type { Watched, WouldChange } from '@legame/core/contract';
import type { DocumentId, ProjectId } from '@legame/core/model';
import type { Context } from '../context.ts';
import { listDocumentsIn, type DocumentThere } from '../disk/documents.ts';
import { tell } from '../events/tell.ts';
import { UserProblem } from '../problems.ts';
import { documentStore, type DocumentRecord } from '../stores/documents.ts';
import { groundOf, type PlaceRecord, placeStore } from '../stores/places.ts';
import { projectStore } from '../stores/projects.ts';
import { watchedStore, type WatchedFolder } from '../stores/watched.ts';
import { compareApart, titleApart } from './apart.ts';
import { incomingFrom } from './bringInFromPlace.ts';

/** What was written so short a time ago may still be being written. */
const quietMs = 2000;

/** Says in which folder of a place newer versions are looked for, or that nobody looks. */
export async function watchFolder(
  context: Context,
  projectId: ProjectId,
  folder: Pick<WatchedFolder, 'placeId' | 'folder'> | null,
): Promise<Watched> {
  await projectStore.getProject(context.db, projectId);
  if (folder) await placeStore.getPlace(context.db, folder.placeId);
  await watchedStore.setFolder(context.db, projectId, folder);
  await tell(context.db, 'documents', projectId);
  return lookAtWatched(context, projectId);
}

/** What lies in the watched folder of a project, and what of it is newer than what was brought in. */
export async function lookAtWatched(context: Context, projectId: ProjectId): Promise<Watched> {
  const { db } = context;
  await projectStore.getProject(db, projectId);
  const watched = await watchedStore.findFolder(db, projectId);
  if (!watched) return { folder: null, isThere: false, documents: 0, newer: [] };
  const place = await placeStore.getPlace(db, watched.placeId);
  const folder = { placeId: place.id, placeName: place.name, folder: watched.folder };
  const there = place.there ? await listDocumentsIn(groundOf(place), watched.folder) : null;
  if (!there) return { folder, isThere: false, documents: 0, newer: [] };
  const documents = await documentStore.listDocuments(db, projectId);
  const [files, hashes] = await Promise.all([
    filesToHold(context, place, watched, there.documents),
    hashesOf(context, documents),
  ]);
  const known = documents.map(({ id, name, format, title, broughtInAt }): KnownDocument => {
    const says = { format, title };
    return { id, name, sha256s: hashes.get(id) ?? [], says, broughtInMs: broughtInAt.getTime() };
  });
  const newer = findNewer(
    files.filter((file) => !watched.passedOver.includes(file.sha256)),
    known,
  );
  return {
    folder,
    isThere: true,
    documents: there.documents.length,
    newer: newer.map(({ file, replaces }) => ({
      path: posix.join(watched.folder, file.name),
      name: file.name,
      sizeInBytes: file.sizeInBytes,
      modifiedAt: new Date(file.modifiedMs).toISOString(),
      replaces: { id: replaces, name: documents.find((d) => d.id === replaces)!.name },
    })),
  };
}

/** What bringing in a document of the watched folder would change. */
export async function compareWatched(
  context: Context,
  projectId: ProjectId,
  { path, replaces }: { readonly path: string; readonly replaces: DocumentId },
): Promise<WouldChange> {
  const place = await placeOfWatched(context, projectId, path);
  const former = await documentStore.getDocument(context.db, replaces);
  if (former.projectId !== projectId) throw new UserProblem({ code: 'not-found', what: 'replaced-document' });
  return compareApart(context, replaces, await incomingFrom(context, place, path));
}

/** That a document of the watched folder is not wanted: these bytes are not told of again. */
export async function passOver(context: Context, projectId: ProjectId, path: string): Promise<Watched> {
  const place = await placeOfWatched(context, projectId, path);
  const { bytes } = await incomingFrom(context, place, path);
  await watchedStore.passOver(context.db, projectId, sha256Of(bytes));
  await tell(context.db, 'documents', projectId);
  return lookAtWatched(context, projectId);
}

/** The place of a document, where it lies in the folder that the project watches. */
async function placeOfWatched({ db }: Context, projectId: ProjectId, path: string): Promise<PlaceRecord> {
  const watched = await watchedStore.findFolder(db, projectId);
  const folder = posix.dirname(path);
  if (!watched || (folder === '.' ? '' : folder) !== watched.folder)
    throw new UserProblem({ code: 'not-found', what: 'document' });
  return placeStore.getPlace(db, watched.placeId);
}

type Read = Pick<WatchedFile, 'sha256' | 'says'>;
type FileToHold = DocumentThere & Read;

/** Of what lies there, its hash and title: of what was looked at before and did not change since they are known. */
async function filesToHold(
  context: Context,
  place: PlaceRecord,
  { folder }: WatchedFolder,
  documents: readonly DocumentThere[],
): Promise<FileToHold[]> {
  const files: FileToHold[] = [];
  for (const file of documents) {
    const ageMs = Date.now() - file.modifiedMs;
    // Of a share whose clock runs ahead nobody can tell; it is looked at, and again when it changes.
    if (ageMs >= 0 && ageMs < quietMs) continue;
    const path = posix.join(folder, file.name);
    const key = JSON.stringify([place.path, path, file.sizeInBytes, file.modifiedMs, file.changedMs]);
    const read = hashed.has(key) ? hashed.get(key)! : await readThere(context, place, path);
    hashed.delete(key);
    hashed.set(key, read);
    if (read) files.push({ ...file, ...read });
  }
  for (const oldest of hashed.keys()) if (hashed.size > mostHashed) hashed.delete(oldest);
  return files;
}
const hashed = new Map<string, Read | null>();
const mostHashed = 5000;
/** What cannot be read is nothing to tell of; who brings it in from there is told why. */
async function readThere(context: Context, place: PlaceRecord, path: string): Promise<Read | null> {
  const incoming = await incomingFrom(context, place, path).catch(() => null);
  if (!incoming) return null;
  const says = await titleApart(context, incoming).catch(() => null);
  return { sha256: sha256Of(incoming.bytes), says };
}
const sha256Of = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

/** Hashes of what was brought in, kept for as long as the same version is the present one. */
async function hashesOf({ db }: Context, documents: readonly DocumentRecord[]): Promise<Map<DocumentId, string[]>> {
  const keyOf = ({ id, broughtInAt }: DocumentRecord) => `${id} ${broughtInAt.getTime()}`;
  const asked = documents.filter((d) => !ofDocuments.has(keyOf(d)));
  const found =
    asked.length > 0
      ? await watchedStore.listHashes(
          db,
          asked.map((d) => d.id),
        )
      : new Map<DocumentId, string[]>();
  for (const document of asked) ofDocuments.set(keyOf(document), found.get(document.id) ?? []);
  const hashes = new Map(documents.map((d) => [d.id, ofDocuments.get(keyOf(d))!]));
  for (const oldest of ofDocuments.keys()) if (ofDocuments.size > mostHashed) ofDocuments.delete(oldest);
  return hashes;
}
const ofDocuments = new Map<string, string[]>();

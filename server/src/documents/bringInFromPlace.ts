import type { Reading } from '@legame/core/formats';
import type { DocumentId, PlaceId, ProjectId } from '@legame/core/model';
import { bundleParts, unpackDocument } from '@legame/core/bundle';
import { basename, dirname, join } from 'node:path';
import type { Context } from '../context.ts';
import { withFileSource } from '../disk/documents.ts';
import { withFolder } from '../disk/held.ts';
import { codeOf } from '../disk/failures.ts';
import { bringInApart } from './apart.ts';
import { UserProblem } from '../problems.ts';
import { problemOfFault } from '../reading/faults.ts';
import { groundOf, type PlaceRecord, placeStore } from '../stores/places.ts';

/**
 * Brings in a document that lies in a place. Its references are resolved against its folder; of a bundle only the
 * document is read: a bundle folder's media lies beside it, a zipped bundle's stays in the zip.
 */
export async function bringInFromPlace(
  context: Context,
  projectId: ProjectId,
  request: {
    placeId: PlaceId;
    path: string;
    reading?: Reading | undefined;
    replaces?: DocumentId | undefined;
    beside: boolean;
  },
): Promise<DocumentId> {
  const place = await placeStore.getPlace(context.db, request.placeId);
  const name = basename(request.path);
  const path = (await isBundleFolder(place, request.path)) ? join(request.path, bundleParts.content) : request.path;
  const unpacked = await withFileSource(groundOf(place), path, (source) =>
    unpackDocument(source, context.config.documentLimitInBytes),
  ).catch((error: unknown) => {
    if (codeOf(error) !== 'ENOENT' && codeOf(error) !== 'ENOTDIR') throw error;
    throw path === request.path
      ? new UserProblem({ code: 'not-in-place', path, place: place.name })
      : new UserProblem({ code: 'no-bundle', path: request.path, place: place.name, lacks: bundleParts.content });
  });
  if (!unpacked.ok) throw problemOfFault(unpacked.fault, name);
  const { content, media } = unpacked;
  return bringInApart(context, projectId, {
    name,
    bytes: content,
    reading: request.reading ?? {},
    folder: join(place.path, dirname(path)),
    mediaInside: media ?? [],
    replaces: request.replaces,
    beside: request.beside,
  });
}

const isBundleFolder = (place: PlaceRecord, path: string): Promise<boolean> =>
  withFolder(groundOf(place), async (folder) => (await folder.look(path))?.isDirectory() ?? false);

import { largestDocumentInBytes, type Reading } from '@legame/core/formats';
import type { DocumentId, PlaceId, ProjectId } from '@legame/core/model';
import { bundleParts, unpackDocument } from '@legame/core/bundle';
import { stat } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import type { Context } from '../context.ts';
import { withFileSource } from '../disk/documents.ts';
import { fileInsidePlace } from '../disk/fence.ts';
import { bringIn } from './bringIn.ts';
import { UserProblem } from '../problems.ts';
import { problemOfFault } from '../reading/faults.ts';
import { placeStore } from '../stores/places.ts';

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
  const real = await fileInsidePlace(place.path, request.path);
  const kind = real ? await stat(real).catch(() => null) : null;
  if (!real || !kind) {
    throw new UserProblem({ code: 'not-in-place', path: request.path, place: place.name });
  }
  const path = kind.isDirectory() ? await documentInFolder(place.path, request.path, place.name) : real;
  const name = basename(real);
  const unpacked = await withFileSource(path, (source) => unpackDocument(source, largestDocumentInBytes));
  if (!unpacked.ok) throw problemOfFault(unpacked.fault, name);
  const { content, media } = unpacked;
  return bringIn(context, projectId, {
    name,
    bytes: content,
    reading: request.reading ?? {},
    folder: dirname(path),
    mediaInside: media ?? [],
    replaces: request.replaces,
    beside: request.beside,
  });
}

async function documentInFolder(placePath: string, folder: string, placeName: string): Promise<string> {
  const content = await fileInsidePlace(placePath, join(folder, bundleParts.content));
  if (content) return content;
  throw new UserProblem({ code: 'no-bundle', path: folder, place: placeName, lacks: bundleParts.content });
}

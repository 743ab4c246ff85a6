import type { Reading } from '@legame/core/formats';
import type { DocumentId, PlaceId, ProjectId } from '@legame/core/model';
import { bundleParts, unpackDocument } from '@legame/core/bundle';
import { basename, dirname, join } from 'node:path';
import type { Context } from '../context.ts';
import { withFileSource } from '../disk/documents.ts';
import { withFolder } from '../disk/held.ts';
import { codeOf } from '../disk/failures.ts';
import { bringInApart } from './apart.ts';
import type { Incoming } from './bringIn.ts';
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
  const { reading = {}, replaces, beside } = request;
  const incoming = await incomingFrom(context, place, request.path);
  return bringInApart(context, projectId, { ...incoming, reading, replaces, beside });
}

/** A document as it lies in a place, or inside a bundle there, and the folder that its references are held against. */
export async function incomingFrom({ config }: Context, place: PlaceRecord, lies: string): Promise<Incoming> {
  const name = basename(lies);
  const path = (await isBundleFolder(place, lies)) ? join(lies, bundleParts.content) : lies;
  const unpacked = await withFileSource(groundOf(place), path, (source) =>
    unpackDocument(source, config.documentLimitInBytes),
  ).catch((error: unknown) => {
    if (codeOf(error) !== 'ENOENT' && codeOf(error) !== 'ENOTDIR') throw error;
    throw path === lies
      ? new UserProblem({ code: 'not-in-place', path, place: place.name })
      : new UserProblem({ code: 'no-bundle', path: lies, place: place.name, lacks: bundleParts.content });
  });
  if (!unpacked.ok) throw problemOfFault(unpacked.fault, name);
  const { content, media } = unpacked;
  return { name, bytes: content, reading: {}, folder: join(place.path, dirname(path)), mediaInside: media ?? [] };
}

const isBundleFolder = (place: PlaceRecord, path: string): Promise<boolean> =>
  withFolder(groundOf(place), async (folder) => (await folder.look(path))?.isDirectory() ?? false);

import { open, stat } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import {
  bundleParts,
  largestDocumentInBytes,
  unpackDocument,
  type ByteSource,
  type DocumentId,
  type PlaceId,
  type ProjectId,
  type Reading,
} from '@legame/core';
import { fileInsidePlace } from '../places/fence.ts';
import { UserProblem } from '../problems.ts';
import { placeStore } from '../stores/places.ts';
import { bringIn } from './bringIn.ts';
import type { Context } from './context.ts';
import { problemOfFault } from './readFaults.ts';

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
    throw new UserProblem(
      'not-found',
      404,
      `"${request.path}" is not in "${place.name}". Check that the drive is plugged in, and choose again.`,
    );
  }
  const path = kind.isDirectory() ? await documentInFolder(place.path, request.path, place.name) : real;
  const name = basename(real);
  const { content, media } = await readDocumentFile(path, name);
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
  throw new UserProblem(
    'document-not-read',
    422,
    `The folder "${folder}" of "${placeName}" is no bundle: it holds no ${bundleParts.content}. Choose a document in it instead.`,
  );
}

async function readDocumentFile(path: string, name: string) {
  const file = await open(path, 'r');
  try {
    const { size } = await file.stat();
    const source: ByteSource = {
      size,
      read: async (offset, length) => {
        const buffer = new Uint8Array(Math.max(0, Math.min(length, size - offset)));
        const { bytesRead } = await file.read(buffer, 0, buffer.length, offset);
        return buffer.subarray(0, bytesRead);
      },
    };
    const unpacked = await unpackDocument(source, largestDocumentInBytes);
    if (!unpacked.ok) throw problemOfFault(unpacked.fault, name);
    return unpacked;
  } finally {
    await file.close();
  }
}

import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import type { MediaFileId } from '@legame/core';
import { FencedFolder } from '../places/writing.ts';
import { UserProblem } from '../problems.ts';
import { takePicture } from '../reading/picture.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import type { Context } from './context.ts';

/** Decoding two at a time leaves the rest of the machine usable. */
const atOnce = 2;
let running = 0;
const waiting: (() => void)[] = [];

async function turn<T>(work: () => Promise<T>): Promise<T> {
  if (running >= atOnce) await new Promise<void>((go) => waiting.push(go));
  running += 1;
  try {
    return await work();
  } finally {
    running -= 1;
    waiting.shift()?.();
  }
}

/** One frame of a media file as JPEG, kept for the next time under the file's size and time, so that a changed file gets a new one. */
export async function picture({ db, config }: Context, id: MediaFileId, frame: number): Promise<Buffer> {
  const file = await mediaFileStore.getMediaFile(db, id);
  const place = await placeStore.getPlace(db, file.placeId);
  if (!place.there || file.gone)
    throw new UserProblem('place-away', 409, `"${file.name}" is not there now, so there is no picture of it.`);
  if (!file.facts)
    throw new UserProblem(
      'picture-not-made',
      409,
      `"${file.name}" has not been read, or cannot be read, so there is no picture of it.`,
    );
  const { facts } = file;
  const last = facts.length === null ? 0 : Math.max(0, facts.length - 1);
  const wanted = facts.kind === 'sound' || facts.kind === 'still' ? 0 : Math.min(Math.max(0, frame), last);
  const cache = await FencedFolder.own(config.cacheFolder);
  const key = createHash('sha256')
    .update(`${id}/${file.sizeInBytes}/${file.modifiedMs}/${wanted}`)
    .digest('hex')
    .slice(0, 32);
  const name = `pictures/${key.slice(0, 2)}/${key}.jpg`;
  if (await cache.has(name)) return readFile(cache.resolve(name));
  return turn(async () => {
    const result = await takePicture(place.path, file, facts, wanted);
    if (!result.ok) throw new UserProblem('picture-not-made', 422, `No picture of "${file.name}": ${result.detail}.`);
    // Two requests may have made the same picture; the first to be named is kept.
    if (!(await cache.has(name))) await cache.writeWhole(name, result.jpeg).catch(() => undefined);
    return result.jpeg;
  });
}

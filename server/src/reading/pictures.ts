import pLimit from 'p-limit';
import { createHash } from 'node:crypto';
import type { ComparedPictures } from '@legame/core/contract';
import { framesToCompare, likenessOf, togetherAlike } from '@legame/core/compare';
import { sourceRange, type MediaFileId } from '@legame/core/model';
import { Cache, readOwnBytes } from '../disk/own.ts';
import { UserProblem } from '../problems.ts';
import { takePicture, takeSample, type PictureResult } from '../media/picture.ts';
import { makePreview, type PreviewPart } from '../media/preview.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { groundOf, placeStore, type PlaceRecord } from '../stores/places.ts';
import { settingsStore } from '../stores/settings.ts';
import type { Context } from '../context.ts';

/** Decoding two at a time leaves the rest of the machine usable. */
const turn = pLimit(2);
/** The cache is measured after so many new pictures. */
const trimEvery = 40;
let madeSinceTrim = 0;

export type Seeing = Pick<Context, 'db' | 'config' | 'readLog'>;

/**
 * One frame of a media file as JPEG, or the wave of a sound. Kept for the next time under size, time and reading of the
 * file, so that a file that changed, or was read anew, gets a new one.
 */
export async function picture(context: Seeing, id: MediaFileId, frame: number, width: number): Promise<Buffer> {
  const { file, place, facts } = await readable(context, id);
  const last = facts.length === null ? 0 : Math.max(0, facts.length - 1);
  const wanted = facts.kind === 'sound' || facts.kind === 'still' ? 0 : Math.min(Math.max(0, frame), last);
  return readOwnBytes(
    await kept(context, { file, place, what: 'picture', key: `${wanted}/${width}`, extension: 'jpg' }, () =>
      takePicture(groundOf(place), file, facts, wanted, width),
    ),
  );
}

/** A short piece of a file that a browser plays, small, with sound; returns where it is kept. */
export async function preview(context: Context, id: MediaFileId, part: PreviewPart): Promise<string> {
  const { file, place, facts } = await readable(context, id);
  const key = `${part.from}/${part.frames}`;
  return kept(context, { file, place, what: 'preview', key, extension: 'webm' }, () =>
    makePreview(groundOf(place), file, facts, part),
  );
}

/** Compares two files of picture by a few frames at the same source timecode. */
export async function comparePictures(
  context: Context,
  one: MediaFileId,
  other: MediaFileId,
): Promise<ComparedPictures> {
  const [a, b] = [await readable(context, one), await readable(context, other)];
  const rate = a.facts.rate;
  const held = [a, b].map(({ facts }) => rate && facts.kind !== 'sound' && sourceRange(facts, rate));
  const [heldA, heldB] = held;
  if (!rate || !heldA || !heldB) return { together: null, frames: [], rate: null };
  const frames: ComparedPictures['frames'][number][] = [];
  for (const frame of framesToCompare(heldA, heldB)) {
    const [x, y] = await turn(() =>
      Promise.all([
        takeSample(groundOf(a.place), a.file, a.facts, frame - heldA.start),
        takeSample(groundOf(b.place), b.file, b.facts, frame - heldB.start),
      ]),
    );
    if (x && y) frames.push({ frame, likeness: likenessOf(x, y) });
  }
  return { together: togetherAlike(frames.map((f) => f.likeness)), frames, rate };
}

/** Drops what is remembered of how these files look; nothing of other files. */
export async function dropPictures({ config }: Pick<Context, 'config'>, ids: readonly MediaFileId[]): Promise<void> {
  const cache = new Cache(config.cacheFolder);
  for (const id of ids) await cache.drop(`pictures/${id}`);
}

async function readable({ db }: Pick<Context, 'db'>, id: MediaFileId) {
  const file = await mediaFileStore.getMediaFile(db, id);
  const place = await placeStore.getPlace(db, file.placeId);
  if (!place.there || file.gone)
    throw new UserProblem({ code: 'file-away', file: file.name, place: place?.name ?? '', for: 'picture' });
  if (file.quarantined)
    throw new UserProblem({
      code: 'picture-not-made',
      file: file.name,
      what: 'picture',
      why: 'set-apart',
      detail: null,
    });
  if (!file.facts)
    throw new UserProblem({
      code: 'picture-not-made',
      file: file.name,
      what: 'picture',
      why: 'not-read',
      detail: null,
    });
  return { file, place, facts: file.facts };
}

type ToKeep = {
  readonly file: MediaFileRecord;
  readonly place: PlaceRecord;
  readonly what: 'picture' | 'preview';
  readonly key: string;
  readonly extension: string;
};

/** The path of something made of a file once and kept in the cache. */
async function kept(
  { db, config, readLog }: Seeing,
  { file, place, what, key, extension }: ToKeep,
  make: () => Promise<PictureResult>,
): Promise<string> {
  const cache = new Cache(config.cacheFolder);
  const hash = createHash('sha256')
    .update([file.sizeInBytes, file.modifiedMs, file.readAt, key].join('/'))
    .digest('hex')
    .slice(0, 32);
  const name = `pictures/${file.id}/${hash}.${extension}`;
  const known = await cache.find(name);
  if (known) return known;
  return turn(async () => {
    const madeMeanwhile = await cache.find(name);
    if (madeMeanwhile) return madeMeanwhile;
    const path = [place.name, file.folder, file.name].filter(Boolean).join('/');
    const opened = readLog.open({ what, placeId: place.id, mediaFileId: file.id, path });
    const result = await make();
    opened.close(result.ok ? 'ok' : 'failed', result.ok ? null : { detail: result.detail });
    if (!result.ok)
      throw new UserProblem({
        code: 'picture-not-made',
        file: file.name,
        what,
        why: 'not-decoded',
        detail: result.detail,
      });
    const made = await cache.keep(name, result.bytes);
    madeSinceTrim += 1;
    if (madeSinceTrim >= trimEvery) {
      madeSinceTrim = 0;
      const { cacheLimitInMB } = await settingsStore.get(db);
      await cache.trimTo(cacheLimitInMB === null ? config.cacheLimitInBytes : cacheLimitInMB * 1_000_000);
    }
    return made;
  });
}

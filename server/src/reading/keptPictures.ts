import jpeg from 'jpeg-js';
import { lookOf, lookVerdict, sharedOfLooks, type Look } from '@legame/core/compare';
import type { ComparedLook } from '@legame/core/contract';
import { alignedRange } from '@legame/core/match';
import type { Clip, ClipId, Facts, MediaFileId } from '@legame/core/model';
import type { FrameRange } from '@legame/core/time';
import type { Looking } from '../context.ts';
import { Cache, keptLongest, readOwnBytes } from '../disk/own.ts';
import { notFound, UserProblem } from '../problems.ts';
import { clipPictureStore } from '../stores/clipPictures.ts';
import { clipStore } from '../stores/clips.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import { picture, type Seeing } from './pictures.ts';

/** Small: enough for the eye to know a shot again. */
const width = 320;

/**
 * Keeps a picture of a clip as its file shows it at the first frame that the edit uses: should it go dark, what is found
 * can be compared with how it looked. Of a file of which none can be made that is kept, so that it is not tried again.
 */
export async function keepPicture(context: Seeing, clipId: ClipId, mediaFileId: MediaFileId): Promise<void> {
  const { db, config } = context;
  const [clip, file] = [await clipStore.getClip(db, clipId), await mediaFileStore.getMediaFile(db, mediaFileId)];
  if (!file.facts) return;
  const { frame, address } = firstShown(clip, file, file.facts);
  const made = await picture(context, file.id, frame, width).catch((error: unknown) => {
    if (isUndecodable(error)) return null;
    throw error;
  });
  if (made) {
    const cache = new Cache(config.cacheFolder);
    await cache.drop(folderOf(clipId));
    await cache.keep(nameOf(clipId, file.id, file.modifiedMs), made);
  }
  const { id, modifiedMs, name: fileName } = file;
  const look = made && lookOfJpeg(made);
  await clipPictureStore.put(db, clipId, {
    mediaFileId: id,
    modifiedMs,
    fileName,
    frame,
    address,
    look,
    isMade: made !== null,
  });
}

/**
 * Nothing can be made of it, now or later. A drive that was pulled or is silent is asked again, and so is what the decoder
 * did not finish: a machine that is busy says nothing of a file.
 */
function isUndecodable(error: unknown): boolean {
  if (!(error instanceof UserProblem) || error.problem.code !== 'picture-not-made') return false;
  const { detail } = error.problem;
  return !(typeof detail === 'object' && detail && mayGoAnotherTime.includes(detail.code));
}

const mayGoAnotherTime: readonly string[] = ['drive-silent', 'file-gone', 'decoding-too-long', 'decoder-stopped'];

/** Drops the pictures of clips that are no more, as those of deleted projects. */
export async function dropOrphans({ db, config }: Looking & Pick<Seeing, 'config'>): Promise<void> {
  const cache = new Cache(config.cacheFolder);
  const names = await cache.foldersIn(keptLongest);
  const known = await clipPictureStore.listKnown(db, names);
  for (const name of names) if (!known.has(name)) await cache.drop(`${keptLongest}/${name}`);
}

/** The picture that is kept of a clip, as JPEG. */
export async function keptPicture({ db, config }: Looking & Pick<Seeing, 'config'>, clipId: ClipId): Promise<Buffer> {
  const kept = await clipPictureStore.get(db, clipId);
  const path =
    kept?.isMade && (await new Cache(config.cacheFolder).find(nameOf(clipId, kept.mediaFileId, kept.modifiedMs)));
  if (!path) throw notFound('kept-picture');
  return readOwnBytes(path);
}

/** How a file looks beside the picture that is kept of a clip, at the same source frame, where it holds that. */
export async function compareLook(context: Seeing, clipId: ClipId, mediaFileId: MediaFileId): Promise<ComparedLook> {
  const { db } = context;
  const [clip, file, kept] = [
    await clipStore.getClip(db, clipId),
    await mediaFileStore.getMediaFile(db, mediaFileId),
    await clipPictureStore.get(db, clipId),
  ];
  if (!kept?.isMade) throw notFound('kept-picture');
  const holds = alignedRange(clip, file);
  const frame = frameAt(kept.address, holds) ?? kept.frame;
  const look = kept.look && lookOfJpeg(await picture(context, file.id, frame, width));
  const shared = kept.look && look ? sharedOfLooks(kept.look, look) : null;
  return { frame, shared, verdict: shared === null ? null : lookVerdict(shared) };
}

/** Where the edit first shows it, in frames of the file; its first frame where the file does not hold that. */
function firstShown(clip: Clip, file: MediaFileRecord, { kind }: Facts): { frame: number; address: number } {
  const holds = alignedRange(clip, file);
  const address = clip.used[0]?.start ?? clip.available?.start ?? holds?.start ?? 0;
  if (kind === 'still') return { frame: 0, address };
  const frame = frameAt(address, holds);
  return frame === null ? { frame: 0, address: holds?.start ?? 0 } : { frame, address };
}

/** Which frame of a file an address is, from its first; null where the file does not hold it. */
const frameAt = (address: number, holds: FrameRange | null): number | null =>
  holds && address >= holds.start && address < holds.end ? address - holds.start : null;

function lookOfJpeg(bytes: Buffer): Look | null {
  const { width: across, height, data } = jpeg.decode(bytes, { useTArray: true, maxMemoryUsageInMB: 64 });
  return lookOf({ width: across, height, data });
}

const folderOf = (clipId: ClipId): string => `${keptLongest}/${clipId}`;
const nameOf = (clipId: ClipId, mediaFileId: MediaFileId, modifiedMs: number): string =>
  `${folderOf(clipId)}/${mediaFileId}-${Math.floor(modifiedMs)}.jpg`;

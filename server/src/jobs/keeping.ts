import { setTimeout as after } from 'node:timers/promises';
import type { Context } from '../context.ts';
import type { ClipId } from '@legame/core/model';
import { keepPicture } from '../reading/keptPictures.ts';
import { clipPictureStore } from '../stores/clipPictures.ts';
import { jobStore } from '../stores/jobs.ts';

type Rests = { readonly restMs: number; readonly lookEveryMs: number; readonly tryAgainMs?: number };

/** Nothing that somebody waits for shall wait for a picture that nobody asked for. */
const usual: Rests = { restMs: 15_000, lookEveryMs: 5000 };
const usualTryAgainMs = 600_000;
const fewAtOnce = 20;

/**
 * Takes a picture of every clip that is linked and has none, one after another, while nothing else is to be done: no job
 * runs or waits, and none ended a short while ago. Slow places are left alone.
 */
export function keepPictures(
  { db, config, log, readLog }: Context,
  { restMs, lookEveryMs, tryAgainMs = usualTryAgainMs }: Rests = usual,
): { stop: () => void } {
  const stopped = new AbortController();
  // What failed for no fault of its file, as on a drive that was pulled, is tried again by and by.
  const failed = new Map<ClipId, number>();
  const takeSome = async (): Promise<boolean> => {
    for (const [clipId, at] of failed) if (performance.now() - at > tryAgainMs) failed.delete(clipId);
    const wanting = await clipPictureStore.listWanting(db, fewAtOnce + failed.size);
    const left = wanting.filter(({ clipId }) => !failed.has(clipId));
    for (const { clipId, mediaFileId } of left) {
      if (stopped.signal.aborted || !(await jobStore.isAtRest(db, restMs))) return false;
      await keepPicture({ db, config, readLog }, clipId, mediaFileId).catch((error: unknown) => {
        failed.set(clipId, performance.now());
        log.debug(error, 'no picture kept of a clip');
      });
    }
    return left.length > 0;
  };
  const run = async () => {
    while (!stopped.signal.aborted) {
      const goesOn =
        (await jobStore.isAtRest(db, restMs).catch(() => false)) &&
        (await takeSome().catch((error: unknown) => {
          log.warn(error, 'no pictures are kept');
          return false;
        }));
      if (!goesOn) await after(lookEveryMs, undefined, { signal: stopped.signal, ref: false }).catch(() => undefined);
    }
  };
  void run();
  return { stop: () => stopped.abort() };
}

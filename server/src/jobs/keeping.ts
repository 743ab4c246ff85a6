import { setTimeout as after } from 'node:timers/promises';
import type { Context } from '../context.ts';
import type { ClipId } from '@legame/core/model';
import { keepPicture } from '../reading/keptPictures.ts';
import { clipPictureStore } from '../stores/clipPictures.ts';
import { jobStore } from '../stores/jobs.ts';

type Rests = { readonly restMs: number; readonly lookEveryMs: number };

/** Nothing that somebody waits for shall wait for a picture that nobody asked for. */
const usual: Rests = { restMs: 15_000, lookEveryMs: 5000 };
const fewAtOnce = 20;

/**
 * Takes a picture of every clip that is linked and has none, one after another, while nothing else is to be done: no job
 * runs or waits, and none ended a short while ago. Slow places are left alone.
 */
export function keepPictures(
  { db, config, log, readLog }: Context,
  { restMs, lookEveryMs }: Rests = usual,
): { stop: () => void } {
  const stopped = new AbortController();
  // What fails for no reason of its own is not tried again before the next start.
  const failed = new Set<ClipId>();
  const takeSome = async (): Promise<boolean> => {
    const wanting = await clipPictureStore.listWanting(db, fewAtOnce + failed.size);
    const left = wanting.filter(({ clipId }) => !failed.has(clipId));
    for (const { clipId, mediaFileId } of left) {
      if (stopped.signal.aborted || !(await jobStore.isAtRest(db, restMs))) return false;
      await keepPicture({ db, config, readLog }, clipId, mediaFileId).catch((error: unknown) => {
        failed.add(clipId);
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

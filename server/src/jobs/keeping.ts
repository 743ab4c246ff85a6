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
  const failed = new Map<ClipId, { readonly times: number; readonly until: number }>();
  const isLeft = (clipId: ClipId) => (failed.get(clipId)?.until ?? 0) > performance.now();
  const takeSome = async (): Promise<boolean> => {
    const wanting = await clipPictureStore.listWanting(db, fewAtOnce + failed.size);
    const left = wanting.filter(({ clipId }) => !isLeft(clipId));
    for (const { clipId, mediaFileId } of left) {
      if (stopped.signal.aborted || !(await jobStore.isAtRest(db, restMs))) return false;
      try {
        await keepPicture({ db, config, readLog }, clipId, mediaFileId);
        failed.delete(clipId);
      } catch (error) {
        // Each time later: of what never ends the machine would be busy for good.
        const times = failed.get(clipId)?.times ?? 0;
        failed.set(clipId, { times: times + 1, until: performance.now() + tryAgainMs * 2 ** times });
        log.debug(error, 'no picture kept of a clip');
      }
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

import { wrap } from 'comlink';
import { readDropped } from './droppedMedia.ts';

/** Reads headers of files in hand in a worker of its own, so that a card of thousands holds up neither hand nor screen. */
export async function readInWorker(list: Parameters<typeof readDropped>[0]): ReturnType<typeof readDropped> {
  // Only where there are no workers at all, which is in tests, does it run in the page.
  if (typeof Worker === 'undefined') return readDropped(list);
  const worker = new Worker(new URL('./dropped.worker.ts', import.meta.url), { type: 'module' });
  try {
    return await wrap<{ readDropped: typeof readDropped }>(worker).readDropped([...list]);
  } finally {
    worker.terminate();
  }
}

type Runs = { running: Promise<unknown>; next: Promise<unknown> | null };
const ofDatabases = new WeakMap<object, Map<string, Runs>>();

/**
 * Runs what many ask for at once one time for all of them. Who asks while it runs shares the run after that one: it
 * begins after they asked, so that what they changed before is in it. Of the same key it must always be the same.
 */
export function together<T>(db: object, key: string, run: () => Promise<T>): Promise<T> {
  const all = ofDatabases.get(db) ?? new Map<string, Runs>();
  ofDatabases.set(db, all);
  const begin = () => {
    const runs: Runs = { running: run(), next: null };
    all.set(key, runs);
    const isOver = () => {
      if (all.get(key) === runs && !runs.next) all.delete(key);
    };
    runs.running.then(isOver, isOver);
    return runs.running as Promise<T>;
  };
  const runs = all.get(key);
  if (!runs) return begin();
  runs.next ??= runs.running.then(begin, begin);
  return runs.next as Promise<T>;
}

/** Over when nothing of this database runs any more that was asked for so. */
export async function allOver(db: object): Promise<void> {
  for (;;) {
    const runs = [...(ofDatabases.get(db)?.values() ?? [])];
    if (runs.length === 0) return;
    await Promise.allSettled(runs.map(({ running, next }) => next ?? running));
  }
}

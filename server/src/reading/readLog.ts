import type { Detail, MediaFileId, PlaceId, Unreadable } from '@legame/core/model';
import type { OpeningView } from '@legame/core/contract';
import type { Database } from '../db/database.ts';
import { type LogEntry, readLogStore } from '../stores/readLog.ts';

type What = OpeningView['what'];

type Outcome = NonNullable<OpeningView['outcome']>;

/** What is said of an outcome: more exactly what came of it, or why the file cannot be read. */
type Why = { readonly detail: Detail } | { readonly reason: Unreadable };
export type Opened = { readonly close: (outcome: Outcome, why?: Why | null) => void };

export type ToOpen = {
  readonly what: What;
  readonly placeId?: PlaceId | null;
  readonly mediaFileId?: MediaFileId | null;
  /** As a person knows it: place, folders, name. */
  readonly path: string;
};

const flushEveryMs = 400;

/** What is open for longer is shown while it is open; what was shorter and went well is only counted. */
const worthShowingMs = 250;

const pruneEvery = 5000;

type Entry = ToOpen & {
  readonly begunAt: Date;
  id: number | null;
  endedAt: Date | null;
  outcome: Outcome | null;
  detail: Detail | null;
  reason: Unreadable | null;
};

/**
 * What this process opens, for the read log. Entries are gathered and written a few times a second, so that noting a
 * file costs nothing beside reading it.
 */
export class ReadLog {
  readonly #db: Database;
  readonly #worker: string;
  readonly #open = new Set<Entry>();
  #ended: Entry[] = [];
  #sincePruned = 0;
  readonly #timer: NodeJS.Timeout;
  #flushing: Promise<void> = Promise.resolve();

  constructor(db: Database, worker: string) {
    this.#db = db;
    this.#worker = `${worker} ${process.pid}`;
    this.#timer = setInterval(() => void this.flush(), flushEveryMs);
    this.#timer.unref();
  }

  /** Closes what processes of this machine left open that run no more. */
  static async closeLost(db: Database): Promise<void> {
    for (const worker of await readLogStore.listOpenWorkers(db))
      if (!isRunning(Number(worker.split(' ').at(-1)))) await readLogStore.closeLost(db, worker);
    await readLogStore.prune(db);
  }

  open(what: ToOpen): Opened {
    const entry: Entry = {
      ...what,
      begunAt: new Date(),
      id: null,
      endedAt: null,
      outcome: null,
      detail: null,
      reason: null,
    };
    this.#open.add(entry);
    return {
      close: (outcome, why = null) => {
        if (!this.#open.delete(entry)) return;
        Object.assign(entry, { endedAt: new Date(), outcome, ...why });
        this.#ended.push(entry);
      },
    };
  }

  flush(): Promise<void> {
    this.#flushing = this.#flushing.then(() => this.#write()).catch(() => undefined);
    return this.#flushing;
  }

  async close(): Promise<void> {
    clearInterval(this.#timer);
    await this.flush();
  }

  async #write(): Promise<void> {
    const ended = this.#ended;
    this.#ended = [];
    const now = Date.now();
    const stuck = [...this.#open].filter((e) => e.id === null && now - e.begunAt.getTime() > worthShowingMs);
    const shown = ended.filter((e) => e.id === null && isWorthShowing(e));
    const quick = ended.filter((e) => e.id === null && !isWorthShowing(e));
    const ids = await readLogStore.append(
      this.#db,
      [...shown, ...stuck].map((e) => this.#row(e, 1)),
    );
    stuck.forEach((entry, i) => (entry.id = ids[shown.length + i]!));
    for (const e of ended)
      if (e.id !== null)
        await readLogStore.close(this.#db, e.id, { outcome: e.outcome!, detail: e.detail, reason: e.reason });
    this.#sincePruned += ended.length;
    if (this.#sincePruned > pruneEvery) {
      this.#sincePruned = 0;
      await readLogStore.prune(this.#db);
    }
    await readLogStore.append(
      this.#db,
      together(quick).map(({ entry, files }) => this.#row(entry, files)),
    );
  }

  #row(e: Entry, files: number): LogEntry {
    const { what, path, begunAt, endedAt, outcome, detail, reason } = e;
    const [placeId, mediaFileId] = [e.placeId ?? null, files > 1 ? null : (e.mediaFileId ?? null)];
    return { worker: this.#worker, what, placeId, mediaFileId, path, files, begunAt, endedAt, outcome, detail, reason };
  }
}

const isWorthShowing = (e: Entry): boolean =>
  e.outcome !== 'ok' || e.endedAt!.getTime() - e.begunAt.getTime() > worthShowingMs;

/** Quick ones of one kind and place as one entry, under the path of the last. */
function together(entries: readonly Entry[]): { entry: Entry; files: number }[] {
  const groups = new Map<string, { entry: Entry; files: number }>();
  for (const entry of entries) {
    const key = `${entry.what} ${entry.placeId ?? ''}`;
    const known = groups.get(key);
    const begunAt = known?.entry.begunAt ?? entry.begunAt;
    groups.set(key, { entry: { ...entry, begunAt }, files: (known?.files ?? 0) + 1 });
  }
  return [...groups.values()];
}

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}

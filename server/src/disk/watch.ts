import { watch, type FSWatcher } from 'node:fs';
import { join } from 'node:path';

/** A folder each costs the system a little; above this the sweep alone must do. */
const mostFolders = 3000;
/** Changes come in bursts; a folder is reported when it was quiet for so long. */
const quietMs = 1200;

/**
 * Tells which folders of a place changed, where the system tells at all. Folders are watched one by one, so that a place
 * of few folders and very many files costs little. What it misses, the regular walk finds.
 */
export class PlaceWatcher {
  readonly #watchers = new Map<string, FSWatcher>();
  readonly #changed = new Set<string>();
  #timer: NodeJS.Timeout | null = null;
  readonly #root: string;
  readonly #onChange: (folders: string[]) => void;
  readonly #wait: (run: () => void, ms: number) => NodeJS.Timeout;

  constructor(
    root: string,
    onChange: (folders: string[]) => void,
    wait: (run: () => void, ms: number) => NodeJS.Timeout = setTimeout,
  ) {
    this.#root = root;
    this.#onChange = onChange;
    this.#wait = wait;
  }

  /** Watches these folders, and no others from now on. */
  follow(folders: readonly string[]): void {
    const wanted = new Set(folders.slice(0, mostFolders));
    for (const [folder, watcher] of this.#watchers) {
      if (wanted.has(folder)) continue;
      watcher.close();
      this.#watchers.delete(folder);
    }
    for (const folder of wanted) if (!this.#watchers.has(folder)) this.#watch(folder);
  }

  close(): void {
    if (this.#timer) clearTimeout(this.#timer);
    for (const watcher of this.#watchers.values()) watcher.close();
    this.#watchers.clear();
  }

  #watch(folder: string): void {
    try {
      const watcher = watch(join(this.#root, folder), { persistent: false }, (_, name) => {
        // What is hidden is no part of the index, and Legame's own unfinished files are hidden.
        if (!name?.startsWith('.')) this.#note(folder);
      });
      watcher.on('error', () => {
        watcher.close();
        this.#watchers.delete(folder);
      });
      this.#watchers.set(folder, watcher);
    } catch {
      // It went away, or the system watches no more: the regular walk remains.
    }
  }

  #note(folder: string): void {
    this.#changed.add(folder);
    if (this.#timer) clearTimeout(this.#timer);
    this.#timer = this.#wait(() => {
      const folders = [...this.#changed];
      this.#changed.clear();
      this.#onChange(folders);
    }, quietMs);
    this.#timer.unref();
  }
}

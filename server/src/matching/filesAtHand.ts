import type { MediaFileId, PlaceId } from '@legame/core/model';
import type { Database } from '../db/database.ts';
import { mediaFileStore, type MediaFileRecord } from '../stores/mediaFiles.ts';
import type { PlaceRecord } from '../stores/places.ts';

/** What came or changed, and what went. */
export type FileChanges = { readonly files: readonly MediaFileRecord[]; readonly gone: readonly MediaFileId[] };

export type Look = {
  readonly number: number;
  readonly files: readonly MediaFileRecord[];
  /** What changed since the look asked about; null where that is not known any more. */
  readonly changes: FileChanges | null;
};

/**
 * The media files of all places as this worker has them in memory: read once, then only what changed. Each look has a
 * number, so that everybody who looked before can be told what changed since.
 */
export class FilesAtHand {
  readonly #files = new Map<MediaFileId, MediaFileRecord>();
  #places: readonly PlaceId[] = [];
  #asOf: string | null = null;
  #isRead = false;
  /** What each look found changed; before `#first` nothing is known any more. */
  #looks: MediaFileId[][] = [];
  #first = 0;
  #looking: Promise<unknown> = Promise.resolve();

  /** Takes in what changed. One look at a time, whose answer stays what it is whatever becomes of the rest. */
  look(db: Database, places: readonly PlaceRecord[], since: number | null): Promise<Look> {
    const look = this.#looking.then(async () => {
      await this.#renew(db, places);
      const files = [...this.#files.values()];
      return { number: this.#first + this.#looks.length, files, changes: this.#changesSince(since) };
    });
    this.#looking = look.catch(() => undefined);
    return look;
  }

  async #renew(db: Database, places: readonly PlaceRecord[]): Promise<void> {
    const ids = places.map((place) => place.id);
    // The files of a place that was taken off the list went with it, and nothing tells of them one by one.
    if (!this.#places.every((id) => ids.includes(id))) this.forget();
    this.#places = ids;
    const { files, asOf } = await mediaFileStore.listChanged(db, this.#asOf);
    const isFirst = !this.#isRead;
    this.#isRead = true;
    this.#asOf = asOf;
    const changed: MediaFileId[] = [];
    for (const file of files) {
      const known = this.#files.get(file.id);
      // What somebody else's long transaction lets be told once more, also of files that went before, is no change.
      if (file.gone ? !known : known?.version === file.version) continue;
      if (file.gone) this.#files.delete(file.id);
      else this.#files.set(file.id, file);
      if (!isFirst) changed.push(file.id);
    }
    this.#looks.push(changed);
  }

  #changesSince(look: number | null): FileChanges | null {
    if (look === null || look <= this.#first) return null;
    const ids = [...new Set(this.#looks.slice(look - this.#first).flat())];
    const files = ids.flatMap((id) => this.#files.get(id) ?? []);
    return { files, gone: ids.filter((id) => !this.#files.has(id)) };
  }

  get isRead(): boolean {
    return this.#isRead;
  }

  /** As the last look found it. */
  readonly known = (id: MediaFileId): MediaFileRecord | undefined => this.#files.get(id);

  /** Nobody will ask for what changed before this look. */
  forgetBefore(look: number): void {
    const over = Math.max(0, Math.min(look - 1 - this.#first, this.#looks.length));
    this.#looks.splice(0, over);
    this.#first += over;
  }

  /** Lets go of everything: the next look reads all. */
  forget(): void {
    this.#first += this.#looks.length;
    this.#looks = [];
    this.#files.clear();
    this.#asOf = null;
    this.#isRead = false;
  }
}

import { getHeapStatistics } from 'node:v8';
import type { Matching } from '@legame/core/match';
import type { ClipId, ProjectId } from '@legame/core/model';
import type { Database } from '../db/database.ts';
import { mediaFileStore } from '../stores/mediaFiles.ts';
import { placeStore } from '../stores/places.ts';
import { FilesAtHand } from './filesAtHand.ts';

/** The matching of a project as this worker keeps it, and what it was made from. */
export type Kept = {
  readonly matching: Matching;
  /** Under this its results stand in the database. */
  readonly id: string;
  /** All that it rests on but clips and files, as a text. */
  readonly basis: string;
  readonly clips: readonly { readonly id: ClipId; readonly version: string }[];
  /** The look at the files that it knows. */
  readonly look: number;
};

/** What is kept of a file and of the clips that it may be of takes some two and a half kilobytes. */
const perFileInBytes = 2500;
/** All that is kept together is so many files: of what the engine lets this process have, the rest is for work. */
const mostFilesKept = (getHeapStatistics().heap_size_limit * 0.6) / perFileInBytes;
/** Nobody works: what is kept is let go of. */
const keptForMs = 15 * 60_000;

/** What this worker has in memory, so that a change costs what it touches: media files, and matchings made of them. */
class MatchingsAtHand {
  readonly files = new FilesAtHand();
  /** Those used longest ago first. */
  readonly #kept = new Map<ProjectId, Kept>();
  #lettingGo: NodeJS.Timeout | null = null;

  of = (projectId: ProjectId): Kept | null => this.#kept.get(projectId) ?? null;

  /** Takes it out, to be kept again when all that was built upon it has ended well. */
  take(projectId: ProjectId): Kept | null {
    const kept = this.of(projectId);
    this.#kept.delete(projectId);
    return kept;
  }

  /** Lets go of those used longest ago where they and one more, over so many files, would take too much memory. */
  makeRoom(files: number): void {
    for (const id of this.#kept.keys()) if ((this.#kept.size + 1) * files > mostFilesKept) this.#kept.delete(id);
  }

  /** Keeps a matching over so many files, unless it is too large by itself. */
  keep(projectId: ProjectId, kept: Kept, files: number): void {
    this.makeRoom(files);
    if (files <= mostFilesKept) this.#kept.set(projectId, kept);
    if (this.#kept.size === 0) this.files.forget();
    else this.files.forgetBefore(Math.min(...[...this.#kept.values()].map(({ look }) => look)));
    this.#letGoLater();
  }

  /** Has the files at hand before somebody asks for a matching, unless they are too many to keep. */
  async readAhead(db: Database): Promise<void> {
    if (!this.files.isRead && (await mediaFileStore.countPresent(db)) > mostFilesKept) return;
    await this.files.look(db, await placeStore.listPlaces(db), null);
    this.#letGoLater();
  }

  #letGoLater(): void {
    if (this.#lettingGo) clearTimeout(this.#lettingGo);
    this.#lettingGo = setTimeout(() => this.forget(), keptForMs).unref();
  }

  forget(): void {
    this.#kept.clear();
    this.files.forget();
  }
}

const byDatabase = new WeakMap<Database, MatchingsAtHand>();

export function matchingsAtHand(db: Database): MatchingsAtHand {
  const known = byDatabase.get(db) ?? new MatchingsAtHand();
  byDatabase.set(db, known);
  return known;
}

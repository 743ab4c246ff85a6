import type { AlsoHashed } from '@legame/core/consolidate';
import type { Hashes } from '@legame/core/mhl';
import type { Database } from '../db/database.ts';
import { asideOf, FencedFolder, isSameFile, isUntouched, type FileIdentity } from '../disk/writing.ts';
import { hashingBy, hashOf, xxh64Of } from '../media/hashing.ts';
import { UserProblem } from '../problems.ts';
import { madeFileStore, type MadeFile } from '../stores/madeFiles.ts';

/** Who makes files: what is made again under the same name is the same owner's. */
export type Owner =
  | `handoff:${string}`
  | `unpacking:${string}`
  | `put-back:${string}`
  | `bring-home:${string}`
  | `copy:${string}`
  | `check:${string}`;

/**
 * What one owner makes in one folder. Each file is noted with the name it has in the making before it is made, and with
 * what it is known by once it is finished: only by that, never by a name, is ours told from theirs.
 */
export class Ours {
  readonly folder: FencedFolder;
  readonly #db: Database;
  readonly #owner: Owner;
  readonly #files = new Map<string, MadeFile>();

  private constructor(db: Database, owner: Owner, folder: FencedFolder) {
    this.#db = db;
    this.#owner = owner;
    this.folder = folder;
  }

  /** What the owner has made so far; what it left unfinished is cleared away. */
  static async in(db: Database, owner: Owner, folder: FencedFolder): Promise<Ours> {
    const ours = new Ours(db, owner, folder);
    await ours.#learn();
    await ours.sweep();
    return ours;
  }

  async #learn(): Promise<void> {
    for (const file of await madeFileStore.listOf(this.#db, this.#owner)) this.#files.set(file.target, file);
  }

  /** Notes that these are going to be made. */
  async note(targets: readonly string[]): Promise<void> {
    const fresh = targets.filter((target) => !this.#files.has(target));
    if (fresh.length === 0) return;
    await madeFileStore.note(
      this.#db,
      fresh.map((target) => ({ owner: this.#owner, folder: this.folder.path, aside: asideOf(target), target })),
    );
    await this.#learn();
  }

  of(target: string): MadeFile {
    const file = this.#files.get(target);
    if (!file) throw new Error(`${target} was not noted before it was made.`);
    return file;
  }

  /**
   * Gives a file in the making its name. What it is known by is written down before, so that after a crash at any
   * moment it is known whether what lies there is ours.
   */
  async name(target: string, xxh64: string | null, others: Hashes = {}): Promise<void> {
    const { aside } = this.of(target);
    await this.#set(target, { identity: await this.folder.identify(aside), xxh64, others, isNamed: false });
    await this.folder.publish(aside, target);
    // Its name is a change as well.
    await this.#set(target, { identity: await this.folder.identify(target), isNamed: true });
  }

  /** What lies under the name: nothing, what was made, or something else. */
  async stateOf(target: string, signal: AbortSignal): Promise<'absent' | 'ours' | 'another'> {
    const found = await this.folder.look(target);
    if (!found) return 'absent';
    const { identity, xxh64, isNamed } = this.of(target);
    if (!identity || !found.isFile) return 'another';
    if (xxh64 === null ? isSameFile(found, identity) : isUntouched(found, identity)) {
      if (!isNamed) await this.#set(target, { isNamed: true });
      return 'ours';
    }
    // Touched, or numbered anew by its file system: the bytes tell.
    if (xxh64 === null || found.sizeInBytes !== identity.sizeInBytes) return 'another';
    const file = await this.folder.open(target);
    try {
      if ((await hashOf(file, { signal, isProof: true })) !== xxh64) return 'another';
    } finally {
      await file.close();
    }
    await this.#set(target, { identity: found, isNamed: true });
    return 'ours';
  }

  /**
   * Writes a small file; one that was made before goes first, if it is still what was made. `also`: hashes that are
   * wanted of it beside xxh64.
   */
  async write(target: string, content: Uint8Array | string, also: readonly AlsoHashed[] = []): Promise<void> {
    await this.note([target]);
    const { identity, aside } = this.of(target);
    if (identity && !(await this.folder.takeBack(target, identity)))
      throw new UserProblem({ code: 'target-exists', path: this.folder.resolve(target), when: 'copied' });
    try {
      await this.folder.writeAside(aside, content);
      const hashing = await hashingBy(also);
      hashing.update(Buffer.from(content));
      await this.name(target, xxh64Of(content), hashing.end());
    } finally {
      await this.folder.discard(aside);
    }
  }

  /** What was made and has its name, with what it is known by. */
  get named(): (MadeFile & { readonly identity: FileIdentity; readonly xxh64: string })[] {
    return [...this.#files.values()].flatMap((file) => {
      const { identity, xxh64, isNamed } = file;
      return isNamed && identity && xxh64 !== null ? [{ ...file, identity, xxh64 }] : [];
    });
  }

  /** Removes what was left in the making. */
  async sweep(): Promise<void> {
    for (const file of this.#files.values())
      if (!file.isNamed) await this.folder.discard(file.aside).catch(() => undefined);
  }

  async #set(target: string, change: Partial<MadeFile>): Promise<void> {
    const file = { ...this.of(target), ...change };
    this.#files.set(target, file);
    await madeFileStore.setState(this.#db, file, { isSure: !file.isNamed });
  }
}

/** Removes what owners that will not come back left in the making, where its folder can be reached. */
export async function sweepUnnamed(db: Database, before: Date): Promise<void> {
  const folders = new Map<string, MadeFile[]>();
  for (const file of await madeFileStore.listUnnamed(db, before))
    folders.set(file.folder, [...(folders.get(file.folder) ?? []), file]);
  for (const [path, files] of folders) {
    const folder = await FencedFolder.of({ path }).catch(() => null);
    for (const file of folder ? files : []) await folder?.discard(file.aside).catch(() => undefined);
  }
}

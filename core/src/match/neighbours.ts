import { rename, renamingKey, renamingOf, type Renaming } from '../paths/renaming.ts';
import { nameKey } from '../paths/names.ts';
import type { Weighed } from './decision.ts';
import { nameGradeIn, verdictIn } from './marks.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';
import { weigh, type Candidate } from './weigh.ts';

/** Folders that a folder's clips point to; more than this is no direction. */
const mostDirections = 6;
/** What begins and ends where the edit says is worth so many that are merely as long, or cover what is used. */
const beginsAndEnds = 100;

type Direction = { readonly to: string; readonly key: string; readonly renaming: Renaming | null; votes: number };
type Weighing = Weighed<PreparedClip, PreparedFile>;

/**
 * Retrieval by company: where some clips of a folder (or of a reel, where a list knows no folders) seem to lie in one
 * other folder, each of the rest is held against the file that lies there under its name, changed as theirs were. That
 * file may be what names alone would not have found; or it is another recording, and speaks against the direction.
 */
export class Neighbours {
  readonly #directions = new Map<string, readonly Direction[]>();
  /** The folders that directions lead to, with what lies there. */
  readonly #folders = new Map<string, Folder>();

  /** Takes the directions of these origins anew, from all clips of each. `files`: all that there are. */
  look(origins: ReadonlyMap<string, readonly Weighing[]>, files: Iterable<PreparedFile>): void {
    const unknown = new Map<string, Folder>();
    for (const [origin, members] of origins) {
      const directions = directionsOf(members);
      this.#directions.set(origin, directions);
      for (const { to } of directions) {
        const folder = this.#folders.get(to) ?? new Folder();
        if (!this.#folders.has(to)) unknown.set(to, folder);
        this.#folders.set(to, folder);
        folder.pointedAtFrom.add(origin);
      }
    }
    if (unknown.size > 0) for (const file of files) unknown.get(file.folderText)?.add(file);
  }

  add(file: PreparedFile): void {
    this.#folders.get(file.folderText)?.add(file);
  }

  remove(file: PreparedFile): void {
    this.#folders.get(file.folderText)?.remove(file);
  }

  /** Origins of which some clips point to the folder that this file lies in. */
  originsPointingAt = ({ folderText }: PreparedFile): ReadonlySet<string> =>
    this.#folders.get(folderText)?.pointedAtFrom ?? nobody;

  /** A clip's candidates, and those that its company leads to. */
  withNeighbours({ clip, candidates }: Weighing): readonly Candidate[] {
    const directions = clip.origin === null ? undefined : this.#directions.get(clip.origin);
    if (!directions) return candidates;
    const added: Candidate[] = [];
    for (const { to, renaming } of directions) {
      const name = renaming ? rename(clip.name, renaming) : clip.name;
      const file = name === null ? undefined : this.#folders.get(to)!.named(name);
      if (!file || candidates.some((c) => c.file === file) || added.some((c) => c.file === file)) continue;
      added.push(weigh(clip, file));
    }
    return added.length === 0 ? candidates : [...candidates, ...added];
  }
}

/** Where most of these clips seem to lie; of equals always the same, in whatever order they came. */
function directionsOf(members: readonly Weighing[]): readonly Direction[] {
  const asTheyAre = new Map<string, Direction>();
  const renamed = new Map<string, Direction>();
  const vote = (known: Map<string, Direction>, key: string, to: string, renaming: Renaming | null, votes: number) => {
    const direction = known.get(key);
    if (direction) direction.votes += votes;
    else known.set(key, { to, key, renaming, votes });
  };
  for (const { clip, candidates } of members)
    for (const candidate of candidates) {
      const votes = votesFor(candidate);
      if (votes === 0) continue;
      const { stemKey, nameKey: key, folderText, file } = candidate.file;
      const renaming = stemKey === clip.stemKey && key === clip.nameKey ? null : renamingOf(clip.name, file.name);
      if (renaming) vote(renamed, `${folderText}\u0000${renamingKey(renaming)}`, folderText, renaming, votes);
      else vote(asTheyAre, folderText, folderText, null, votes);
    }
  return [...asTheyAre.values(), ...renamed.values()]
    .sort((a, b) => b.votes - a.votes || (a.key < b.key ? -1 : 1))
    .slice(0, mostDirections);
}

const nobody: ReadonlySet<string> = new Set();

/** What lies in one folder, by name; and whose clips point there. */
class Folder {
  readonly pointedAtFrom = new Set<string>();
  readonly #files = new Set<PreparedFile>();
  #byName: Map<string, PreparedFile> | null = null;
  #byStem: Map<string, PreparedFile> | null = null;

  add(file: PreparedFile): void {
    this.#files.add(file);
    this.#byName = this.#byStem = null;
  }

  remove(file: PreparedFile): void {
    this.#files.delete(file);
    this.#byName = this.#byStem = null;
  }

  /** A name without extension, as lists have it, means whichever file of that stem lies there. */
  named(name: string): PreparedFile | undefined {
    const key = nameKey(name);
    this.#byName ??= firstBy(this.#files, (file) => file.nameKey);
    const file = this.#byName.get(key);
    if (file || key.includes('.')) return file;
    this.#byStem ??= firstBy(this.#files, (file) => file.stemKey);
    return this.#byStem.get(key);
  }
}

/** Of case twins the same, in whatever order they came. */
function firstBy(files: Iterable<PreparedFile>, keyOf: (file: PreparedFile) => string): Map<string, PreparedFile> {
  const byKey = new Map<string, PreparedFile>();
  for (const file of files) {
    const key = keyOf(file);
    const other = byKey.get(key);
    if (!other || file.file.name < other.file.name) byKey.set(key, file);
  }
  return byKey;
}

/**
 * How much it says for its folder; nothing unless name or timecode speak for it, and its reel does not speak against it.
 * Of very many namesakes some are as long by chance, in as many folders: what begins there too outvotes them all.
 */
function votesFor({ file, marks }: Candidate): number {
  if (file.state === 'unusable' || verdictIn(marks, 'reel') === 'differs') return 0;
  const [timecode, length, name] = [verdictIn(marks, 'timecode'), verdictIn(marks, 'length'), verdictIn(marks, 'name')];
  if (timecode === 'agrees')
    return length === 'agrees' ? beginsAndEnds : name === 'differs' && length === 'differs' ? 0 : 1;
  if (name === 'differs') return 0;
  return length === 'agrees' || nameGradeIn(marks) === 'version' || timecode === 'unknown' ? 1 : 0;
}

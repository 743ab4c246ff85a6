import { rename, renamingKey, renamingOf, type Renaming } from '../paths/renaming.ts';
import { nameKey } from '../paths/names.ts';
import { nameGradeIn, verdictIn } from './marks.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';
import { weigh, type Candidate } from './weigh.ts';

/** Folders that a folder's clips point to; more than this is no direction. */
const mostDirections = 6;

type Direction = { readonly to: string; readonly renaming: Renaming | null; votes: number };
type Weighing = { readonly clip: PreparedClip; readonly candidates: Candidate[] };

/**
 * Retrieval by company: where some clips of a folder (or of a reel, where a list knows no folders) seem to lie in one
 * other folder, each of the rest is held against the file that lies there under its name, changed as theirs were. That
 * file may be what names alone would not have found; or it is another recording, and speaks against the direction.
 */
export function withNeighbours(weighed: readonly Weighing[], files: readonly PreparedFile[]): Weighing[] {
  const byOrigin = new Map<string, Map<string, Direction>>();
  for (const { clip, candidates } of weighed) {
    const origin = clip.origin;
    if (origin === null) continue;
    const directions = byOrigin.get(origin) ?? new Map<string, Direction>();
    byOrigin.set(origin, directions);
    for (const candidate of candidates) {
      if (!pointsSomewhere(candidate)) continue;
      const { file } = candidate;
      const renaming =
        file.stemKey === clip.stemKey && file.nameKey === clip.nameKey ? null : renamingOf(clip.name, file.file.name);
      const key = `${file.folderText}\u0000${renaming ? renamingKey(renaming) : ''}`;
      const known = directions.get(key);
      if (known) known.votes += 1;
      else directions.set(key, { to: file.folderText, renaming, votes: 1 });
    }
  }
  const chosen = new Map<string, Direction[]>();
  const folders = new Map<string, Map<string, PreparedFile>>();
  for (const [origin, directions] of byOrigin) {
    const most = [...directions.values()].sort((a, b) => b.votes - a.votes).slice(0, mostDirections);
    chosen.set(origin, most);
    for (const { to } of most) folders.set(to, new Map());
  }
  for (const file of files) folders.get(file.folderText)?.set(file.nameKey, file);
  return weighed.map(({ clip, candidates }) => {
    const origin = clip.origin;
    const added: Candidate[] = [];
    for (const { to, renaming } of (origin !== null && chosen.get(origin)) || []) {
      const names = renaming ? rename(clip.name, renaming) : clip.name;
      const lying = folders.get(to)!;
      const file = names === null ? undefined : (lying.get(nameKey(names)) ?? ofStem(lying, names));
      if (!file || candidates.some((c) => c.file === file) || added.some((c) => c.file === file)) continue;
      added.push(weigh(clip, file));
    }
    return added.length === 0 ? { clip, candidates } : { clip, candidates: [...candidates, ...added] };
  });
}

/** A name without extension, as lists have it, means whichever file of that stem lies there. */
function ofStem(lying: ReadonlyMap<string, PreparedFile>, name: string): PreparedFile | undefined {
  const stem = nameKey(name);
  if (stem.includes('.')) return undefined;
  for (const file of lying.values()) if (file.stemKey === stem) return file;
  return undefined;
}

/** The name or the timecode speaks for it, and its reel does not speak against it. */
function pointsSomewhere({ file, marks }: Candidate): boolean {
  if (file.state === 'unusable' || verdictIn(marks, 'reel') === 'differs') return false;
  const [timecode, length, name] = [verdictIn(marks, 'timecode'), verdictIn(marks, 'length'), verdictIn(marks, 'name')];
  if (name === 'differs') return timecode === 'agrees' && length !== 'differs';
  return timecode === 'agrees' || length === 'agrees' || nameGradeIn(marks) === 'version' || timecode === 'unknown';
}

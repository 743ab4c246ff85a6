import type { ClipId } from '../model/ids.ts';
import { displace, displacementOf, type Displacement } from '../paths/displacement.ts';
import { nameKey, splitExtension } from '../paths/names.ts';
import { refusedFor } from './decide.ts';
import type { Evidence } from './evidence/evidence.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';
import type { Attribute, MatchRules } from './rules.ts';
import { weigh } from './weigh.ts';

/** What one decision reveals: where its folder went, and how its name changed. */
export type CarryPattern = {
  readonly displacement: Displacement;
  readonly name: { readonly before: string; readonly after: string; readonly extension: string | null };
};

export type Carried =
  | {
      readonly clipId: ClipId;
      readonly fits: true;
      readonly file: PreparedFile;
      readonly evidence: readonly Evidence[];
    }
  | {
      readonly clipId: ClipId;
      readonly fits: false;
      readonly file: PreparedFile;
      readonly evidence: readonly Evidence[];
      readonly differs: readonly Attribute[];
    };

/** The pattern of tying this clip to this file; null when the edit remembers no path for it, or the name says nothing. */
export function carryPattern(clip: PreparedClip, file: PreparedFile): CarryPattern | null {
  if (clip.folders.length === 0) return null;
  const at = file.stemKey.indexOf(clip.stemKey);
  const wasNamedAfresh = at < 0;
  if (wasNamedAfresh) return null;
  const [own, found] = [splitExtension(clip.name).extension, splitExtension(file.file.name).extension];
  return {
    displacement: displacementOf(clip.folders, file.folders),
    name: {
      before: file.stem.slice(0, at),
      after: file.stem.slice(at + clip.stemKey.length),
      extension: own.toLowerCase() === found.toLowerCase() ? null : found,
    },
  };
}

/**
 * Finds, for every other clip, the file to which the same displacement and renaming lead. Each is weighed like any
 * candidate: what must agree and differs does not fit, and says why. Clips that the pattern does not reach are absent.
 */
export function carry(
  pattern: CarryPattern,
  clips: readonly PreparedClip[],
  files: ReadonlyMap<string, PreparedFile>,
  rules: MatchRules,
): Carried[] {
  const carried: Carried[] = [];
  for (const clip of clips) {
    const folders = clip.folders.length ? displace(clip.folders, pattern.displacement) : null;
    if (!folders) continue;
    const { stem, extension } = splitExtension(clip.name);
    const ending = pattern.name.extension ?? extension;
    const name = `${pattern.name.before}${stem}${pattern.name.after}${ending ? `.${ending}` : ''}`;
    const file = files.get(pathKey(folders, name));
    if (!file) continue;
    const { evidence } = weigh(clip, file);
    const differs = refusedFor({ evidence }, rules);
    if (differs.length === 0 && !file.file.unreadable)
      carried.push({ clipId: clip.clip.id, fits: true, file, evidence });
    else carried.push({ clipId: clip.clip.id, fits: false, file, evidence, differs });
  }
  return carried;
}

/** Files by place name, folders and name, for `carry`. */
export const filesByPath = (files: Iterable<PreparedFile>): Map<string, PreparedFile> =>
  new Map([...files].map((file) => [pathKey(file.folders, file.file.name), file]));

const pathKey = (folders: readonly string[], name: string): string => nameKey(`${folders.join('/')}/${name}`);

import type { ClipId, MediaFileId } from '../model/ids.ts';
import type { SequenceFrames } from '../model/media.ts';
import { nameKey, safeName, splitExtension } from '../paths/names.ts';
import { frameName } from '../paths/sequence.ts';

/** A clip in scope, with the file it is tied to, or the reason why it cannot come along. */
export type PlanInput = {
  readonly clipId: ClipId;
  readonly clipName: string;
  /** Names of the timelines that use it. */
  readonly usedBy: readonly string[];
  readonly file: PlanFile | null;
  readonly reason: LeftOutReason | null;
};

export type PlanFile = {
  readonly id: MediaFileId;
  readonly placeName: string;
  readonly folder: string;
  readonly name: string;
  readonly sizeInBytes: number;
  readonly sequence: SequenceFrames | null;
};

export type LeftOutReason = 'missing' | 'place-away' | 'unreadable' | 'waived' | 'parked';

export type PlannedFile = {
  readonly mediaFileId: MediaFileId;
  readonly placeName: string;
  /** "/"-separated, from the place's root. For a sequence the frames are listed in `frames`. */
  readonly source: string;
  /** "/"-separated, relative to the handoff's folder; for a sequence its folder and pattern. */
  readonly target: string;
  readonly sizeInBytes: number;
  readonly sequence: SequenceFrames | null;
  readonly clipIds: readonly ClipId[];
  readonly usedBy: readonly string[];
  /** The name had to change: another file has it, or not every file system takes it. */
  readonly renamed: boolean;
};

export type ConsolidatePlan = {
  readonly files: readonly PlannedFile[];
  readonly leftOut: readonly { readonly clipId: ClipId; readonly clipName: string; readonly reason: LeftOutReason }[];
  readonly sizeInBytes: number;
};

/**
 * Plans to copy each used file whole, once, into `media/`. Names never collide, on file systems that fold case and
 * Unicode form too: files of one name go into folders named after the ones they came from, numbered if that is not
 * enough. The plan depends only on its input, in any order of the clips.
 */
export function planWholeFiles(clips: readonly PlanInput[], mediaFolder = 'media'): ConsolidatePlan {
  const byFile = new Map<MediaFileId, { file: PlanFile; clipIds: ClipId[]; usedBy: Set<string> }>();
  const leftOut: ConsolidatePlan['leftOut'][number][] = [];
  for (const { clipId, clipName, usedBy, file, reason } of clips) {
    if (!file) {
      leftOut.push({ clipId, clipName, reason: reason ?? 'missing' });
      continue;
    }
    const entry = byFile.get(file.id) ?? { file, clipIds: [], usedBy: new Set<string>() };
    entry.clipIds.push(clipId);
    usedBy.forEach((name) => entry.usedBy.add(name));
    byFile.set(file.id, entry);
  }
  const entries = [...byFile.values()].sort((a, b) => compareText(sourceOf(a.file), sourceOf(b.file)));
  const targets = chooseTargets(entries.map((e) => e.file));
  const files = entries.map(({ file, clipIds, usedBy }): PlannedFile => {
    const target = targets.get(file.id)!;
    return {
      mediaFileId: file.id,
      placeName: file.placeName,
      source: file.folder === '' ? file.name : `${file.folder}/${file.name}`,
      target: `${mediaFolder}/${target}`,
      sizeInBytes: file.sizeInBytes,
      sequence: file.sequence,
      clipIds,
      usedBy: [...usedBy].sort(),
      renamed: !target.endsWith(`/${file.name}`) && target !== file.name,
    };
  });
  return { files, leftOut, sizeInBytes: files.reduce((sum, f) => sum + f.sizeInBytes, 0) };
}

function chooseTargets(files: readonly PlanFile[]): Map<MediaFileId, string> {
  const wanted = new Map<string, PlanFile[]>();
  for (const file of files) {
    const key = nameKey(plainTarget(file));
    wanted.set(key, [...(wanted.get(key) ?? []), file]);
  }
  const taken = new Set<string>();
  const targets = new Map<MediaFileId, string>();
  const settle = (file: PlanFile, target: string) => {
    targets.set(file.id, target);
    taken.add(nameKey(target));
  };
  for (const group of wanted.values()) if (group.length === 1) settle(group[0]!, plainTarget(group[0]!));
  for (const group of wanted.values()) {
    if (group.length === 1) continue;
    for (const file of group) {
      const parent = safeName(file.folder.split('/').at(-1) || file.placeName);
      const target = `${parent}/${plainTarget(file)}`;
      settle(file, freeVariant(target, taken));
    }
  }
  return targets;
}

function freeVariant(target: string, taken: ReadonlySet<string>): string {
  if (!taken.has(nameKey(target))) return target;
  const { stem, extension } = splitExtension(target);
  for (let n = 2; ; n += 1) {
    const variant = extension ? `${stem}_${n}.${extension}` : `${stem}_${n}`;
    if (!taken.has(nameKey(variant))) return variant;
  }
}

/** A sequence gets a folder of its own, named after its prefix; its frames keep their names. */
function plainTarget(file: PlanFile): string {
  if (!file.sequence) return safeName(file.name);
  const folder = file.sequence.prefix.replace(/[-_. ]+$/, '') || file.folder.split('/').at(-1) || 'frames';
  return `${safeName(folder)}/${safeName(file.name)}`;
}

/** The single files that a planned file stands for: itself, or every frame that the sequence has. */
export function filesToCopy(planned: PlannedFile): { source: string; target: string }[] {
  const { sequence } = planned;
  if (!sequence) return [{ source: planned.source, target: planned.target }];
  const missing = new Set(sequence.missing);
  const list: { source: string; target: string }[] = [];
  for (let n = sequence.first; n <= sequence.last; n += 1) {
    if (missing.has(n)) continue;
    const name = frameName(sequence, n);
    list.push({ source: withName(planned.source, name), target: withName(planned.target, name) });
  }
  return list;
}

const withName = (path: string, name: string): string => path.replace(/[^/]*$/, () => name);
const sourceOf = (file: PlanFile): string => `${file.placeName}/${file.folder}/${file.name}`;
const compareText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

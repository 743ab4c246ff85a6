import { defaultTemplate, type FolderTemplate } from '../folders/index.ts';
import { acceptsAll, type AcceptanceProfile } from '../model/acceptance.ts';
import type { MediaKind } from '../model/edit.ts';
import type { ClipId, MediaFileId } from '../model/ids.ts';
import type { SequenceFrames } from '../model/media.ts';
import { nameKey } from '../paths/names.ts';
import { frameName } from '../paths/sequence.ts';
import { uniteRanges, type FrameRange } from '../time/range.ts';
import {
  treatmentsBy,
  takenBy,
  isRefusedBy,
  type Choices,
  type LeftOutReason,
  type PlanFile,
  type PlanInput,
  type Treatment,
} from './choices.ts';
import type { Coded } from './coding.ts';
import { laidOut } from './layout.ts';
import { foldersOf, placesFor } from './names.ts';
import { sidecarsBeside, type PlannedSidecar } from './sidecars.ts';
import { unitsKept, type Span } from './spans.ts';
import { bytesOf, lengthOf, startsAt, treatmentBy, usesOf, type WholeReason } from './treat.ts';

/** One file of the set; of a sequence the folder of its frames. */
export type PlannedOut = {
  /** "/"-separated, relative to the handoff's folder; for a sequence its folder and pattern. */
  readonly target: string;
  /** Units of the source from its first; null where all of it goes. */
  readonly range: FrameRange | null;
  /** The address of a part's first unit; null where it has none, as whole files and sequences. */
  readonly startsAt: number | null;
  readonly sizeInBytes: number;
  readonly sequence: SequenceFrames | null;
  /** The name had to change: another file has it, or not every file system takes it. */
  readonly renamed: boolean;
  readonly handlesCut: Span['handlesCut'];
};

export type PlannedRecording = {
  readonly mediaFileId: MediaFileId;
  readonly placeName: string;
  /** "/"-separated, from the place's root. */
  readonly source: string;
  readonly kind: MediaKind | null;
  /** In its own units: frames of picture, samples of sound; null where that is not known. */
  readonly length: number | null;
  readonly used: readonly FrameRange[];
  readonly treatment: Treatment;
  /** How it is coded anew; null where it stays as it is. */
  readonly coded: Coded | null;
  readonly wholeBecause: WholeReason | null;
  readonly outs: readonly PlannedOut[];
  /** What goes with it, as it is. */
  readonly sidecars: readonly PlannedSidecar[];
  /** Tracks of it that its parts are without. */
  readonly tracksLeft: number;
  readonly wholeInBytes: number;
  readonly sizeInBytes: number;
  readonly clipIds: readonly ClipId[];
  readonly usedBy: readonly string[];
};

/** A clip that does not come along; with its file where it has one that could. */
export type LeftOut = {
  readonly clipId: ClipId;
  readonly clipName: string;
  readonly mediaFileId: MediaFileId | null;
  readonly kind: MediaKind | null;
  readonly reason: LeftOutReason;
};

export type ConsolidatePlan = {
  readonly recordings: readonly PlannedRecording[];
  readonly leftOut: readonly LeftOut[];
  readonly sizeInBytes: number;
  readonly wholeInBytes: number;
};

/**
 * Plans what of each used recording goes into `media/`, and under what names: each once, whole or as spans, as it is or
 * coded anew as its receiver can use it. Names never collide. The plan depends only on its input, in any order of the clips.
 */
export function planHandoff(
  clips: readonly PlanInput[],
  choices: Choices,
  {
    accepts = acceptsAll,
    template = defaultTemplate,
    mediaFolder = 'media',
  }: { accepts?: AcceptanceProfile; template?: FolderTemplate; mediaFolder?: string } = {},
): ConsolidatePlan {
  const takes = takenBy(choices, accepts);
  const treatmentOf = treatmentsBy(choices, takes);
  const treatedBy = treatmentBy(choices, takes);
  const byFile = new Map<MediaFileId, { readonly file: PlanFile; readonly clips: PlanInput[] }>();
  const leftOut: LeftOut[] = [];
  const leave = (clip: PlanInput, reason: LeftOutReason) =>
    leftOut.push({
      clipId: clip.clipId,
      clipName: clip.clipName,
      mediaFileId: clip.file?.id ?? null,
      kind: clip.file && kindIn(clip.file),
      reason,
    });
  for (const clip of clips) {
    const { file } = clip;
    if (!file) leave(clip, clip.reason ?? 'missing');
    else if (treatmentOf(file) === 'leave') leave(clip, 'left-by-choice');
    else {
      const entry = byFile.get(file.id) ?? { file, clips: [] };
      entry.clips.push(clip);
      byFile.set(file.id, entry);
    }
  }
  const gathered = [...byFile.values()].sort((a, b) => compareText(sourceOf(a.file), sourceOf(b.file)));
  const parts = gathered.flatMap((one) => {
    const treated = treatedBy(one);
    if (!isRefusedBy(takes, one.file) || treated.coded) return [{ ...one, ...treated }];
    for (const clip of one.clips) leave(clip, 'not-accepted');
    return [];
  });
  const wanted = parts.flatMap((one) =>
    one.spans.map((span, n) => ({
      one,
      wanted: laidOut(one, span, n, choices, { extension: one.coded?.extension ?? null, template }),
    })),
  );
  const paths = placesFor(wanted.map((w) => w.wanted.at));
  const outs = new Map<MediaFileId, PlannedOut[]>();
  wanted.forEach(({ one, wanted: { span, at, plain, sequence } }, i) => {
    const target = [mediaFolder, paths[i]!, ...(sequence ? [plain] : [])].join('/');
    const out: PlannedOut = {
      target,
      range: span?.range ?? null,
      startsAt: span && startsAt(one, span),
      sizeInBytes: bytesOf(one.file, span, one.coded),
      sequence,
      renamed: paths[i] !== (at.folder ? `${at.folder}/${at.name}` : at.name) || (!span && plain !== one.file.name),
      handlesCut: span?.handlesCut ?? { head: 0, tail: 0 },
    };
    outs.set(one.file.id, [...(outs.get(one.file.id) ?? []), out]);
  });
  const taken = new Set([...outs.values()].flat().flatMap(keysTaken));
  const recordings = parts.map((one): PlannedRecording => {
    const list = outs.get(one.file.id)!;
    return {
      mediaFileId: one.file.id,
      placeName: one.file.placeName,
      source: one.file.folder === '' ? one.file.name : `${one.file.folder}/${one.file.name}`,
      kind: kindIn(one.file),
      length: lengthOf(one.file),
      used: uniteRanges(usesOf(one).filter((u) => u !== null)),
      treatment: treatmentOf(one.file),
      coded: one.coded,
      wholeBecause: one.wholeBecause,
      outs: list,
      sidecars: choices.sidecars ? sidecarsBeside(one.file, list, taken) : [],
      tracksLeft: list.some((out) => out.range !== null) ? one.file.otherTracks : 0,
      wholeInBytes: one.file.sizeInBytes,
      sizeInBytes: list.reduce((sum, o) => sum + o.sizeInBytes, 0),
      clipIds: one.clips.map((c) => c.clipId),
      usedBy: [...new Set(one.clips.flatMap((c) => c.usedBy))].sort(),
    };
  });
  const sum = (of: (r: PlannedRecording) => number) => recordings.reduce((all, r) => all + of(r), 0);
  const beside = sum((r) => r.sidecars.reduce((all, s) => all + s.sizeInBytes, 0));
  return {
    recordings,
    leftOut,
    sizeInBytes: sum((r) => r.sizeInBytes) + beside,
    wholeInBytes: sum((r) => r.wholeInBytes) + beside,
  };
}

/** The names that one of the set takes, and the folder it lies in. */
const keysTaken = (out: PlannedOut): string[] => [
  ...foldersOf(out.target),
  ...filesToCopy('', out).map((f) => nameKey(f.target)),
];

/** The single files that one of the set stands for, as they lie on the place and in the set; and which frame each is. */
export function filesToCopy(
  source: string,
  { target, sequence }: Pick<PlannedOut, 'target' | 'sequence'>,
): { source: string; target: string }[] {
  if (!sequence) return [{ source, target }];
  const missing = new Set(sequence.missing);
  const list: { source: string; target: string }[] = [];
  for (let n = sequence.first; n <= sequence.last; n += 1) {
    if (missing.has(n)) continue;
    const name = frameName(sequence, n);
    list.push({ source: withName(source, name), target: withName(target, name) });
  }
  return list;
}

/** Units of the source that a plan keeps, each once. */
export const keptUnits = ({
  outs,
  length,
}: {
  readonly outs: readonly Pick<PlannedOut, 'range'>[];
  readonly length: number | null;
}): number => unitsKept(outs.map((o) => o.range ?? { start: 0, end: length ?? 0 }));

const kindIn = ({ facts, sequence }: PlanFile): MediaKind | null => facts?.kind ?? (sequence ? 'sequence' : null);
const withName = (path: string, name: string): string => path.replace(/[^/]*$/, () => name);
const sourceOf = (file: PlanFile): string => `${file.placeName}/${file.folder}/${file.name}`;
const compareText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

import type { ClipId, MediaFileId } from '../model/ids.ts';
import { countingRate, type Facts, type SequenceFrames } from '../model/media.ts';
import type { MediaKind } from '../model/edit.ts';
import { safeName, splitExtension } from '../paths/names.ts';
import { frameName, leastSequenceLength } from '../paths/sequence.ts';
import { convertFrames, rangeLength, uniteRanges, type FrameRange } from '../time/range.ts';
import { nominalRate, type Rate } from '../time/rate.ts';
import { formatTimecode, framesPerDay, type Counting } from '../time/timecode.ts';
import { defaultPattern, nameBy, placesFor, type Foldering, type NameParts, type Wanted } from './names.ts';
import { spansOf, unitsKept, type Cutting, type Division, type NoCutReason, type Span } from './spans.ts';

/** What becomes of a recording: copied whole; the used spans of it, without re-encoding; or it stays where it is. */
export const treatments = ['whole', 'trim', 'leave'] as const;
export type Treatment = (typeof treatments)[number];

/** What a person chooses of a handoff. Sequences are picture; stills have nothing to trim. */
export type Choices = {
  readonly picture: Treatment;
  readonly sound: Treatment;
  readonly still: Exclude<Treatment, 'trim'>;
  /** In frames of the timelines' rate. */
  readonly handlesInFrames: number;
  readonly division: Division;
  readonly gapInFrames: number;
  readonly foldering: Foldering;
  /** Of `as-source`: how many of the folders on the place are kept, counted from the file; null for all. */
  readonly levels: number | null;
  readonly pattern: string;
};

/** What is done where nothing else is asked for: everything that is used, whole. */
export const standardChoices: Choices = {
  picture: 'whole',
  sound: 'whole',
  still: 'whole',
  handlesInFrames: 24,
  division: 'span',
  gapInFrames: 0,
  foldering: 'flat',
  levels: null,
  pattern: defaultPattern,
};

/** A clip in scope, with the file it is tied to, or the reason why it cannot come along. */
export type PlanInput = {
  readonly clipId: ClipId;
  readonly clipName: string;
  /** Names of the timelines that use it, and of the bin it lies in. */
  readonly usedBy: readonly string[];
  readonly bin: string | null;
  readonly scene: string | null;
  readonly take: string | null;
  /** The rate that the edit counts it at, for handles and for timecode of sound. */
  readonly rate: Rate;
  readonly counting: Counting;
  /** Where the edit says that its media starts, in frames at `rate`; it numbers files that have no timecode. */
  readonly statedStart: number | null;
  readonly file: PlanFile | null;
  readonly reason: LeftOutReason | null;
  /** What each of its uses reads of the file, in the file's units from its first; null where that is not known. */
  readonly uses: readonly (FrameRange | null)[];
};

export type PlanFile = {
  readonly id: MediaFileId;
  readonly placeName: string;
  readonly folder: string;
  readonly name: string;
  readonly sizeInBytes: number;
  readonly sequence: SequenceFrames | null;
  readonly facts: Facts | null;
  readonly cutting: Cutting;
  /** Tracks that a part of it would be without: all but picture, sound and timecode. */
  readonly otherTracks: number;
};

export const leftOutReasons = ['missing', 'place-away', 'unreadable', 'waived', 'parked', 'left-by-choice'] as const;
export type LeftOutReason = (typeof leftOutReasons)[number];

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

/** Why a recording goes whole though it was to be trimmed. */
export type WholeReason = NoCutReason | 'all-used' | 'not-used' | 'use-unknown';

export type PlannedRecording = {
  readonly mediaFileId: MediaFileId;
  readonly placeName: string;
  /** "/"-separated, from the place's root. */
  readonly source: string;
  readonly kind: MediaKind | null;
  /** In its own units: frames of picture, samples of sound; null where that is not known. */
  readonly length: number | null;
  readonly used: readonly FrameRange[];
  readonly wholeBecause: WholeReason | null;
  readonly outs: readonly PlannedOut[];
  /** Tracks of it that its parts are without. */
  readonly tracksLeft: number;
  readonly wholeInBytes: number;
  readonly sizeInBytes: number;
  readonly clipIds: readonly ClipId[];
  readonly usedBy: readonly string[];
};

export type ConsolidatePlan = {
  readonly recordings: readonly PlannedRecording[];
  readonly leftOut: readonly { readonly clipId: ClipId; readonly clipName: string; readonly reason: LeftOutReason }[];
  readonly sizeInBytes: number;
  readonly wholeInBytes: number;
};

type Gathered = { readonly file: PlanFile; readonly clips: PlanInput[] };

/**
 * Plans what of each used recording goes into `media/`, and under what names: each once, whole or as spans. Names never
 * collide. The plan depends only on its input, in any order of the clips.
 */
export function planHandoff(clips: readonly PlanInput[], choices: Choices, mediaFolder = 'media'): ConsolidatePlan {
  const byFile = new Map<MediaFileId, Gathered>();
  const leftOut: ConsolidatePlan['leftOut'][number][] = [];
  const leave = (clip: PlanInput, reason: LeftOutReason) =>
    leftOut.push({ clipId: clip.clipId, clipName: clip.clipName, reason });
  for (const clip of clips) {
    const { file } = clip;
    if (!file) leave(clip, clip.reason ?? 'missing');
    else if (treatmentOf(file, choices) === 'leave') leave(clip, 'left-by-choice');
    else {
      const entry = byFile.get(file.id) ?? { file, clips: [] };
      entry.clips.push(clip);
      byFile.set(file.id, entry);
    }
  }
  const gathered = [...byFile.values()].sort((a, b) => compareText(sourceOf(a.file), sourceOf(b.file)));
  const parts = gathered.map((one) => ({ ...one, ...partsOf(one, choices) }));
  const wanted = parts.flatMap((one) =>
    one.spans.map((span, n) => ({ one, wanted: wantedFor(one, span, n, choices) })),
  );
  const paths = placesFor(wanted.map((w) => w.wanted.at));
  const outs = new Map<Gathered, PlannedOut[]>();
  wanted.forEach(({ one, wanted: { span, at, plain, sequence } }, i) => {
    const target = [mediaFolder, paths[i]!, ...(sequence ? [plain] : [])].join('/');
    const out: PlannedOut = {
      target,
      range: span?.range ?? null,
      startsAt: span && startsAt(one, span),
      sizeInBytes: bytesOf(one.file, span),
      sequence,
      renamed: paths[i] !== (at.folder ? `${at.folder}/${at.name}` : at.name) || (!span && plain !== one.file.name),
      handlesCut: span?.handlesCut ?? { head: 0, tail: 0 },
    };
    outs.set(one, [...(outs.get(one) ?? []), out]);
  });
  const recordings = parts.map((one): PlannedRecording => {
    const list = outs.get(one)!;
    return {
      mediaFileId: one.file.id,
      placeName: one.file.placeName,
      source: one.file.folder === '' ? one.file.name : `${one.file.folder}/${one.file.name}`,
      kind: one.file.facts?.kind ?? (one.file.sequence ? 'sequence' : null),
      length: lengthOf(one.file),
      used: uniteRanges(usesOf(one).filter((u) => u !== null)),
      wholeBecause: one.wholeBecause,
      outs: list,
      tracksLeft: list.some((out) => out.range !== null) ? one.file.otherTracks : 0,
      wholeInBytes: one.file.sizeInBytes,
      sizeInBytes: list.reduce((sum, o) => sum + o.sizeInBytes, 0),
      clipIds: one.clips.map((c) => c.clipId),
      usedBy: [...new Set(one.clips.flatMap((c) => c.usedBy))].sort(),
    };
  });
  const sum = (of: (r: PlannedRecording) => number) => recordings.reduce((all, r) => all + of(r), 0);
  return { recordings, leftOut, sizeInBytes: sum((r) => r.sizeInBytes), wholeInBytes: sum((r) => r.wholeInBytes) };
}

function treatmentOf({ facts, sequence }: PlanFile, choices: Choices): Treatment {
  if (facts?.kind === 'still') return choices.still;
  return facts?.kind === 'sound' && !sequence ? choices.sound : choices.picture;
}

/** A sequence of whose length nothing was measured is as long as its numbers. */
function lengthOf({ facts, sequence }: PlanFile): number | null {
  if (sequence) return sequence.last - sequence.first + 1;
  return facts?.kind === 'still' ? null : (facts?.length ?? null);
}

const usesOf = ({ clips }: Gathered): (FrameRange | null)[] => clips.flatMap((c) => c.uses);

/** The spans of a recording that go; a single null where it goes whole. */
function partsOf(one: Gathered, choices: Choices): { spans: (Span | null)[]; wholeBecause: WholeReason | null } {
  const whole = (wholeBecause: WholeReason | null) => ({ spans: [null], wholeBecause });
  const { file } = one;
  if (treatmentOf(file, choices) !== 'trim') return whole(null);
  const length = lengthOf(file);
  const uses = usesOf(one);
  if (file.cutting.can === 'nowhere') return whole(file.cutting.because);
  if (length === null) return whole('no-length');
  if (uses.length === 0) return whole('not-used');
  const known = uses.filter((u) => u !== null);
  if (known.length < uses.length) return whole('use-unknown');
  const { rate } = one.clips[0]!;
  const units = (frames: number) => inUnits(frames, rate, file);
  const spans = spansOf(known, length, file.cutting, {
    division: choices.division,
    handles: units(choices.handlesInFrames),
    gap: units(choices.gapInFrames),
  }).map((span) => (file.sequence ? longEnough(span, length) : span));
  if (spans.length === 0) return whole('not-used');
  const isAll = spans.some(({ range }) => range.start === 0 && range.end === length);
  return isAll ? whole('all-used') : { spans, wholeBecause: null };
}

/** Frames of the edit as units of the file, rounded up. */
function inUnits(frames: number, rate: Rate, { facts }: PlanFile): number {
  const own = facts && countingRate(facts);
  return own ? convertFrames(frames, rate, own, 'up') : frames;
}

/** Few numbered pictures are no sequence to whoever opens the set. */
function longEnough(span: Span, length: number): Span {
  const { start } = span.range;
  const end = Math.min(length, Math.max(span.range.end, start + leastSequenceLength));
  return { ...span, range: { start: Math.max(0, Math.min(start, end - leastSequenceLength)), end } };
}

/** Exact for whole files; of a part, its share of the length. */
function bytesOf(file: PlanFile, span: Span | null): number {
  const length = lengthOf(file);
  if (!span || !length) return file.sizeInBytes;
  return Math.min(file.sizeInBytes, Math.ceil((file.sizeInBytes * rangeLength(span.range)) / length));
}

/**
 * A part goes on counting as its source does. Where that has no timecode, the edit says what its first unit is called; if
 * edits disagree, the part stays without as well, and each goes by what its own reference says.
 */
function startsAt({ file: { facts, sequence }, clips }: Gathered, { range }: Span): number | null {
  const own = facts && countingRate(facts);
  if (!own || sequence) return null;
  // Addresses begin again at midnight.
  const day = facts.kind === 'sound' ? 86_400 * own.num : framesPerDay(own, facts.counting);
  if (facts.timecodeSource !== 'none') return (facts.start + range.start) % day;
  const stated = new Set(clips.map((c) => convertFrames(c.statedStart ?? 0, c.rate, own, 'nearest')));
  return stated.size === 1 ? ([...stated][0]! + range.start) % day : null;
}

function wantedFor(
  one: Gathered,
  span: Span | null,
  n: number,
  choices: Choices,
): { span: Span | null; at: Wanted; plain: string; sequence: SequenceFrames | null } {
  const { file, clips } = one;
  const folder = folderFor(one, choices);
  const from = file.folder.split('/').at(-1) || file.placeName;
  const { stem, extension } = splitExtension(file.name);
  const { pattern } = choices;
  const spans = span && !/\{(start|n)\}/.test(pattern) ? `${pattern}_{start}` : pattern;
  const name = file.sequence ? sequenceStem(file, file.sequence) : stem;
  const parts: NameParts = {
    name,
    reel: file.facts?.reel ?? '',
    scene: clips.find((c) => c.scene)?.scene ?? '',
    take: clips.find((c) => c.take)?.take ?? '',
    timeline: clips[0]!.usedBy[0] ?? '',
    start: startOf(file, span, clips[0]!),
    n: String(n + 1).padStart(2, '0'),
  };
  if (!file.sequence) {
    const plain = nameBy(spans, parts) + (extension ? `.${extension}` : '');
    return { span, at: { folder, name: plain, from }, plain, sequence: null };
  }
  // A sequence gets a folder of its own; its frames keep their names, and so their numbers.
  const sequence = span ? partOfSequence(file.sequence, span.range) : file.sequence;
  return { span, at: { folder, name: nameBy(spans, parts), from }, plain: safeName(file.name), sequence };
}

const sequenceStem = (file: PlanFile, { prefix }: SequenceFrames): string =>
  prefix.replace(/[-_. ]+$/, '') || file.folder.split('/').at(-1) || 'frames';

/** The frames of a sequence that a range of its units holds. */
export const partOfSequence = (sequence: SequenceFrames, { start, end }: FrameRange): SequenceFrames => {
  const [first, last] = [sequence.first + start, sequence.first + end - 1];
  return { ...sequence, first, last, missing: sequence.missing.filter((n) => n >= first && n <= last) };
};

function folderFor({ file, clips }: Gathered, { foldering, levels }: Choices): string {
  const safe = (path: readonly string[]) => path.filter(Boolean).map(safeName).join('/');
  switch (foldering) {
    case 'flat':
      return '';
    case 'as-source': {
      const all = [file.placeName, ...file.folder.split('/').filter(Boolean)];
      return safe(levels === null ? all : all.slice(1).slice(levels === 0 ? Infinity : -levels));
    }
    case 'by-reel':
      return safe([file.facts?.reel ?? 'no reel']);
    case 'by-kind':
      return kindFolder(file);
    case 'by-timeline':
      return safe([clips.flatMap((c) => c.usedBy).sort()[0] ?? 'no timeline']);
    case 'by-bin':
      return safe([clips.map((c) => c.bin).find((b) => b !== null) ?? 'no bin']);
  }
}

function kindFolder({ facts, sequence }: PlanFile): string {
  if (sequence) return 'sequences';
  return facts?.kind === 'sound' ? 'sound' : facts?.kind === 'still' ? 'stills' : 'picture';
}

/** The first timecode as digits, which sort as time does; of sound at the rate of the edit; where none is counted, units. */
function startOf({ facts }: PlanFile, span: Span | null, { rate, counting }: PlanInput): string {
  if (!facts) return '';
  const first = facts.start + (span?.range.start ?? 0);
  const own = countingRate(facts);
  if (!own || facts.kind === 'still') return '';
  const isSound = facts.kind === 'sound';
  const [at, by, how] = isSound
    ? [convertFrames(first, own, rate, 'down'), rate, counting]
    : [first, own, facts.counting];
  return nominalRate(by) > 120 ? String(at) : formatTimecode(at, by, how).replace(/\D/g, '');
}

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

const withName = (path: string, name: string): string => path.replace(/[^/]*$/, () => name);
const sourceOf = (file: PlanFile): string => `${file.placeName}/${file.folder}/${file.name}`;
const compareText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

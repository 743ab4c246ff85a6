import type { DarkClip, DisplacedFolder } from './cause.ts';
import { refusedFor } from './decide.ts';
import { excusedBy, interpretationOf, timecodeDisplacement, type TimecodeDisplacement } from './displacement.ts';
import { coversUse } from './evidence/timecode.ts';
import { defaultForm } from './forms.ts';
import { nameGradeIn, verdictIn } from './marks.ts';
import { isOfReel, type PreparedClip, type PreparedFile, renamingBetween } from './prepare.ts';
import type { Attribute, MatchRules } from './rules.ts';
import { liesAsSaid, type Candidate } from './weigh.ts';
import { sourceRange } from '../model/media.ts';
import { commonTailOfKeys } from '../paths/displacement.ts';
import { nameKey } from '../paths/names.ts';
import { isRenamed, type Renaming, renamingKey } from '../paths/renaming.ts';
import { formatRate } from '../time/rate.ts';

/**
 * How much one file says for one clip, best first. `identified`: certain by itself. `timed`: the timecode agrees, or
 * stands apart in a way that others can share. `length`: name and exact length, or of a list name and the whole of its
 * folders. `covering`: reel and covered frames, as
 * lists without names have it. `name`: nothing but the name. `version`: another version by its name, which only a person
 * takes for it.
 */
export const strengths = ['identified', 'timed', 'length', 'covering', 'name', 'version'] as const;

export type Strength = (typeof strengths)[number];

/** One file that a dark clip may be, and how the two stand apart: what several clips must share to bear it out. */
export type Option = {
  readonly dark: DarkClip;
  readonly candidate: Candidate;
  readonly strength: Strength;
  /** What must agree and differs, and is not accounted for by how they stand apart. */
  readonly differs: readonly Attribute[];
  readonly renaming: Renaming | null;
  readonly timecode: TimecodeDisplacement | null;
  /** Where the clip lay and where the file lies, and the change of name: one direction, by its short name. */
  readonly direction: number;
  /** How its name, timecode, rate and raster stand apart. */
  readonly manner: string;
  /** The same whatever the constant between timecodes, which may be each reel's own; null where there is none. */
  readonly mannerPerReel: string | null;
  /** Direction and manner: the same for all that bear each other out within one folder. */
  readonly key: number;
  /** Whose word it is, by its short name: files of one content, or one recording, are one witness. */
  readonly witness: number;
};

/** Short names for long texts that are met again and again. */
export class ShortNames {
  readonly #names = new Map<string, number>();
  readonly #pairs = new Map<number, number>();

  of(text: string): number {
    const known = this.#names.get(text);
    if (known !== undefined) return known;
    this.#names.set(text, this.#names.size);
    return this.#names.size - 1;
  }

  /** One for two that have one; no text is made for it. */
  pair(a: number, b: number): number {
    const key = a * 2 ** 26 + b;
    const known = this.#pairs.get(key);
    if (known !== undefined) return known;
    this.#pairs.set(key, this.#pairs.size);
    return this.#pairs.size - 1;
  }
}

/** Everything that a dark clip may be, in order of closeness; and the files that speak against a direction. */
export type Hypotheses = {
  readonly dark: DarkClip;
  readonly options: readonly Option[];
  /** Directions in which a file of its name lies that is another recording. */
  readonly against: readonly number[];
};

/**
 * What clips may be, as it was found before: who explains dark clips again, by the same rules, after few of them changed,
 * passes it on, and only those are looked at anew.
 */
export class FoundBefore {
  readonly names = new ShortNames();
  readonly #found = new WeakMap<DarkClip, Hypotheses>();

  of(dark: DarkClip, find: () => Hypotheses): Hypotheses {
    const known = this.#found.get(dark);
    if (known) return known;
    const found = find();
    this.#found.set(dark, found);
    return found;
  }
}

/** `asked`: the folders to which clips point that are not decided; elsewhere nothing needs to be spoken against. */
export function hypothesesOf(
  dark: DarkClip,
  rules: MatchRules,
  names: ShortNames,
  asked?: ReadonlySet<string>,
): Hypotheses {
  const { clip, candidates, decision } = dark.decided;
  const chosen = decision.kind === 'certain' ? decision.mediaFileId : null;
  // Company shows where a card went, and not which of two recordings of a reel is meant by what a log says of one.
  const isForPeople = clip.enriched !== null && decision.kind === 'ask' && decision.reason === 'several';
  const isUndecided =
    decision.kind === 'ask'
      ? linkable.includes(decision.reason) && !isForPeople
      : decision.kind !== 'certain' && decision.kind !== 'unusable';
  const options: Option[] = [];
  const against: number[] = [];
  // A file under a wholly other name, in a folder of many, says nothing of the rest of that folder.
  const speaksAgainst = (direction: number, renaming: Renaming | null) => renaming !== null && against.push(direction);
  const chosenBytes = candidates.find((c) => c.file.id === chosen)?.file.bytes ?? null;
  for (const candidate of candidates) {
    const { file } = candidate;
    if (!file.there || file.state !== 'readable') continue;
    if (chosen !== null && file.id !== chosen && !(asked?.has(file.folderText) ?? true)) continue;
    const renaming = renamingBetween(clip, file);
    const direction = directionOf(clip, file, renaming, names);
    if (file.id === chosen) {
      const as = { renaming, direction, timecode: null, differs: [] };
      options.push(optionOf(dark, candidate, 'identified', as, names));
      continue;
    }
    if (chosen !== null) {
      // The recording was found, and is not what lies there.
      if (file.bytes === null || file.bytes !== chosenBytes) speaksAgainst(direction, renaming);
      continue;
    }
    const timecode = timecodeApart(clip, candidate);
    const excused = excusedBy(timecode && interpretationOf(timecode));
    const differs = refusedFor(candidate.marks, rules).filter((a) => !excused.includes(a));
    const strength = differs.length === 0 && isUndecided ? strengthOf(clip, candidate, timecode) : null;
    if (strength === null) speaksAgainst(direction, renaming);
    else options.push(optionOf(dark, candidate, strength, { renaming, direction, timecode, differs }, names));
  }
  // Clips that nothing gathers, by folder or by reel, are of many cards: then a namesake of one is nothing to another.
  // Nor is it where several cards bear one reel, and this clip has what it may be on one of them.
  const isOfMany = clip.origin === null || (isOfReel(clip) && options.some(({ strength }) => telling.has(strength)));
  return { dark, options: inOneForm(options, decision), against: isOfMany ? [] : against };
}

/** What of a file says more than that it covers what is used, or bears its name. */
const telling: ReadonlySet<Strength> = new Set(['identified', 'timed', 'length']);

/** Of one recording in several forms the one that the decision took, else the original. */
function inOneForm(options: readonly Option[], decision: DarkClip['decided']['decision']): readonly Option[] {
  if (options.length < 2 || !options.some(({ candidate }) => candidate.form)) return options;
  const first = decision.kind === 'ask' ? decision.mediaFileIds[0] : undefined;
  const taken = options.find(({ candidate }) => candidate.file.id === first)?.candidate.form ?? defaultForm;
  const isHere = options.some(({ candidate }) => candidate.form === taken);
  return isHere ? options.filter(({ candidate: { form } }) => !form || form === 'other' || form === taken) : options;
}

/** Questions that company can answer; versions, contests and what is away or unread it cannot. */
const linkable: readonly string[] = ['several', 'not-enough-known'];

const nameOf = (renaming: Renaming | null): string =>
  renaming ? (isRenamed(renaming) ? renamingKey(renaming) : '') : 'afresh';

const directionOf = (
  { origin }: PreparedClip,
  { folderText }: PreparedFile,
  renaming: Renaming | null,
  names: ShortNames,
): number => names.pair(names.pair(names.of(origin ?? ''), names.of(folderText)), names.of(nameOf(renaming)));

function optionOf(
  dark: DarkClip,
  candidate: Candidate,
  strength: Strength,
  more: Pick<Option, 'renaming' | 'direction' | 'timecode' | 'differs'>,
  names: ShortNames,
): Option {
  const { marks } = candidate;
  const { renaming, timecode } = more;
  const mannerWith = (timecodes: string) =>
    [
      nameOf(renaming),
      timecodes,
      verdictIn(marks, 'rate') === 'nearly' ? 'nominal' : '',
      verdictIn(marks, 'raster') === 'nearly' ? 'raster' : '',
    ].join('\u0002');
  const manner = mannerWith(timecodeKey(dark.decided.clip, timecode));
  const mannerPerReel = timecode?.kind === 'shifted' ? mannerWith('per-reel') : null;
  return {
    dark,
    candidate,
    strength,
    manner,
    mannerPerReel,
    key: names.pair(more.direction, names.of(manner)),
    witness: names.of(witnessOf(candidate)),
    ...more,
  };
}

/** The same for all that share one displacement of timecode. */
function timecodeKey({ clip }: PreparedClip, timecode: TimecodeDisplacement | null): string {
  switch (timecode?.kind) {
    case undefined:
      return '';
    case 'from-zero':
      return 'from-zero';
    case 'other-rate':
      return `rate ${formatRate(timecode.from)} ${formatRate(timecode.to)}`;
    case 'shifted':
      return `shift ${timecode.byFrames}@${formatRate(clip.rate)}`;
  }
}

/** How the timecode stands apart, where it does or the rate differs. */
const timecodeApart = (clip: PreparedClip, { file, marks }: Candidate): TimecodeDisplacement | null =>
  verdictIn(marks, 'timecode') === 'agrees' && verdictIn(marks, 'rate') !== 'differs'
    ? null
    : timecodeDisplacement(clip, file);

/** What a file that is not refused says for a clip; null where it says too little to be anything but looked at. */
function strengthOf(clip: PreparedClip, candidate: Candidate, timecode: TimecodeDisplacement | null): Strength | null {
  const { marks } = candidate;
  if ((['reel', 'content', 'raster', 'sound', 'kind'] as const).some((a) => verdictIn(marks, a) === 'differs'))
    return null;
  if (nameGradeIn(marks) === 'version') return timecode === null ? 'version' : null;
  const name = verdictIn(marks, 'name');
  const reel = verdictIn(marks, 'reel');
  const [startAgrees, lengthAgrees] = [
    verdictIn(marks, 'timecode') === 'agrees',
    verdictIn(marks, 'length') === 'agrees',
  ];
  if (clip.clip.available === null) return strengthOfList(clip, candidate, timecode);
  if (name === 'differs' && !(startAgrees && (lengthAgrees || reel === 'agrees'))) return null;
  if (timecode !== null) return timecode.kind === 'from-zero' && reel !== 'agrees' ? 'length' : 'timed';
  // From a preset that many takes begin with, and as long as none of them, it is any of them.
  if (startAgrees) return clip.startIsCommon && !lengthAgrees ? 'covering' : 'timed';
  // Cut down, or kept longer: of one reel and timecode it is the recording still.
  // Where several cards may bear the reel, and names repeat, that is coverage and no more.
  if (reel === 'agrees' && verdictIn(marks, 'timecode') === 'nearly' && verdictIn(marks, 'length') === 'nearly')
    return clip.nameIsCommon && isOfReel(clip) ? 'covering' : 'timed';
  if (lengthAgrees) return 'length';
  return name === 'agrees' && verdictIn(marks, 'length') === 'unknown' ? 'name' : null;
}

/** Of a list all that can be had is that the frames are covered, as they stand or read at another rate. */
function strengthOfList(
  clip: PreparedClip,
  candidate: Candidate,
  timecode: TimecodeDisplacement | null,
): Strength | null {
  const { file, marks } = candidate;
  const [name, reel, apart] = [verdictIn(marks, 'name'), verdictIn(marks, 'reel'), verdictIn(marks, 'timecode')];
  // A name at the end of the whole path that the edit knows is more than a name.
  const named = liesAsSaid(candidate) ? 'length' : 'name';
  if (apart !== 'agrees' && timecode === null) {
    if (name !== 'agrees') return null;
    if (apart === 'unknown') return 'name';
    // What counts from one or from zero covers what is used as all do that are long enough.
    const held = sourceRange(file.file.facts!, clip.clip.rate);
    return apart === 'nearly' && held !== null && coversUse(clip, held) ? named : null;
  }
  // A number in a name is identity: the take before it on the same reel is not what was meant.
  if (name === 'differs' && nameGradeIn(marks) === 'number') return null;
  if (name === 'differs' || name === 'unknown') return reel === 'agrees' || reel === 'nearly' ? 'covering' : null;
  return reel === 'agrees' || reel === 'nearly' ? 'timed' : timecode === null && name === 'agrees' ? named : 'name';
}

/** `perReel`: what it has in common with ways that differ in nothing but the constant between timecodes. */
export type Way = { readonly key: string; readonly perReel: string | null; readonly folder: DisplacedFolder | null };

/** The ways to say where a clip's folder went, from where the paths part down to the whole of both, most general first. */
export function waysApart({ dark, candidate, manner, mannerPerReel }: Option): Way[] {
  const { clip } = dark.decided;
  const [from, to] = [clip.folders, candidate.file.folders];
  const tail = commonTailOfKeys(clip.folderKeys, candidate.file.folderKeys);
  // An edit without paths says nothing of folders: what it names lies in this place, and that is all.
  const levels = from.length === 0 ? [to.length - 1] : Array.from({ length: tail + 1 }, (_, i) => tail - i);
  const way = (old: readonly string[], now: readonly string[], how: DisplacedFolder['how']) => {
    const [oldText, nowText] = [old.join('/'), now.join('/')];
    const keyWith = (own: string) =>
      [nameKey(oldText), nameKey(nowText), how === 'gathered' ? how : '', own].join('\u0004');
    return {
      key: keyWith(manner),
      perReel: mannerPerReel === null ? null : keyWith(mannerPerReel),
      folder: old.length === 0 && now.length === 0 ? null : { from: oldText, to: nowText, how },
    };
  };
  const trees = levels.map((level) => {
    const [old, now] = [from.slice(0, from.length - level), to.slice(0, to.length - level)];
    return way(old, now, old.length === 1 && now.length === 1 ? 'drive' : 'tree');
  });
  const above = Array.from({ length: Math.max(0, from.length - 1) }, (_, i) => from.slice(0, from.length - 1 - i));
  return [...trees, ...above.map((old) => way(old, to, 'gathered'))];
}

/** What makes two files one witness: the same bytes, or where none were read the same stretch under the same name. */
const witnessOf = ({ file }: Candidate): string =>
  file.bytes ?? [file.stemKey, file.file.facts?.start, file.file.facts?.length].join('\u0000');

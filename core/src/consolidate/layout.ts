import { folderFor as folderOf, type FolderTemplate } from '../folders/index.ts';
import type { SequenceFrames } from '../model/media.ts';
import { countingRate } from '../model/media.ts';
import { safeName, splitExtension } from '../paths/names.ts';
import { convertFrames, type FrameRange } from '../time/range.ts';
import { nominalRate } from '../time/rate.ts';
import { formatTimecode } from '../time/timecode.ts';
import type { Choices, PlanFile, PlanInput } from './choices.ts';
import { hasToken } from '../naming/pattern.ts';
import { nameBy, type NameParts, type Wanted } from './names.ts';
import type { Span } from './spans.ts';

/** A recording with the clips in scope that are tied to it. */
export type Gathered = { readonly file: PlanFile; readonly clips: readonly PlanInput[] };

/** A file of the set before names that would be alike are told apart. */
export type Laid = {
  readonly span: Span | null;
  readonly at: Wanted;
  /** Its own name; of a sequence that of its frames. */
  readonly plain: string;
  readonly sequence: SequenceFrames | null;
};

/** Where the n-th file of a recording goes by itself, and what it is called; `extension` where that is not its source's. */
export function laidOut(
  one: Gathered,
  span: Span | null,
  n: number,
  choices: Choices,
  { extension, template }: { readonly extension: string | null; readonly template: FolderTemplate },
): Laid {
  const { file, clips } = one;
  const folder = folderFor(one, choices, template);
  const from = file.folder.split('/').at(-1) || file.placeName;
  const { stem, extension: own } = splitExtension(file.name);
  const { pattern } = choices;
  const spans = span && !hasToken(pattern, 'start') && !hasToken(pattern, 'n') ? `${pattern}_{start}` : pattern;
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
    const plain = nameBy(spans, parts) + ((extension ?? own) ? `.${extension ?? own}` : '');
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

function folderFor({ file, clips }: Gathered, { foldering, levels }: Choices, template: FolderTemplate): string {
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
    case 'by-template':
      return folderOf(template, file.sequence ? 'sequence' : (file.facts?.kind ?? 'other'));
    case 'by-timeline':
      return safe([clips.flatMap((c) => c.usedBy).sort()[0] ?? 'no timeline']);
    case 'by-bin':
      return safe(clips.map((c) => c.bin).find((b) => b.length > 0) ?? ['no bin']);
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

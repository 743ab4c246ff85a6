import { rememberedName, spellingKey } from '../../paths/remembered.ts';
import { uniteRanges, type FrameRange } from '../../time/range.ts';
import { groupings, type Choices, type Grouping } from '../format.ts';
import type { EdlEvent } from './events.ts';

/** What an event says of its source, before it is known which other events mean the same. */
export type EventSource = {
  readonly reel: string | null;
  readonly name: string;
  readonly remembered: string | null;
  /** It says no name of its own, only a reel: a roll holds many recordings, so its stretch tells which. */
  readonly isNameless: boolean;
  /** Frames that it reads of its source, at the list's rate. */
  readonly stretch: FrameRange | null;
};

/** AX and AUX say that there is no reel: an auxiliary source, mostly a file. */
export function sourceOf({ raw, clipName, sourceFile }: EdlEvent, stretch: FrameRange | null): EventSource {
  const reel = /^(AX|AUX)$/i.test(raw.reel) ? null : raw.reel;
  const remembered = sourceFile?.value ?? null;
  const name = clipName || (remembered ? rememberedName(remembered) : raw.reel);
  return { reel, remembered, name, isNameless: !clipName && remembered === null, stretch };
}

export const needsMedia = ({ raw }: EdlEvent): boolean => !/^(BL|BLK|BLACK)$/i.test(raw.reel);

/**
 * The identity under which events are one clip. An event without a source file inherits none from its neighbour: by reel
 * and name, those of each file and those of none are clips of their own. Without a name, and by reel alone, stretches of
 * a reel that meet are one recording, and stretches apart are not known to be; by stretch, neither are those of one name.
 */
export function identitiesBy(
  grouping: Grouping,
  sources: readonly EventSource[],
  { rolls, fileKeys }: Known = knownOf(sources),
): (source: EventSource) => string {
  const byReelAndName = ({ reel, name }: EventSource) => `${reel ?? ''}\u0000${name}`;
  const byStretch = (source: EventSource) =>
    `${byReelAndName({ ...source, name: '' })}\u0000${stretchStart(source, rolls.get(source.reel ?? ''))}`;
  const byFile = (source: EventSource) => (source.remembered === null ? '' : fileKeys.get(source.remembered)!);
  const byAll = (source: EventSource) =>
    source.isNameless ? byStretch(source) : `${byReelAndName(source)}\u0000${byFile(source)}`;
  switch (grouping) {
    case 'stretch': {
      const stretches = stretchesBy(byAll, sources);
      return (source) => `${byAll(source)}\u0000${stretchStart(source, stretches.get(byAll(source)))}`;
    }
    case 'reel':
      return (source) => (source.reel === null && !source.isNameless ? byReelAndName(source) : byStretch(source));
    case 'clip-name':
      // One name on two reels is two recordings, whatever way of gathering was chosen.
      return (source) => (source.isNameless ? byStretch(source) : byReelAndName(source));
    case 'source-file':
      return (source) => {
        if (source.remembered !== null) return `\u0000\u0000${byFile(source)}`;
        return source.isNameless ? byStretch(source) : byReelAndName(source);
      };
    case 'reel-and-name':
      return byAll;
  }
}

/** What is worked out of all sources once, however many ways of gathering are asked about. */
type Known = {
  readonly rolls: ReadonlyMap<string, readonly FrameRange[]>;
  readonly fileKeys: ReadonlyMap<string, string>;
};

function knownOf(sources: readonly EventSource[]): Known {
  const fileKeys = new Map<string, string>();
  for (const { remembered } of sources)
    if (remembered !== null && !fileKeys.has(remembered)) fileKeys.set(remembered, spellingKey(remembered));
  return { rolls: stretchesBy(({ reel }) => reel ?? '', sources), fileKeys };
}

/** What is read of each roll, or whatever the key names, in order, as stretches that do not meet. */
function stretchesBy(
  keyOf: (source: EventSource) => string,
  sources: readonly EventSource[],
): Map<string, FrameRange[]> {
  const byKey = new Map<string, FrameRange[]>();
  for (const source of sources) {
    if (!source.stretch) continue;
    const key = keyOf(source);
    const list = byKey.get(key);
    if (list) list.push(source.stretch);
    else byKey.set(key, [source.stretch]);
  }
  return new Map([...byKey].map(([key, ranges]) => [key, uniteRanges(ranges)]));
}

function stretchStart({ stretch }: EventSource, ranges: readonly FrameRange[] = []): string {
  if (!stretch) return '';
  // The last that begins at or before it; a roll may have as many stretches as there are events.
  let [from, to] = [0, ranges.length];
  while (from < to) {
    const middle = (from + to) >> 1;
    if (ranges[middle]!.start <= stretch.start) from = middle + 1;
    else to = middle;
  }
  const within = ranges[from - 1];
  return String(within && stretch.start < within.end ? within.start : stretch.start);
}

/** How many clips each way of gathering would make. */
export function countClips(sources: readonly EventSource[]): Choices['clipsBy'] {
  const known = knownOf(sources);
  return groupings.map((grouping) => ({
    grouping,
    clips: new Set(sources.map(identitiesBy(grouping, sources, known))).size,
  }));
}

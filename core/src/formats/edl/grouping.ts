import { rememberedName } from '../../paths/remembered.ts';
import { groupings, type Choices, type Grouping } from '../format.ts';
import type { EdlEvent } from './events.ts';

/** What an event says of its source, before it is known which other events mean the same. */
export type EventSource = {
  readonly reel: string | null;
  readonly name: string;
  readonly remembered: string | null;
};

/** AX and AUX say that there is no reel: an auxiliary source, mostly a file. */
export function sourceOf({ raw, clipName, sourceFile }: EdlEvent): EventSource {
  const reel = /^(AX|AUX)$/i.test(raw.reel) ? null : raw.reel;
  const remembered = sourceFile?.value ?? null;
  return { reel, remembered, name: clipName || (remembered ? rememberedName(remembered) : raw.reel) };
}

export const needsMedia = ({ raw }: EdlEvent): boolean => !/^(BL|BLK|BLACK)$/i.test(raw.reel);

/**
 * The identity under which events are one clip. By reel and name, a group in which several source files are named is
 * parted by them, for one name on one reel then stands for several files; a missing source file comment parts nothing.
 */
export function identitiesBy(grouping: Grouping, sources: readonly EventSource[]): (source: EventSource) => string {
  const byReelAndName = ({ reel, name }: EventSource) => `${reel ?? ''}\u0000${name}`;
  switch (grouping) {
    case 'reel':
      return (source) => (source.reel === null ? byReelAndName(source) : `\u0000${source.reel}`);
    case 'clip-name':
      return ({ name }) => name;
    case 'source-file':
      return (source) => (source.remembered === null ? byReelAndName(source) : `\u0000\u0000${source.remembered}`);
    case 'reel-and-name': {
      const files = new Map<string, Set<string>>();
      for (const source of sources) {
        if (source.remembered === null) continue;
        const key = byReelAndName(source);
        files.set(key, (files.get(key) ?? new Set()).add(source.remembered));
      }
      return (source) => {
        const key = byReelAndName(source);
        return (files.get(key)?.size ?? 0) > 1 ? `${key}\u0000${source.remembered ?? ''}` : key;
      };
    }
  }
}

/** How many clips each way of gathering would make. */
export const countClips = (sources: readonly EventSource[]): Choices['clipsBy'] =>
  groupings.map((grouping) => ({ grouping, clips: new Set(sources.map(identitiesBy(grouping, sources))).size }));

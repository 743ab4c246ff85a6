import { foldersInPlace, type PlaceNames } from '../model/place.ts';
import type { PlaceId } from '../model/ids.ts';
import { nameKey } from '../paths/names.ts';
import { displacementOf } from '../paths/displacement.ts';
import type { AskReason, Decided } from './decide.ts';
import type { PreparedClip, PreparedFile } from './prepare.ts';
import type { Attribute } from './rules.ts';
import { verdictIn, type Marks } from './marks.ts';

/** Why a clip is dark, in one line. Parts of paths, so that the screen can mark what changed. */
export type Why =
  | { readonly code: 'place-away'; readonly placeId: PlaceId; readonly placeName: string }
  | { readonly code: 'moved'; readonly from: string; readonly to: string }
  | { readonly code: 'renamed'; readonly from: string; readonly to: string }
  | { readonly code: 'moved-and-renamed'; readonly from: string; readonly to: string; readonly name: string }
  | { readonly code: 'found'; readonly to: string; readonly name: string }
  | { readonly code: 'several'; readonly count: number }
  | { readonly code: 'contested'; readonly name: string }
  | { readonly code: 'still-reading' }
  | {
      readonly code: 'other-content';
      readonly name: string;
      readonly folder: string;
      readonly differs: readonly Attribute[];
    }
  | { readonly code: 'volume-unknown'; readonly volume: string }
  | { readonly code: 'gone' };

/** Explains one decided clip. A place that is away comes first: what it holds may be the very file. */
export function explain(
  { clip, candidates, decision }: Decided<PreparedClip, PreparedFile>,
  places: readonly PlaceNames[],
): Why {
  const keys = clip.pathKeys;
  const home =
    keys && keys.form !== 'relative' ? places.find((place) => foldersInPlace(keys, place))?.place : undefined;
  switch (decision.kind) {
    case 'certain':
      return displaced(clip, candidates.find((c) => c.file.id === decision.mediaFileId)!.file);
    case 'ask':
      if (home && !home.there) return { code: 'place-away', placeId: home.id, placeName: home.name };
      return asked(decision.reason, decision.mediaFileIds.length, () => {
        const best = candidates.find((c) => c.file.id === decision.mediaFileIds[0])!;
        return { file: best.file, why: displaced(clip, best.file) };
      });
    case 'refused': {
      if (home && !home.there) return { code: 'place-away', placeId: home.id, placeName: home.name };
      const { file } = candidates.find((c) => c.file.id === decision.mediaFileId)!;
      return { code: 'other-content', name: file.file.name, folder: file.folders.join('/'), differs: decision.differs };
    }
    case 'nothing':
      if (home && !home.there) return { code: 'place-away', placeId: home.id, placeName: home.name };
      if (!home && clip.path?.volume) return { code: 'volume-unknown', volume: clip.path.volume };
      return { code: 'gone' };
  }
}

function asked(reason: AskReason, count: number, best: () => { file: PreparedFile; why: Why }): Why {
  switch (reason) {
    case 'several':
      return { code: 'several', count };
    case 'contested':
      return { code: 'contested', name: best().file.file.name };
    case 'still-reading':
      return { code: 'still-reading' };
    case 'not-enough-known':
      return best().why;
  }
}

/** How the found file's path differs from the remembered one. */
function displaced(clip: PreparedClip, file: PreparedFile): Why {
  const sameName = nameKey(clip.name) === file.nameKey;
  const to = file.folders.join('/');
  if (clip.folders.length === 0) return { code: 'found', to, name: file.file.name };
  const parts = displacementOf(clip.folders, file.folders);
  const stays = parts.from.length === 0 && parts.to.length === 0;
  if (stays) return { code: 'renamed', from: clip.name, to: file.file.name };
  const [from, now] = [parts.from.join('/'), parts.to.join('/')];
  return sameName
    ? { code: 'moved', from, to: now }
    : { code: 'moved-and-renamed', from, to: now, name: file.file.name };
}

/** What speaks against a tie that stands: the file is there and is not the one remembered. */
export const contradicts = (marks: Marks): Attribute[] =>
  (['timecode', 'length', 'rate', 'content'] as const).filter((attribute) => verdictIn(marks, attribute) === 'differs');

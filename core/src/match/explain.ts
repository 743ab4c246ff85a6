import type { Place } from '../model/place.ts';
import type { PlaceDirectory } from '../paths/places.ts';
import type { MediaFileId, PlaceId } from '../model/ids.ts';
import { nameKey } from '../paths/names.ts';
import { displacementOf } from '../paths/displacement.ts';
import type { Decided, Decision } from './decision.ts';
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
  /** One recording in several pictures that nothing tells apart. */
  | { readonly code: 'versions'; readonly count: number }
  /** More files of its name than could be held against one another. */
  | { readonly code: 'too-many'; readonly name: string }
  /** What lies where the edit says cannot be read; see the file's own reason. */
  | { readonly code: 'unreadable'; readonly name: string; readonly folder: string }
  | { readonly code: 'still-reading' }
  | {
      readonly code: 'other-content';
      readonly name: string;
      readonly folder: string;
      readonly differs: readonly Attribute[];
    }
  | { readonly code: 'volume-unknown'; readonly volume: string }
  /** A person untied it on purpose. */
  | { readonly code: 'taken-offline' }
  /** Nothing fits. `namesakes`: files of its name that are other recordings. */
  | { readonly code: 'gone'; readonly namesakes?: number | undefined };

/** Explains one decided clip. A place that is away comes first: what it holds may be the very file. */
export function explain(
  { clip, candidates, decision }: Decided<PreparedClip, PreparedFile>,
  places: PlaceDirectory,
): Why {
  const home = clip.pathKeys ? places.homeOf(clip.pathKeys) : undefined;
  switch (decision.kind) {
    case 'certain':
      return displaced(clip, candidates.find((c) => c.file.id === decision.mediaFileId)!.file);
    case 'ask':
      if (home && !home.there) return { code: 'place-away', placeId: home.id, placeName: home.name };
      return asked(decision, (id) => {
        const { file } = candidates.find((c) => c.file.id === id)!;
        return { file, why: displaced(clip, file), place: places.byId(file.placeId) };
      });
    case 'unusable': {
      const { file } = candidates.find((c) => c.file.id === decision.mediaFileId)!;
      return { code: 'unreadable', name: file.file.name, folder: file.folders.join('/') };
    }
    case 'refused': {
      if (home && !home.there) return { code: 'place-away', placeId: home.id, placeName: home.name };
      const { file } = candidates.find((c) => c.file.id === decision.mediaFileId)!;
      return { code: 'other-content', name: file.file.name, folder: file.folders.join('/'), differs: decision.differs };
    }
    case 'nothing': {
      if (home && !home.there) return { code: 'place-away', placeId: home.id, placeName: home.name };
      if (!home && clip.path?.volume) return { code: 'volume-unknown', volume: clip.path.volume };
      return clip.namesakes > 0 ? { code: 'gone', namesakes: clip.namesakes } : { code: 'gone' };
    }
  }
}

type Best = { readonly file: PreparedFile; readonly why: Why; readonly place: Place | undefined };

function asked({ reason, mediaFileIds }: Extract<Decision, { kind: 'ask' }>, best: (id: MediaFileId) => Best): Why {
  const first = mediaFileIds[0]!;
  switch (reason) {
    case 'several':
      return { code: 'several', count: mediaFileIds.length };
    case 'versions':
      return { code: 'versions', count: mediaFileIds.length };
    case 'contested':
      return { code: 'contested', name: best(first).file.file.name };
    case 'too-many':
      return { code: 'too-many', name: best(first).file.file.name };
    case 'still-reading':
      return { code: 'still-reading' };
    case 'place-away': {
      const { place, why } = best(first);
      return place ? { code: 'place-away', placeId: place.id, placeName: place.name } : why;
    }
    case 'not-enough-known':
      return best(first).why;
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
  (['reel', 'timecode', 'length', 'rate', 'content'] as const).filter(
    (attribute) => verdictIn(marks, attribute) === 'differs',
  );

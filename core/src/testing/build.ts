import type { MatchClip } from '../match/prepare.ts';
import { normalSpeed, type EditEvent } from '../model/edit.ts';
import type { ClipId, MediaFileId, PlaceId } from '../model/ids.ts';
import type { Facts, MediaFile } from '../model/media.ts';
import type { Place } from '../model/place.ts';
import { rate } from '../time/rate.ts';

/** Builders for tests and benchmarks: a plain thing with sensible parts, of which any can be given. */
export const placeId = (text: string): PlaceId => text as PlaceId;
export const fileId = (text: string): MediaFileId => text as MediaFileId;
export const clipId = (text: string): ClipId => text as ClipId;

export const buildPlace = (name: string, more: Partial<Place> = {}): Place => ({
  id: placeId(name),
  name,
  path: `/bay/${name}`,
  knownAs: [],
  there: true,
  ...more,
});

export const buildFacts = (more: Partial<Facts> = {}): Facts => ({
  kind: 'picture',
  container: 'mov',
  codec: 'h264',
  rate: rate(25),
  counting: 'non-drop',
  timecodeSource: 'timecode',
  start: 90_000,
  length: 200,
  sampleRate: 48_000,
  channels: 2,
  raster: { width: 1280, height: 720 },
  bitDepth: 8,
  chroma: '4:2:0',
  reel: 'A001',
  readBy: 'header',
  doubts: [],
  ...more,
});

/** A media file at "PLACE/folders/name". */
export function buildFile(path: string, facts: Partial<Facts> | null = {}, more: Partial<MediaFile> = {}): MediaFile {
  const parts = path.split('/');
  return {
    id: fileId(path),
    placeId: placeId(parts[0]!),
    folder: parts.slice(1, -1).join('/'),
    name: parts.at(-1)!,
    sizeInBytes: 1000,
    modifiedMs: 0,
    fingerprint: null,
    fullHash: null,
    facts: facts && buildFacts(facts),
    unreadable: null,
    sequence: null,
    ...more,
  };
}

/** An event on the first picture track, cut at normal speed. */
export const buildEvent = (more: Partial<EditEvent> = {}): EditEvent => ({
  number: 1,
  name: '',
  track: 'V1',
  trackKind: 'picture',
  clipKey: null,
  nestedKey: null,
  source: null,
  record: { start: 0, end: 0 },
  head: 0,
  tail: 0,
  speed: normalSpeed,
  transition: null,
  rounded: false,
  address: '',
  ...more,
});

/** A clip that remembers this path, and media as `buildFacts` makes it. */
export function buildClip(remembered: string | null, more: Partial<MatchClip> = {}): MatchClip {
  const name = remembered?.split(/[\\/]/).at(-1) ?? 'clip';
  return {
    id: clipId(remembered ?? name),
    key: remembered ?? name,
    name,
    reel: 'A001',
    remembered,
    kind: 'picture',
    rate: rate(25),
    counting: 'non-drop',
    available: { start: 90_000, end: 90_200 },
    raster: { width: 1280, height: 720 },
    used: [{ start: 90_020, end: 90_100 }],
    binKey: null,
    addresses: ['/x'],
    metadata: {},
    ...more,
  };
}

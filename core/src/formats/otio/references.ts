import type { Raster } from '../../model/edit.ts';
import { decodePercent, rememberedName } from '../../paths/remembered.ts';
import { sequenceName } from '../../paths/sequence.ts';
import { nominalRate } from '../../time/rate.ts';
import { kindOfName } from '../clips.ts';
import { isObject, memberOf, pointerStep, textOf, type JsonObject } from './json.ts';
import { schemaOf } from './schemas.ts';
import { readTimeRange, type TimeSpan } from './time.ts';

/** A media reference of a clip with its place in the document, or none when the clip needs no media. */
export type Reference = {
  readonly pointer: string;
  readonly schema: string;
  readonly name: string | null;
  readonly remembered: string | null;
  readonly kind: ReturnType<typeof kindOfName>;
  readonly available: TimeSpan | null;
  readonly reel: string | null;
  readonly raster: Raster | null;
};

/**
 * The reference a clip goes by: Clip.1 has one, Clip.2 several by key. A key that was chosen for the document counts
 * where the clip has it, else the clip's own active one.
 */
export function activeReference(
  clip: JsonObject,
  pointer: string,
  chosenKey?: string,
): { value: JsonObject; pointer: string } | null {
  if (isObject(clip.media_references)) {
    const references = clip.media_references;
    const activeKey = textOf(clip.active_media_reference_key) ?? 'DEFAULT_MEDIA';
    const key = chosenKey !== undefined && isObject(memberOf(references, chosenKey)) ? chosenKey : activeKey;
    const value = memberOf(references, key);
    return isObject(value)
      ? { value, pointer: `${pointer}${pointerStep('media_references')}${pointerStep(key)}` }
      : null;
  }
  return isObject(clip.media_reference)
    ? { value: clip.media_reference, pointer: `${pointer}${pointerStep('media_reference')}` }
    : null;
}

/** Takes a media reference apart. Reel and raster are no fields of the schema: they are looked for in the metadata. */
export function readReference(value: JsonObject, pointer: string, clip: JsonObject, folder?: string): Reference {
  const schema = schemaOf(value);
  const remembered = resolved(rememberedBy(value, schema), folder);
  const shownName = remembered ? rememberedName(remembered) : null;
  return {
    pointer,
    schema,
    name: textOf(value.name) ?? shownName,
    remembered,
    kind: schema.startsWith('ImageSequenceReference.') ? 'sequence' : shownName ? kindOfName(shownName) : null,
    available: readTimeRange(value.available_range),
    reel: findReel(value.metadata) ?? findReel(clip.metadata),
    raster: findRaster(value.metadata) ?? findRaster(clip.metadata),
  };
}

/**
 * What a clip without any reference says of its media: nothing but what stands in its own metadata. The pointer is where
 * a reference would stand, so that an export can put one there.
 */
export function nothingReferenced(clip: JsonObject, pointer: string): Reference {
  const hasSeveral = 'media_references' in clip || schemaOf(clip) === 'Clip.2';
  const key = textOf(clip.active_media_reference_key) ?? 'DEFAULT_MEDIA';
  return {
    pointer: hasSeveral
      ? `${pointer}${pointerStep('media_references')}${pointerStep(key)}`
      : `${pointer}${pointerStep('media_reference')}`,
    schema: '',
    name: null,
    remembered: null,
    kind: null,
    available: null,
    reel: findReel(clip.metadata),
    raster: findRaster(clip.metadata),
  };
}

/** A relative reference seen from the document's folder, where that is known; "." and ".." are walked (RFC 3986, 5.2). */
function resolved(reference: string | null, folder: string | undefined): string | null {
  if (reference === null || folder === undefined || !isRelative(reference)) return reference;
  const parts = folder.split('/').filter((part) => part !== '');
  for (const part of reference.split('/')) {
    if (part === '..') parts.pop();
    else if (part !== '.' && part !== '') parts.push(part);
  }
  return `/${parts.join('/')}`;
}

/** A relative reference is a URL reference and so percent-encoded; rooted paths without "file:" are plain paths. */
const isRelative = (reference: string): boolean => !/^(?:[a-z]+:|[\\/])/i.test(reference);

function rememberedBy(value: JsonObject, schema: string): string | null {
  if (!schema.startsWith('ImageSequenceReference.')) {
    const url = textOf(value.target_url);
    return url && isRelative(url) ? decodePercent(url) : url;
  }
  const stated = textOf(value.target_url_base) ?? '';
  const base = isRelative(stated) ? decodePercent(stated) : stated;
  const padding =
    typeof value.frame_zero_padding === 'number' ? Math.min(12, Math.max(0, value.frame_zero_padding)) : 0;
  // A number that outgrows the padding is written with more digits, and so are all that come after the first.
  const first = Number.isSafeInteger(value.start_frame) ? String(Math.abs(value.start_frame as number)).length : 1;
  const prefix = decodePercent(textOf(value.name_prefix) ?? '');
  const pattern = sequenceName({
    prefix,
    suffix: decodePercent(textOf(value.name_suffix) ?? ''),
    padding: Math.max(padding, Math.min(first, 9)),
  });
  // "#" begins a fragment in a URL, so the pattern goes in percent-encoded and comes back when the path is parsed.
  const shown = /^file:/i.test(base) ? pattern.replaceAll('%', '%25').replaceAll('#', '%23') : pattern;
  return base === '' || base.endsWith('/') ? base + shown : `${base}/${shown}`;
}

/** Reels stand in metadata under many roofs; the key is nearly always "reel", "reel_name" or "tape". */
function findReel(metadata: unknown, depth = 0): string | null {
  if (!isObject(metadata) || depth > 3) return null;
  for (const key of ['reel', 'reel_name', 'tape', 'tape_name']) {
    const found = textOf(memberOf(metadata, key));
    if (found) return found;
  }
  for (const child of Object.values(metadata)) {
    const found = findReel(child, depth + 1);
    if (found) return found;
  }
  return null;
}

function findRaster(metadata: unknown, depth = 0): Raster | null {
  if (!isObject(metadata) || depth > 3) return null;
  const { width, height } = metadata;
  if (Number.isInteger(width) && Number.isInteger(height) && Number(width) > 0 && Number(height) > 0) {
    return { width: Number(width), height: Number(height) };
  }
  for (const child of Object.values(metadata)) {
    const found = findRaster(child, depth + 1);
    if (found) return found;
  }
  return null;
}

/** OTIO does not say how frames are numbered; at 29.97 and 59.94 drop-frame is what its own timecode text assumes. */
export const assumedCounting = (rate: { num: number; den: number }) =>
  rate.den === 1001 && nominalRate(rate) % 30 === 0 && nominalRate(rate) <= 60
    ? ('drop' as const)
    : ('non-drop' as const);

/** What Legame itself wrote of a clip: scene, take, notes. */
export function ownNotes(clip: JsonObject): Record<string, string> {
  const own = isObject(clip.metadata) ? memberOf(clip.metadata, 'legame') : null;
  const notes = isObject(own) ? memberOf(own, 'clip') : null;
  if (!isObject(notes)) return {};
  const isText = (entry: [string, unknown]): entry is [string, string] => typeof entry[1] === 'string';
  return Object.fromEntries(Object.entries(notes).filter(isText));
}

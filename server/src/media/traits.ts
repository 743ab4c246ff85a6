import { z } from 'zod';
import { lostTraits, type LostTrait } from '@legame/core/contract';

/** What no count of frames or samples shows of a film, but who receives it wants to have: as the decoder's library tells it. */
export const traitsSchema = z.object({
  /** All of the range of values is used, and not only that of television, as where nothing is stated. */
  isFullRange: z.boolean(),
  /** How the library lays out decoded pictures in memory. */
  pixels: z.string().nullable().default(null),
  /** Matrix, transfer and primaries; null each where it is not stated. */
  colour: z.array(z.string().nullable()),
  aspect: z.string().nullable(),
  fields: z.string().nullable(),
  reel: z.string().nullable(),
  tracks: z.array(
    z.object({
      channels: z.number(),
      layout: z.string().nullable(),
      name: z.string().nullable(),
      language: z.string().nullable(),
    }),
  ),
});
export type Traits = z.infer<typeof traitsSchema>;

/** One stream as it is probed. */
export const probedSchema = z.object({
  codec_type: z.string().default(''),
  pix_fmt: z.string().optional(),
  color_range: z.string().optional(),
  color_space: z.string().optional(),
  color_transfer: z.string().optional(),
  color_primaries: z.string().optional(),
  sample_aspect_ratio: z.string().optional(),
  field_order: z.string().optional(),
  channels: z.number().optional(),
  channel_layout: z.string().optional(),
  tags: z.record(z.string(), z.string()).default({}),
});
type Probed = z.infer<typeof probedSchema>;

export function traitsOf(streams: readonly Probed[], reel: string | null): Traits {
  const picture = streams.find((s) => s.codec_type === 'video');
  return {
    isFullRange: picture?.color_range === 'pc',
    pixels: stated(picture?.pix_fmt),
    colour: [picture?.color_space, picture?.color_transfer, picture?.color_primaries].map(stated),
    aspect: picture?.sample_aspect_ratio === '1:1' ? null : stated(picture?.sample_aspect_ratio),
    fields: picture?.field_order === 'progressive' ? null : stated(picture?.field_order),
    reel,
    tracks: streams
      .filter((s) => s.codec_type === 'audio')
      .map((s) => ({
        channels: s.channels ?? 0,
        // Of one and of two channels everybody knows how they lie.
        layout: (s.channels ?? 0) > 2 ? stated(s.channel_layout) : null,
        name: nameIn(s.tags),
        language: languageIn(s.tags),
      })),
  };
}

const stated = (value: string | undefined): string | null =>
  value === undefined || value === 'unknown' || value === 'N/A' || value === '0:1' ? null : value;

const tag = (tags: Probed['tags'], name: string): string | null =>
  Object.entries(tags).find(([key]) => key.toLowerCase() === name)?.[1] ?? null;

/** Programs write a handler's name of their own where nobody named a track. */
function nameIn(tags: Probed['tags']): string | null {
  const name = tag(tags, 'title') ?? tag(tags, 'handler_name');
  return name === null || /handler|^core media|^\s*$/i.test(name) ? null : name;
}

function languageIn(tags: Probed['tags']): string | null {
  const language = tag(tags, 'language');
  return language === 'und' ? null : language;
}

/** What a film states and a part of it does not state alike. What it does not state cannot be lost. */
export function lostOf(source: Traits, part: Traits): LostTrait[] {
  const differs = (a: string | null, b: string | null | undefined) => a !== null && a !== (b ?? null);
  const tracks = (of: 'layout' | 'name' | 'language') =>
    source.tracks.some((t, i) => differs(t[of], part.tracks[i]?.[of]));
  const isLost: Readonly<Record<LostTrait, boolean>> = {
    reel: differs(source.reel, part.reel),
    colour: source.isFullRange !== part.isFullRange || source.colour.some((value, i) => differs(value, part.colour[i])),
    aspect: differs(source.aspect, part.aspect),
    fields: differs(source.fields, part.fields),
    channels: tracks('layout') || source.tracks.some((t, i) => t.channels !== part.tracks[i]?.channels),
    'track-names': tracks('name'),
    languages: tracks('language'),
  };
  return lostTraits.filter((trait) => isLost[trait]);
}

import { decodePercent } from '../core/src/paths/remembered.ts';
import type { Rate } from '../core/src/time/rate.ts';
import { listRate, span } from './otio.ts';
import { demoMedia, goneMedia, type DemoMedia } from './spec.ts';

/** A recording as the edit remembers it: its timing is that of its file, or what the edit believes instead. */
type Source = {
  readonly media: DemoMedia;
  readonly name: string;
  readonly rate: Rate;
  readonly start: number;
  readonly frames: number;
};

const sources = new Map<string, Source>();
for (const media of [...demoMedia, ...goneMedia]) {
  if (media.remembered === null) continue;
  const name = media.kind === 'sequence' ? 'title_open' : decodePercent(media.remembered.split('/').at(-1)!);
  sources.set(name, { media, name, ...timing(media) });
}

function timing(media: DemoMedia): { rate: Rate; start: number; frames: number } {
  switch (media.kind) {
    case 'picture':
      return {
        rate: media.rate,
        start: media.expected?.start ?? media.start ?? 0,
        frames: media.expected?.frames ?? media.frames,
      };
    case 'sound':
      return { rate: listRate, start: (media.startSeconds ?? 0) * 25, frames: media.seconds * 25 };
    case 'still':
      return { rate: listRate, start: 0, frames: 250 };
    case 'sequence':
      return { rate: listRate, start: media.first, frames: media.frames };
  }
}

export function source(name: string): Source {
  const found = sources.get(name);
  if (!found) throw new Error(`The demo's edit names ${name}, which its media do not have.`);
  return found;
}

function reference({ media, rate: r, start, frames }: Source) {
  const available_range = span(start, frames, r);
  if (media.kind === 'sequence') {
    return {
      OTIO_SCHEMA: 'ImageSequenceReference.1',
      metadata: {},
      name: 'title_open',
      available_range,
      target_url_base: media.remembered,
      name_prefix: 'title_',
      name_suffix: '.png',
      start_frame: media.first,
      frame_step: 1,
      rate: 25,
      frame_zero_padding: media.padding,
      missing_frame_policy: 'error',
    };
  }
  const reel =
    media.kind === 'picture' ? (media.expected?.reel ?? media.reel) : media.kind === 'sound' ? media.reel : null;
  const raster = media.kind === 'picture' || media.kind === 'still' ? media.raster : null;
  const metadata = { camera_report: { ...(reel ? { reel } : {}), ...(raster ?? {}) } };
  return {
    OTIO_SCHEMA: 'ExternalReference.1',
    metadata,
    name: null,
    available_range: media.kind === 'still' ? null : available_range,
    target_url: media.remembered,
  };
}

export const clip = (s: Source, range: unknown = null) => ({
  OTIO_SCHEMA: 'Clip.2',
  metadata: {},
  name: s.name,
  source_range: range,
  effects: [],
  markers: [],
  enabled: true,
  media_references: { DEFAULT_MEDIA: reference(s) },
  active_media_reference_key: 'DEFAULT_MEDIA',
});
/** One use: a piece of a source, `from` frames in, `frames` long, both at the source's rate. */
export const use = (name: string, from: number, frames: number) => {
  const s = source(name);
  return clip(s, span(s.start + from, frames, s.rate));
};
export const picturesNamed = (stem: string) =>
  [...sources.values()].filter((s) => s.name.startsWith(stem)).map((s) => s.name);

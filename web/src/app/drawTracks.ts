import { isDark, type StatusName } from '@legame/core/state';
import type { ClipRow } from '@legame/core/contract';
import type { ShownTimeline } from '../api/timelines.ts';

/** How an event is drawn: lit, dark for a reason, something that is no clip. */
export type Tone = StatusName | 'lit' | 'other';
export const isDarkTone = (tone: Tone): boolean => tone !== 'lit' && tone !== 'other';

/** Colours of the theme, by the names under which the style sheet has them. */
const variables: Readonly<Record<Tone, string>> = {
  linked: '--linked-block',
  missing: '--status-missing',
  changed: '--status-changed',
  unreadable: '--status-unreadable',
  short: '--status-short',
  parked: '--status-aside',
  waived: '--linked-block',
  lit: '--linked-block',
  other: '--color-base-300',
};

/** What is dark has the colour of its status; linked, waived and nests that show nothing dark are lit. */
export function toneOf(
  event: ShownTimeline['events'][number],
  place: number,
  timeline: Pick<ShownTimeline, 'darkNests'>,
  rows: ReadonlyMap<string, ClipRow>,
): Tone {
  const row = event.clipId ? rows.get(event.clipId) : undefined;
  if (row) return isDark(row.status.status) ? row.status.status : 'lit';
  if (event.nestedKey !== null) return timeline.darkNests.has(place) ? 'missing' : 'lit';
  return 'other';
}

export type Drawing = {
  readonly timeline: Pick<ShownTimeline, 'events' | 'start' | 'length'>;
  readonly tracks: readonly string[];
  readonly tones: readonly Tone[];
  /** Height of a track. */
  readonly band: number;
  readonly width: number;
  readonly height: number;
  readonly inHand: ReadonlySet<string>;
};

/** One path a tone: lit ones are filled, dark ones hatched in an outline, those in hand outlined once more. */
export function drawTracks(
  context: CanvasRenderingContext2D,
  { timeline, tracks, tones, band, width, height, inHand }: Drawing,
): void {
  const ratio = window.devicePixelRatio || 1;
  const { canvas } = context;
  canvas.width = Math.round(width * ratio);
  canvas.height = Math.round(height * ratio);
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.clearRect(0, 0, width, height);
  const style = getComputedStyle(canvas);
  const colourOf = (variable: string) => style.getPropertyValue(variable).trim();
  const paths = new Map<Tone, Path2D>();
  const held = new Path2D();
  const top = new Map(tracks.map((track, i) => [track, i * (band + 1)]));
  const across = (frame: number) => ((frame - timeline.start) / timeline.length) * width;
  timeline.events.forEach((event, i) => {
    const tone = tones[i]!;
    const path = paths.get(tone) ?? new Path2D();
    paths.set(tone, path);
    const [left, right] = [across(event.record.start), across(event.record.end)];
    const box = [left, top.get(event.track)!, Math.max(2, right - left - 1), band] as const;
    path.rect(...box);
    if (event.clipId && inHand.has(event.clipId)) held.rect(...box);
  });
  for (const [tone, path] of paths) {
    const colour = colourOf(variables[tone]);
    const isFilled = !isDarkTone(tone);
    context.fillStyle = isFilled ? colour : hatch(context, colour, ratio);
    context.fill(path);
    if (isFilled) continue;
    context.strokeStyle = colour;
    context.lineWidth = 1;
    context.stroke(path);
  }
  context.strokeStyle = colourOf('--color-base-content');
  context.lineWidth = 2;
  context.stroke(held);
}

/** The slant of everything dark, whatever its colour. */
function hatch(context: CanvasRenderingContext2D, colour: string, ratio: number): CanvasPattern | string {
  const tile = document.createElement('canvas');
  tile.width = tile.height = Math.round(4 * ratio);
  const pen = tile.getContext('2d');
  if (!pen) return colour;
  const side = tile.width;
  pen.strokeStyle = colour;
  pen.lineWidth = 1.2 * ratio;
  pen.beginPath();
  for (const by of [-side, 0, side]) {
    pen.moveTo(by, side);
    pen.lineTo(by + side, 0);
  }
  pen.stroke();
  return context.createPattern(tile, 'repeat') ?? colour;
}

import { isDark, type StatusName } from '@legame/core/state';
import type { ClipRow } from '@legame/core/contract';
import type { ShownTimeline } from '../api/timelines.ts';

/** How an event is drawn: lit, dark for a reason, something that is no clip. */
export type Tone = StatusName | 'lit' | 'other';
export const isDarkTone = (tone: Tone): boolean => tone !== 'lit' && tone !== 'other';

/** Colours of the theme, by the names under which the style sheet has them. */
export const toneVariables: Readonly<Record<Tone, string>> = {
  linked: '--linked-block',
  missing: '--status-missing',
  changed: '--status-changed',
  unreadable: '--status-unreadable',
  short: '--status-short',
  parked: '--status-aside',
  waived: '--linked-block',
  unshown: '--linked-block',
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

/** What is drawn on, and how large. */
export type Ground = {
  readonly timeline: Pick<ShownTimeline, 'events' | 'start' | 'length'>;
  readonly tracks: readonly string[];
  /** Height of a track. */
  readonly band: number;
  readonly width: number;
  readonly height: number;
};

/** Events as boxes: one path a tone. Lit ones are filled, dark ones hatched in an outline. */
export function drawTracks(context: CanvasRenderingContext2D, ground: Ground, tones: readonly Tone[]): void {
  const ratio = clear(context, ground);
  const box = boxesOn(ground);
  const paths = new Map<Tone, Path2D>();
  ground.timeline.events.forEach((event, i) => {
    const tone = tones[i]!;
    const path = paths.get(tone) ?? new Path2D();
    paths.set(tone, path);
    path.rect(...box(event));
  });
  for (const [tone, path] of paths) {
    const colour = colourOf(context, toneVariables[tone]);
    const isFilled = !isDarkTone(tone);
    context.fillStyle = isFilled ? colour : hatch(context, colour, ratio);
    context.fill(path);
    if (isFilled) continue;
    context.strokeStyle = colour;
    context.lineWidth = 1;
    context.stroke(path);
  }
}

/** The outlines of the events whose clips are selected. */
export function drawInHand(context: CanvasRenderingContext2D, ground: Ground, selected: ReadonlySet<string>): void {
  clear(context, ground);
  const box = boxesOn(ground);
  context.strokeStyle = colourOf(context, '--color-base-content');
  context.lineWidth = 2;
  for (const event of ground.timeline.events)
    if (event.clipId && selected.has(event.clipId)) context.strokeRect(...box(event));
}

/** Empties a canvas, sized for the screen it is on; gives how many of its dots one of the page is. */
export function clear(context: CanvasRenderingContext2D, { width, height }: Pick<Ground, 'width' | 'height'>): number {
  const ratio = window.devicePixelRatio || 1;
  const { canvas } = context;
  const [across, down] = [Math.round(width * ratio), Math.round(height * ratio)];
  // Setting a size, also the same one, makes the whole canvas anew.
  if (canvas.width !== across) canvas.width = across;
  if (canvas.height !== down) canvas.height = down;
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.clearRect(0, 0, width, height);
  return ratio;
}

function boxesOn({ timeline, tracks, band, width }: Ground) {
  const top = new Map(tracks.map((track, i) => [track, i * (band + 1)]));
  const across = (frame: number) => ((frame - timeline.start) / timeline.length) * width;
  return ({ record, track }: ShownTimeline['events'][number]): [number, number, number, number] => {
    const left = across(record.start);
    return [left, top.get(track)!, Math.max(2, across(record.end) - left - 1), band];
  };
}

export const colourOf = (context: CanvasRenderingContext2D, variable: string): string =>
  getComputedStyle(context.canvas).getPropertyValue(variable).trim();

/** The slant of everything dark, whatever its colour. */
export function hatch(context: CanvasRenderingContext2D, colour: string, ratio: number): CanvasPattern | string {
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

import { clear, colourOf, hatch, isDarkTone, toneVariables, type Tone } from '../../app/drawTracks.ts';
import type { Sight } from './sight.ts';
import { inSight, type Track } from './tracks.ts';

export type CutGround = {
  readonly tracks: readonly Track[];
  readonly sight: Sight;
  readonly width: number;
  readonly height: number;
};

export const across = ({ from, to }: Sight, width: number) => {
  const perFrame = width / (to - from);
  return (frame: number): number => (frame - from) * perFrame;
};

const font = '12px "Spline Sans Mono Variable", monospace';
const roomForName = 34;
/** Dots that a whole name takes at the left of an event, with the paper that it stands on. */
export const roomOfName = (name: string): number => 14 + name.length * 7.2;
/** Of the picture at the left of an event that has room for it. */
export const pictureWidth = 68;
export const roomForPicture = 120;

/**
 * The tracks of what is in sight. Lit events are filled, dark ones hatched in the colour of their status; names stand on
 * paper, so that they can be read on any of them. Of events narrower
 * than a dot only the first in each dot is drawn, the first dark one, and those in hand.
 */
export function drawCut(
  context: CanvasRenderingContext2D,
  { tracks, sight, width, height }: CutGround,
  {
    toneAt,
    selected,
    front,
    hasPicture,
  }: {
    readonly toneAt: (place: number) => Tone;
    readonly selected: ReadonlySet<string>;
    /** Places of events that stand in front; null where all do. */
    readonly front: ReadonlySet<number> | null;
    /** Places of events that have a picture at their left. */
    readonly hasPicture: ReadonlySet<number>;
  },
): void {
  const ratio = clear(context, { width, height });
  const x = across(sight, width);
  const [ink, paper, line, hand] = [
    '--color-base-content',
    '--color-base-100',
    '--color-base-300',
    '--color-primary',
  ].map((name) => colourOf(context, name)) as [string, string, string, string];
  const colours = new Map<Tone, { edge: string; fill: string | CanvasPattern }>();
  const colour = (tone: Tone) => {
    const known = colours.get(tone);
    if (known) return known;
    const edge = colourOf(context, toneVariables[tone]);
    const made = { edge, fill: isDarkTone(tone) ? hatch(context, edge, ratio) : edge };
    colours.set(tone, made);
    return made;
  };
  context.font = font;
  context.textBaseline = 'middle';
  for (const track of tracks) {
    context.fillStyle = paper;
    context.fillRect(0, track.top, width, track.height);
    // How far the last ones reach, and the last dark ones.
    let [reached, reachedDark] = [-1, -1];
    for (const { event, place } of inSight(track, sight)) {
      const tone = toneAt(place);
      const [left, right] = [Math.max(-2, x(event.record.start)), Math.min(width + 2, x(event.record.end))];
      const isDark = isDarkTone(tone);
      const isInHand = event.clipId !== null && selected.has(event.clipId);
      if (right - left < 1 && right <= (isDark ? reachedDark : reached) && !isInHand) continue;
      reached = Math.max(reached, Math.ceil(right));
      if (isDark) reachedDark = reached;
      const box = [left + 0.5, track.top + 0.5, Math.max(1, right - left - 1.5), track.height - 1] as const;
      context.globalAlpha = front === null || front.has(place) ? 1 : 0.25;
      const { edge, fill } = colour(tone);
      context.fillStyle = fill;
      context.fillRect(...box);
      if (right - left > 3) {
        context.strokeStyle = isDark ? edge : line;
        context.lineWidth = 1;
        context.strokeRect(...box);
      }
      if (isInHand) {
        context.strokeStyle = hand;
        context.lineWidth = 2.5;
        context.strokeRect(...box);
      }
      if (event.transition && right - left > 6 && track.height > 8)
        drawTransition(context, {
          x: x(event.record.start),
          half: (x(event.record.start + event.transition.length) - x(event.record.start)) / 2,
          top: track.top,
          height: track.height,
          ink,
        });
      if (right - left > roomForName && track.height > 14) {
        const beside = hasPicture.has(place) ? pictureWidth + 4 : 0;
        const speed = event.speed ? ` ${Math.round((event.speed.num / event.speed.den) * 100)} %` : '';
        drawName(context, `${event.name}${speed}`, {
          left: Math.max(2, left + 5) + beside,
          room: right - Math.max(0, left) - 10 - beside,
          y: track.top + track.height / 2,
          ink,
          paper,
        });
      }
      context.globalAlpha = 1;
    }
  }
}

function drawName(
  context: CanvasRenderingContext2D,
  name: string,
  { left, room, y, ink, paper }: { left: number; room: number; y: number; ink: string; paper: string },
): void {
  const perLetter = context.measureText('m').width;
  const letters = Math.floor((room - 4) / perLetter);
  if (letters < 2) return;
  const text = name.length > letters ? `${name.slice(0, Math.max(1, letters - 1))}…` : name;
  context.fillStyle = paper;
  context.fillRect(left, y - 9, context.measureText(text).width + 6, 18);
  context.fillStyle = ink;
  context.fillText(text, left + 3, y + 1);
}

/** The two sides of a dissolve or wipe, crossing over its length. */
function drawTransition(
  context: CanvasRenderingContext2D,
  { x, half, top, height, ink }: { x: number; half: number; top: number; height: number; ink: string },
): void {
  context.strokeStyle = ink;
  context.lineWidth = 1.2;
  context.beginPath();
  context.moveTo(x - half, top + height);
  context.quadraticCurveTo(x, top + height / 2, x + half, top);
  context.moveTo(x - half, top);
  context.quadraticCurveTo(x, top + height / 2, x + half, top + height);
  context.stroke();
}

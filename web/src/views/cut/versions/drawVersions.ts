import { clear, colourOf, hatch } from '../../../app/drawTracks.ts';
import { across } from '../drawCut.ts';
import type { Sight } from '../sight.ts';
import type { Mark, Versions } from './versions.ts';

/** A sign for each, so that nothing is told by colour alone. */
export const signs: Readonly<Record<Mark, string>> = {
  kept: '',
  added: '+',
  removed: '−',
  moved: '→',
  trimmed: '⇿',
  're-sourced': '≠',
};

const font = '11.5px "Spline Sans Mono Variable", Signs, monospace';
const roomForSign = 11;
const roomForName = 44;
/** Lines nearer to one another than this are one. */
const leastBetween = 3;

/** Both versions as far as they are in sight: what was kept is quiet, what changed has an edge, a sign and, if both have it, a line. */
export function drawVersions(
  context: CanvasRenderingContext2D,
  { tracks, gap, joined, height }: Versions,
  {
    sight,
    width,
    inHand,
  }: { readonly sight: Sight; readonly width: number; /** A change. */ readonly inHand: number | null },
): void {
  const ratio = clear(context, { width, height });
  const x = across(sight, width);
  const [ink, paper, quiet, kept, accent, dark] = [
    '--color-base-content',
    '--color-base-100',
    '--color-base-300',
    '--linked-block',
    '--color-primary',
    '--status-missing',
  ].map((name) => colourOf(context, name)) as [string, string, string, string, string, string];
  const slant = hatch(context, dark, ratio);
  context.font = font;
  context.textBaseline = 'middle';

  context.lineWidth = 1;
  let drawnAt = -Infinity;
  for (const { before, now, change } of joined) {
    const [from, to] = [x((before.start + before.end) / 2), x((now.start + now.end) / 2)];
    if (Math.max(from, to) < 0 || Math.min(from, to) > width) continue;
    const isInHand = change === inHand;
    if (to - drawnAt < leastBetween && !isInHand) continue;
    drawnAt = to;
    context.strokeStyle = isInHand ? accent : ink;
    context.lineWidth = isInHand ? 2.5 : 1;
    context.globalAlpha = isInHand ? 1 : 0.45;
    context.beginPath();
    context.moveTo(from, gap.top);
    context.bezierCurveTo(from, gap.top + gap.height / 2, to, gap.top + gap.height / 2, to, gap.top + gap.height);
    context.stroke();
  }
  context.globalAlpha = 1;

  for (const track of tracks) {
    context.fillStyle = paper;
    context.fillRect(0, track.top, width, track.height);
    // How far the last one drawn reaches, and the last that changed.
    let [reached, reachedChanged] = [-1, -1];
    for (const { event, mark, isDark, change } of track.events) {
      const [left, right] = [Math.max(-2, x(event.record.start)), Math.min(width + 2, x(event.record.end))];
      const isInHand = change !== null && change === inHand;
      if (right < 0 || left > width) continue;
      // Of what is narrower than a dot, the first in each dot, and the first that changed.
      const isKept = mark === 'kept' && !isDark;
      if (right - left < 1 && right <= (isKept ? reached : reachedChanged) && !isInHand) continue;
      reached = Math.max(reached, Math.ceil(right));
      if (!isKept) reachedChanged = reached;
      const box = [left + 0.5, track.top + 0.5, Math.max(1, right - left - 1.5), track.height - 1] as const;
      context.fillStyle = isDark ? slant : mark === 'kept' ? kept : paper;
      context.fillRect(...box);
      context.setLineDash(mark === 'removed' ? [3, 3] : []);
      context.strokeStyle = isInHand ? accent : isDark ? dark : mark === 'kept' ? quiet : ink;
      context.lineWidth = isInHand ? 2.5 : mark === 'kept' ? 1 : 1.4;
      if (mark !== 'kept' || right - left > 3) context.strokeRect(...box);
      context.setLineDash([]);
      const room = right - Math.max(0, left);
      const text = labelOf(context, { sign: signs[mark], name: track.height > 20 ? event.name : '', room });
      if (!text) continue;
      const at = Math.max(2, left + 3);
      context.fillStyle = paper;
      context.fillRect(at - 1, track.top + track.height / 2 - 7, context.measureText(text).width + 3, 14);
      context.fillStyle = ink;
      context.fillText(text, at, track.top + track.height / 2 + 1);
    }
  }
}

/** As much of sign and name as there is room for. */
function labelOf(
  context: CanvasRenderingContext2D,
  { sign, name, room }: { sign: string; name: string; room: number },
): string {
  if (room < roomForSign) return '';
  if (room < roomForName) return sign;
  const letters = Math.floor((room - 8) / context.measureText('m').width) - (sign ? 2 : 0);
  const short = name.length > letters ? `${name.slice(0, Math.max(0, letters - 1))}…` : name;
  return [sign, short].filter(Boolean).join(' ');
}

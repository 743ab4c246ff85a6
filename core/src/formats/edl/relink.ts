import type { NewReference } from '../format.ts';
import { frameName } from '../../paths/sequence.ts';
import { gatherEvents } from './events.ts';
import { parseLines } from './lines.ts';

/**
 * Changes the source file of the events that start at these line numbers: the value of their SOURCE FILE comment, or
 * a new such comment right under the event line where there was none. Where a reel is given, it replaces the reel of
 * the event and of its M2 line, and the columns after it stay where they were if they can. Every other byte stays.
 */
export function relinkEdl(text: string, changes: ReadonlyMap<string, NewReference>): string {
  const lines = parseLines(text);
  const files = new Map<number, string>();
  const added = new Map<number, string>();
  const reels = new Map<number, { from: string; to: string }>();
  for (const event of gatherEvents(lines).events) {
    const change = changes.get(String(event.line));
    if (!change) continue;
    const path = change.sequence
      ? withName(change.path, frameName(change.sequence, change.sequence.first))
      : change.path;
    if (event.sourceFile) files.set(event.sourceFile.line, path);
    else added.set(event.line, path);
    if (change.reel === undefined || change.reel === event.raw.reel) continue;
    for (const line of [event.line, event.speed?.line])
      if (line !== undefined) reels.set(line, { from: event.raw.reel, to: change.reel });
  }
  return lines
    .map((line) => {
      const file = files.get(line.line);
      if (file !== undefined)
        return line.text.replace(/^(\s*\*\s*SOURCE FILE\s*:?\s*).*$/is, (_, label: string) => label + file) + line.end;
      const reel = reels.get(line.line);
      const shown = reel ? withReel(line.text, reel.from, reelToken(reel.to)) : line.text;
      const below = added.get(line.line);
      const end = line.end || '\n';
      return below === undefined ? shown + line.end : `${shown}${end}* SOURCE FILE: ${below}${line.end}`;
    })
    .join('');
}

/** A reel is one word in a list. */
export const reelToken = (reel: string): string => reel.trim().replace(/\s+/g, '_') || 'AX';

/** The line with another reel; spaces after it are given or taken so that the next column keeps its place. */
function withReel(text: string, from: string, to: string): string {
  const at = text.toUpperCase().indexOf(from.toUpperCase(), /^\s*\S+/.exec(text)?.[0].length ?? 0);
  if (at < 0) return text;
  const rest = text.slice(at + from.length);
  const spaces = /^[ ]*/.exec(rest)![0].length;
  const room = Math.max(1, spaces - (to.length - from.length));
  return text.slice(0, at) + to + (spaces > 0 ? ' '.repeat(room) + rest.slice(spaces) : rest);
}

const withName = (path: string, name: string): string => path.replace(/[^/]*$/, () => name);

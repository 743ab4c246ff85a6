import type { NewReference } from '../format.ts';
import { frameName } from '../../paths/sequence.ts';
import { gatherEvents, parseLines } from './lines.ts';

/**
 * Changes the source file of the events that start at these line numbers: the value of their SOURCE FILE comment, or
 * a new such comment right under the event line where there was none. Every other byte stays.
 */
export function relinkEdl(text: string, changes: ReadonlyMap<string, NewReference>): string {
  const lines = parseLines(text);
  const replaced = new Map<number, string>();
  const inserted = new Map<number, string>();
  for (const event of gatherEvents(lines).events) {
    const change = changes.get(String(event.line));
    if (!change) continue;
    const path = change.sequence
      ? withName(change.path, frameName(change.sequence, change.sequence.first))
      : change.path;
    if (event.sourceFile) replaced.set(event.sourceFile.line, path);
    else inserted.set(event.line, path);
  }
  return lines
    .map((line) => {
      const value = replaced.get(line.line);
      if (value !== undefined)
        return line.text.replace(/^(\s*\*\s*SOURCE FILE\s*:?\s*).*$/is, (_, label: string) => label + value) + line.end;
      const added = inserted.get(line.line);
      const end = line.end || '\n';
      return added === undefined ? line.text + line.end : `${line.text}${end}* SOURCE FILE: ${added}${line.end}`;
    })
    .join('');
}

const withName = (path: string, name: string): string => path.replace(/[^/]*$/, () => name);

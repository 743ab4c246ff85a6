import Papa from 'papaparse';
import type { Edit } from '../../model/edit.ts';
import { rangeLength } from '../../time/range.ts';
import { formatRate } from '../../time/rate.ts';
import { formatTimecode } from '../../time/timecode.ts';

/** A table of rows under a header as CSV (RFC 4180). Cells that could be taken for formulas get an apostrophe in front. */
export const writeCsv = (headers: readonly string[], rows: readonly (readonly (string | number)[])[]): string =>
  `${Papa.unparse({ fields: [...headers], data: rows.map((r) => [...r]) }, { escapeFormulae: true, newline: '\r\n' })}\r\n`;

/** Every clip of an edit as a shot log: name, file, reel, what the media holds, and all that was noted. */
export function writeLog(edit: Edit): string {
  const noted = ['scene', 'take', 'notes'] as const;
  const others = [...new Set(edit.clips.flatMap((c) => Object.keys(c.metadata)))].filter(
    (key) => !(noted as readonly string[]).includes(key),
  );
  const headers = ['Name', 'File', 'Reel', 'Start', 'End', 'Duration', 'Rate', 'Scene', 'Take', 'Notes', ...others];
  const rows = edit.clips.map((clip) => {
    const { available, rate, counting, metadata } = clip;
    const at = (frames: number) => formatTimecode(frames, rate, counting);
    const times = available
      ? [at(available.start), at(available.end), rangeLength(available), formatRate(rate)]
      : ['', '', '', ''];
    const told = [...noted, ...others].map((key) => (Object.hasOwn(metadata, key) ? metadata[key]! : ''));
    return [clip.name, clip.remembered ?? '', clip.reel ?? '', ...times, ...told];
  });
  return writeCsv(headers, rows);
}

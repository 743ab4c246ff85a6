import type { Format } from '../format.ts';
import { parseLines } from './lines.ts';
import { readEdl } from './read.ts';
import { relinkEdl } from './relink.ts';
import { writeEdl } from './write.ts';

/** Edit decision list in the CMX 3600 layout (SMPTE ST 258), with the comment conventions in wide use. */
export const edl: Format = {
  id: 'edl',
  title: 'EDL (CMX 3600 layout)',
  extensions: ['edl'],
  detect: (text) => parseLines(text.slice(0, 200_000)).some((line) => line.kind === 'event' || line.kind === 'title'),
  read: readEdl,
  write: writeEdl,
  relink: relinkEdl,
};

import type { Format } from '../format.ts';
import { readOtio } from './read.ts';
import { relinkOtio } from './relink.ts';
import { writeOtio } from './write.ts';

/** OpenTimelineIO, the JSON file format. */
export const otio: Format = {
  id: 'otio',
  title: 'OpenTimelineIO',
  extensions: ['otio'],
  detect: (text) => /^\s*[{[]/.test(text),
  read: readOtio,
  write: writeOtio,
  relink: relinkOtio,
};

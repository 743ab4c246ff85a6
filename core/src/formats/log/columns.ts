import type { ColumnRole } from '../../remarks/remark.ts';

/** The names under which columns go in logs, likeliest first; compared without case, punctuation and spaces. */
const commonNames: Readonly<Partial<Record<ColumnRole, readonly string[]>>> = {
  name: ['clipname', 'clip', 'name', 'shotname', 'shot', 'asset', 'title'],
  file: ['sourcefile', 'filename', 'file', 'filepath', 'sourcepath', 'mediafile', 'mediapath', 'path', 'originalfile'],
  folder: ['folder', 'directory', 'folderpath'],
  reel: [
    'reelname',
    'reel',
    'tapename',
    'tape',
    'tapeid',
    'cameraroll',
    'camroll',
    'soundroll',
    'roll',
    'card',
    'cardname',
  ],
  start: [
    'starttimecode',
    'starttc',
    'tcstart',
    'start',
    'tcin',
    'intc',
    'timecodein',
    'sourcein',
    'in',
    'markin',
    'starttime',
    'timecode',
    'tc',
  ],
  end: [
    'endtimecode',
    'endtc',
    'tcend',
    'end',
    'tcout',
    'outtc',
    'timecodeout',
    'sourceout',
    'out',
    'markout',
    'endtime',
  ],
  duration: ['duration', 'length', 'dur', 'durationframes', 'frames', 'framecount', 'durationtc'],
  rate: ['fps', 'framerate', 'rate', 'framespersecond', 'timebase'],
  scene: ['scene', 'sc', 'scenenumber'],
  take: ['take', 'tk', 'takenumber'],
  notes: ['notes', 'note', 'comments', 'comment', 'remarks', 'description', 'desc'],
};

const plain = (header: string): string => header.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');

/** What the columns of these headers mean, as far as their names tell; each meaning goes to one column at most. */
export function recogniseColumns(headers: readonly string[]): ColumnRole[] {
  const roles: ColumnRole[] = headers.map((h) => (h.trim() === '' ? 'ignore' : 'metadata'));
  for (const [role, names] of Object.entries(commonNames) as [ColumnRole, readonly string[]][]) {
    const ranks = headers.map((h) => names.indexOf(plain(h)));
    const best = Math.min(...ranks.filter((rank) => rank >= 0));
    if (Number.isFinite(best)) roles[ranks.indexOf(best)] = role;
  }
  return roles;
}

/** Columns that say which media a row is about; a log without any cannot become clips. */
export const naming: readonly ColumnRole[] = ['name', 'file', 'reel'];

export const isRecognised = (role: ColumnRole): boolean => role !== 'metadata' && role !== 'ignore';

/** Whether a text is a name under which a rate goes, as a column has it or a line before the columns. */
export const namesRate = (text: string): boolean => commonNames.rate!.includes(plain(text));

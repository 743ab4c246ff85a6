import type { BinFault, BinFinding, BinPath, FileRule, Noted } from '@legame/core/bins';
import { count, group } from './numbers.ts';

/** A bin as people write where it stands. */
export const binText = (bin: BinPath): string => (bin.length === 0 ? 'no bin' : bin.join(' › '));

export const fileRuleWords: Readonly<Record<FileRule, string>> = {
  'by-card': 'by card',
  'by-day': 'by day',
  'by-reel': 'by reel',
  'by-kind': 'by kind',
};

export const binFaultWords: Readonly<Record<BinFault, string>> = {
  'no-name': 'it has no name. Give it one',
  'name-too-long': 'its name is longer than 120 letters. Choose a shorter one',
  'too-deep': 'it would stand in more than twelve others. Put it further out',
  'into-itself': 'it would stand inside itself. Choose another place',
  'is-there': 'it is called so and stands there already',
};

/** What is odd in a bin, and what it may come from. */
export function findingSentence(finding: BinFinding, columnTitle: (column: string) => string): string {
  const clips = count(finding.ids.length, 'clip');
  switch (finding.code) {
    case 'reel-blank':
      return `${clips} without a reel: no list will find ${finding.ids.length === 1 ? 'it' : 'them'} by reel and timecode.`;
    case 'reel-overlaps':
      return `${clips} of reel ${finding.reel} overlap in timecode: a reel is called wrongly, or a clock was set back.`;
    case 'odd-one-out':
      return `${group(finding.agreeing)} agree in ${columnTitle(finding.column)} (${finding.usual}); ${clips} ${finding.ids.length === 1 ? 'does' : 'do'} not.`;
    case 'log-without-clip':
      return `${count(finding.ids.length, 'row')} of logs that no edit uses.`;
    case 'clip-without-log':
      return `${clips} of logged reels that no log tells of.`;
  }
}

/** What is noted of a clip, in a line. */
export const notedText = ({ bin, label, values }: Noted): string =>
  [
    ...(bin === null ? [] : [`in ${binText(bin)}`]),
    ...(label === null ? [] : [`labelled ${label}`]),
    ...Object.entries(values).map(([column, value]) => (value === '' ? `no ${column}` : `${column} ${value}`)),
  ].join(', ');

import type { CheckpointView, HistoryChange } from '@legame/core/contract';
import type { FolderTemplate } from '@legame/core/folders';
import { templateLine } from './folders.ts';
import { actSentence } from './statuses.ts';
import { binText, notedText } from './bins.ts';
import { healthWords, subjectText } from './health.ts';
import type { PullRequest } from '@legame/core/report';
import { requestText } from './pulls.ts';
import { formatRate, formatTimecode } from '@legame/core/time';

/** A checkpoint by its name, or by the act before which it was kept. */
export const checkpointText = ({ name, before }: Pick<CheckpointView, 'name' | 'before'>): string =>
  before ? `before “${actSentence(before.verb, before.count)}”` : name;

/** What one change did, in words: whose it is, of which kind, and both sides. */
export type ChangeTold = { readonly of: string; readonly kind: string; readonly before: Side; readonly after: Side };
/** `isNothing`: there was no value, so words stand for it. */
type Side = { readonly text: string; readonly isNothing: boolean };

const said = (text: string): Side => ({ text, isNothing: false });
const nothing = (text: string): Side => ({ text, isNothing: true });

export function changeTold(change: HistoryChange): ChangeTold {
  if (change.what === 'learn')
    return {
      of: change.placeName ?? 'a forgotten place',
      kind: 'known as',
      before: nothing('not known by a name'),
      after: said(change.name),
    };
  if (change.what === 'bins' || change.what === 'labels') return deskTold(change);
  if (change.what === 'home') {
    const home = (path: string | null) => (path === null ? nothing('none') : said(path));
    return { of: 'the project', kind: 'home', before: home(change.before), after: home(change.after) };
  }
  if (change.what === 'folders') {
    const side = (template: FolderTemplate | null) =>
      template ? said(template.map(templateLine).join(', ')) : nothing('those of every project');
    return { of: 'the project', kind: 'folders', before: side(change.before), after: side(change.after) };
  }
  if (change.what === 'accept') {
    const note = (text: string | null) => (text === null ? nothing('open') : said(text || 'accepted'));
    const { title } = healthWords[change.check];
    return { of: subjectText(change.subject), kind: title, before: note(change.before), after: note(change.after) };
  }
  if (change.what === 'pull') {
    const side = (request: PullRequest | null) => (request ? said(requestText(request)) : nothing('wanted'));
    const of = [change.reel, change.file].filter(Boolean).join(' · ');
    return { of, kind: 'pull list', before: side(change.before), after: side(change.after) };
  }
  if (change.what === 'rename')
    return {
      of: change.folder ?? 'a file that is forgotten',
      kind: 'name',
      before: said(change.before),
      after: said(change.after),
    };
  const both = (kind: string, side: (which: 'before' | 'after') => Side): ChangeTold => ({
    of: change.clipName ?? 'a clip taken out since',
    kind,
    before: side('before'),
    after: side('after'),
  });
  switch (change.what) {
    case 'link':
      return both('file', (which) => fileThen(change[which], 'no link'));
    case 'decline':
      return both('not this one', (which) => fileThen(change[which], 'a candidate'));
    case 'follows':
      return both('follows', (which) => fileThen(change[which], 'dark'));
    case 'offline':
      return both('offline', (which) => (change[which] ? said('offline on purpose') : nothing('where the edit says')));
    case 'pin':
      return both('pin', (which) => (change[which] ? said('pinned') : nothing('free')));
    case 'set-aside':
      return both('set aside', (which) => {
        const aside = change[which];
        return aside ? said([aside.as, aside.reason].filter(Boolean).join(': ')) : nothing('to do');
      });
    case 'note':
      return both('noted', (which) => {
        const noted = change[which];
        return noted ? said(notedText(noted)) : nothing('nothing');
      });
    case 'interpret':
      return both('timecode', (which) => {
        const read = change[which];
        return read ? said(readThen(read)) : nothing('as the edit states it');
      });
  }
}

/** Of what people made for the whole project, only what differs. */
function deskTold(change: Extract<HistoryChange, { what: 'bins' | 'labels' }>): ChangeTold {
  const named = (which: 'before' | 'after') =>
    change.what === 'bins' ? change[which].map(binText) : change[which].map((label) => label.name);
  const [before, after] = [named('before'), named('after')];
  const side = (of: readonly string[], other: readonly string[]): Side => {
    const only = of.filter((name) => !other.includes(name));
    return only.length > 0 ? said(only.join(', ')) : nothing('–');
  };
  const kind = change.what === 'bins' ? 'own bins' : 'labels';
  return { of: 'the project', kind, before: side(before, after), after: side(after, before) };
}

const fileThen = (file: { readonly path: string | null } | null, none: string): Side =>
  file ? said(file.path ?? 'a file of a forgotten place') : nothing(none);

/** A reading as a person says it: the rate, and the shift as a signed timecode. */
function readThen({
  countedAt,
  shiftInFrames,
  statedRate,
}: NonNullable<Extract<HistoryChange, { what: 'interpret' }>['after']>): string {
  const rate = countedAt ?? statedRate;
  const frames = Math.abs(shiftInFrames);
  const shift = rate ? formatTimecode(frames, rate) : `${frames} frames`;
  return [countedAt && `at ${formatRate(countedAt)}`, shiftInFrames !== 0 && `${shiftInFrames < 0 ? '−' : '+'}${shift}`]
    .filter(Boolean)
    .join(', ');
}

import { isListDoubted, type ListFault } from '@legame/core/mhl';
import type { SetCheck, SetFile, SetList } from '@legame/core/contract';
import { count } from './numbers.ts';

/** What became of a file of a set, in a word. */
export const checkStateText: Readonly<Record<SetFile['state'], string>> = {
  verified: 'verified',
  changed: 'changed',
  missing: 'missing',
  unreadable: 'unreadable',
  unproven: 'listed without a hash',
  moved: 'lies elsewhere',
  new: 'new',
  waiting: 'to be read',
};

export function listFaultText(fault: ListFault): string {
  switch (fault.code) {
    case 'broken':
      return `line ${fault.line} is no XML (${fault.detail})`;
    case 'not-a-list':
      return 'it is another kind of document';
    case 'leads-out':
      return `"${fault.path}" leads out of the set`;
    case 'no-files':
      return 'it tells of no file';
  }
}

/** Why a list does not prove what it says; null where nothing speaks against it. */
export function listTrouble({ chain, fault }: SetList): string | null {
  if (fault) return `cannot be read: ${listFaultText(fault)}`;
  if (chain === 'chain-broken')
    return 'stands in a chain that cannot be read, so nothing says whether it is as it was made';
  if (chain === 'other') return 'is not what the chain says it was: it was changed after it was made';
  return chain === 'unchained' ? 'stands in no chain, so nothing says whether it is as it was made' : null;
}

/** Whether the hash lists of a set cannot be believed. */
export const areListsDoubted = ({
  lists,
  listsGone,
  handoff,
}: Pick<SetCheck, 'lists' | 'listsGone' | 'handoff'>): boolean =>
  (lists ?? []).some(isListDoubted) || listsGone.length > 0 || (handoff?.listedOtherwise ?? 0) > 0;

/** What a set is after its check, in one sentence. */
export function setSentence({ counts, lists, listsGone, handoff }: SetCheck): string {
  const amounts = Object.values(counts).reduce((sum, { files }) => sum + files, 0);
  const parts = (['changed', 'missing', 'unreadable', 'unproven', 'moved', 'new', 'waiting'] as const).flatMap(
    (state) => (counts[state].files > 0 ? [`${counts[state].files} ${checkStateText[state]}`] : []),
  );
  if (amounts === 0) return 'Its lists tell of no file, and none is there.';
  const said =
    parts.length === 0
      ? amounts === 1
        ? 'Its one file is what was handed over.'
        : `All ${count(amounts, 'file')} are what was handed over.`
      : `${counts.verified.files} of ${count(amounts, 'file')} are verified, ${parts.join(', ')}.`;
  return areListsDoubted({ lists, listsGone, handoff })
    ? `${said} But the hash lists themselves cannot be trusted: see below.`
    : said;
}

import { isDark } from '@legame/core';
import type { ClipRow } from '@legame/core/contract';
import { statusSentence, whySentence } from '../../words/statuses.ts';

/** Dark clips that share one sentence of why. */
export type Cause = { readonly sentence: string; readonly rows: readonly ClipRow[]; readonly seconds: number };

/** Why clips are dark, most screen time first. */
export function causesOf(rows: readonly ClipRow[]): Cause[] {
  const groups = new Map<string, ClipRow[]>();
  for (const row of rows) {
    if (!isDark(row.status.status)) continue;
    const sentence = causeOf(row);
    groups.set(sentence, [...(groups.get(sentence) ?? []), row]);
  }
  return [...groups]
    .map(([sentence, list]) => ({ sentence, rows: list, seconds: list.reduce((sum, r) => sum + r.usedSeconds, 0) }))
    .sort((a, b) => b.seconds - a.seconds || b.rows.length - a.rows.length);
}

/** What is a clip's own in its reason, a file name, does not part it from others of the same reason. */
function causeOf(row: ClipRow): string {
  const { why } = row;
  if (why === null) return statusSentence(row.status);
  switch (why.code) {
    case 'renamed':
      return 'renamed where they lie';
    case 'moved-and-renamed':
      return `moved and renamed: now in ${why.to}`;
    case 'other-content':
      return 'another recording lies under the same name';
    case 'several':
    case 'contested':
      return 'several candidates are equally good: choose one for each';
    default:
      return whySentence(why);
  }
}

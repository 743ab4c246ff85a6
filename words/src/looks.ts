import type { ComparedLook } from '@legame/core/contract';

/** What a file looks like beside the picture that is kept of a clip; said so that nobody takes it for a proof. */
export function lookSentence({ verdict, shared }: ComparedLook): string {
  const share = shared === null ? '' : `${Math.floor(shared * 100)} % alike`;
  switch (verdict) {
    case 'same':
      return `looks as it did: ${share}`;
    case 'alike':
      return `looks much as it did: ${share}, as another take of the shot may`;
    case 'other':
      return `looks different: ${share}; chance makes half`;
    case null:
      return 'no telling: one of the two is of one colour';
  }
}

/** The same in two words, for a list. */
export const lookInShort: Readonly<Record<NonNullable<ComparedLook['verdict']>, string>> = {
  same: 'looks as it did',
  alike: 'looks much as it did',
  other: 'looks different',
};

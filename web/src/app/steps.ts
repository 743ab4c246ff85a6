/** The steps of the work, in order, that exist so far. The key goes after "g". */
export const steps = [
  { path: 'intake', title: 'Intake', key: 'i' },
  { path: 'places', title: 'Places', key: 'p' },
  { path: 'ledger', title: 'Ledger', key: 'l' },
  { path: 'handoff', title: 'Handoff', key: 'h' },
] as const;

/** What stands below the steps: records to look into at any time. */
export const records = [{ path: 'read-log', title: 'Read log', key: 'r' }] as const;

/** Every key, as the overview shows it. */
export const keys: readonly (readonly [string, string])[] = [
  ['/', 'find a clip or do something'],
  ['g then i p l h r', 'go to a step, or to the read log'],
  ['↑ ↓', 'row; with Shift, extend the selection'],
  ['Ctrl/⌘ A', 'select all that the filter shows'],
  ['Enter', 'link the shown candidate'],
  ['n', 'next clip that needs a hand'],
  ['o', 'point to a file by hand'],
  ['y', 'carry this link to others'],
  ['k', 'park, or take up again'],
  ['w', 'waive: needs no media'],
  ['r', 'read the files of the selection again'],
  ['u', 'undo the last act'],
  ['Esc', 'close, or clear the selection'],
  ['?', 'these keys'],
];

/** The steps of the work, in order, that exist so far. The key goes after "g". */
export const steps = [
  { path: 'intake', title: 'Intake', key: 'i' },
  { path: 'places', title: 'Places', key: 'p' },
  { path: 'causes', title: 'Causes', key: 'c' },
  { path: 'ledger', title: 'Ledger', key: 'l' },
  { path: 'handoff', title: 'Handoff', key: 'h' },
] as const;

/** What stands below the steps: records to look into at any time. */
export const records = [
  { path: 'timecode', title: 'Timecode', key: 't' },
  { path: 'history', title: 'History', key: 'y' },
  { path: 'read-log', title: 'Read log', key: 'r' },
] as const;

/** Every key, as the overview shows it. */
export const keys: readonly (readonly [string, string])[] = [
  ['/', 'find a clip or do something'],
  ['g then i p c l h', 'go to a step of the work'],
  ['g then t y r', 'go to the timecode bench, the history, the read log'],
  ['↑ ↓', 'row; with Shift, extend the selection'],
  ['Home End PgUp PgDn', 'first row, last row, a page; with Shift, extend the selection'],
  ['Ctrl/⌘ A', 'select all that the filter shows'],
  ['Ctrl/⌘ C', 'copy the selected rows, as a table'],
  ['Enter', 'link the shown candidate'],
  ['n', 'next clip that needs a hand'],
  ['o', 'point to a file by hand'],
  ['y', 'carry this link to others'],
  ['i', 'pin, or unpin'],
  ['k', 'park, or take up again'],
  ['w', 'waive: needs no media, with the reason'],
  ['r', 'read the files of the selection again'],
  ['u', 'undo the last act; with Shift, do it again'],
  ['Esc', 'close, or clear the selection'],
  ['?', 'these keys'],
];

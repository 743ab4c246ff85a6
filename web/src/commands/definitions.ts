/** Where a command can be done. */
export type Where = 'anywhere' | 'causes' | 'ledger' | 'cut' | 'bins';
export type Definition = {
  readonly title: string;
  /** As `react-hotkeys-hook` writes them; none where a command has no key. */
  readonly keys?: string;
  /** The key as people read it. */
  readonly shown?: string;
  readonly where: Where;
  /** What it does or spares, where its title does not say it: for tooltips. */
  readonly note?: string;
};

/** The steps of the work, in order. The key goes after "g". */
export const steps = [
  { path: 'intake', title: 'Intake', key: 'i' },
  { path: 'places', title: 'Places', key: 'p' },
  { path: 'causes', title: 'Causes', key: 'c' },
  { path: 'ledger', title: 'Ledger', key: 'l' },
  { path: 'cut', title: 'Cut', key: 'x' },
  { path: 'handoff', title: 'Handoff', key: 'h' },
] as const;

/** What stands below the steps: records to look into at any time. */
export const records = [
  { path: 'bins', title: 'Bins', key: 'b' },
  { path: 'timecode', title: 'Timecode', key: 't' },
  { path: 'pulls', title: 'Pull list', key: 'u' },
  { path: 'naming', title: 'Names', key: 'n' },
  { path: 'health', title: 'Health', key: 'e' },
  { path: 'history', title: 'History', key: 'y' },
  { path: 'read-log', title: 'Read log', key: 'r' },
] as const;
export type Screen = (typeof steps | typeof records)[number]['path'];

const goTo = Object.fromEntries(
  [...steps, ...records].map(({ path, title, key }) => [
    `go-${path}`,
    { title: `Go to ${title}`, keys: `g>${key}`, shown: `g ${key}`, where: 'anywhere' },
  ]),
) as Readonly<Record<`go-${Screen}`, Definition>>;

/**
 * Every command: keys, their overview, the field that finds or does, tooltips and menus are drawn from here. What one
 * does, and why it may not be possible now, is said where it is done, by `useCommand`.
 */
export const definitions = {
  find: { title: 'Find a clip, or do something', keys: '/', shown: '/', where: 'anywhere' },
  keys: { title: 'Show these keys', keys: '?', shown: '?', where: 'anywhere' },
  help: { title: 'Help for this screen, and what words mean', keys: 'f1', shown: 'F1', where: 'anywhere' },
  'what-is-this': {
    title: 'What is this? Point at any word',
    keys: 'shift+f1',
    shown: 'Shift F1',
    where: 'anywhere',
    note: 'Nothing is pressed or chosen while you look; Esc ends it',
  },
  tour: { title: 'Show me around in five steps', where: 'anywhere' },
  ...goTo,
  report: { title: 'Open the status report', where: 'anywhere', note: 'to print' },
  'health-report': { title: 'Open the health report', where: 'anywhere', note: 'to print' },
  'pull-list': { title: 'Print the pull list', where: 'anywhere', note: 'of all that is dark' },
  reconnect: {
    title: 'Find the clips that files of this computer are for',
    where: 'anywhere',
    note: 'Or drop the files, or their folder, onto the page',
  },
  undo: { title: 'Undo the last act', keys: 'u, mod+z', shown: 'u', where: 'anywhere' },
  redo: { title: 'Do the undone act again', keys: 'shift+u, mod+shift+z', shown: 'Shift u', where: 'anywhere' },
  theme: { title: 'Change the theme', where: 'anywhere' },
  preferences: { title: 'Preferences: how you like to work', where: 'anywhere', note: 'Kept under your name' },
  'next-cause': { title: 'Next cause', keys: 'down', shown: '↓', where: 'causes' },
  'former-cause': { title: 'Former cause', keys: 'up', shown: '↑', where: 'causes' },
  'select-all': {
    title: 'Select all that the filter shows',
    keys: 'mod+a',
    shown: 'Ctrl/⌘ A',
    where: 'ledger',
  },
  'copy-rows': { title: 'Copy the rows as a table', keys: 'mod+c', shown: 'Ctrl/⌘ C', where: 'ledger' },
  'next-needing-hand': { title: 'Next clip that needs a hand', keys: 'n', shown: 'n', where: 'ledger' },
  'link-shown': { title: 'Link the shown candidate', keys: 'enter', shown: 'Enter', where: 'ledger' },
  point: { title: 'Point to a file by hand', keys: 'o', shown: 'o', where: 'ledger' },
  carry: { title: 'Carry this link to others', keys: 'y', shown: 'y', where: 'ledger' },
  'link-many': {
    title: 'Link the selected clips',
    where: 'ledger',
    note: 'Each to its closest candidate, after you saw the evidence',
  },
  unlink: {
    title: 'Unlink the selected clips',
    where: 'ledger',
    note: 'Takes them offline on purpose; they come back when they are linked, or by Undo',
  },
  pin: {
    title: 'Pin, or unpin',
    keys: 'i',
    shown: 'i',
    where: 'ledger',
    note: 'No rule, carry or cause may change a pinned link',
  },
  park: { title: 'Park, or take up again', keys: 'k', shown: 'k', where: 'ledger', note: 'Leaves them for later' },
  waive: {
    title: 'Waive, with the reason',
    keys: 'w',
    shown: 'w',
    where: 'ledger',
    note: 'They need no media',
  },
  reread: {
    title: 'Read the files again',
    keys: 'r',
    shown: 'r',
    where: 'ledger',
    note: 'Forgets what is remembered of them, pictures included, and measures them again',
  },
  'trial-read': {
    title: 'Trial read of the files',
    where: 'ledger',
    note: 'Decodes them from end to end, in a fenced process',
  },
  'put-back': {
    title: 'Put the files back',
    where: 'ledger',
    note: 'Copies them to where the edit expects them; nothing is written over',
  },
  'hand-off': {
    title: 'Hand the selected clips off',
    where: 'ledger',
    note: 'Plans a handoff of them alone; nothing is written yet',
  },
  'rename-files': {
    title: 'Rename the files of the selected clips',
    where: 'ledger',
    note: 'By a pattern, after you saw the names; nothing is renamed yet',
  },
  'change-folder': {
    title: 'Change the folder',
    where: 'ledger',
    note: 'One folder of their remembered paths for another',
  },
  forms: {
    title: 'Change to original or copy',
    where: 'ledger',
    note: 'Links them to the camera original, a small copy or an accepted copy of the same recording',
  },
  'show-in-cut': { title: 'Show in the cut', keys: 'period', shown: '.', where: 'ledger' },
  'frame-on': { title: 'One frame on', keys: 'right', shown: '→', where: 'cut' },
  'frame-back': { title: 'One frame back', keys: 'left', shown: '←', where: 'cut' },
  'next-event': { title: 'Next edge of an event', keys: 'down', shown: '↓', where: 'cut' },
  'former-event': { title: 'Former edge of an event', keys: 'up', shown: '↑', where: 'cut' },
  'next-dark': { title: 'Next dark event', keys: 'n', shown: 'n', where: 'cut' },
  'former-dark': { title: 'Former dark event', keys: 'shift+n', shown: 'Shift n', where: 'cut' },
  play: {
    title: 'Play from the playhead, or stop',
    keys: 'space',
    shown: 'Space',
    where: 'cut',
    note: 'To the end of the stretch, where one is marked',
  },
  'next-marker': { title: 'Next marker', keys: 'm', shown: 'm', where: 'cut' },
  'former-marker': { title: 'Former marker', keys: 'shift+m', shown: 'Shift m', where: 'cut' },
  nearer: {
    title: 'Nearer',
    keys: 'equal, shift+equal, add',
    shown: '+',
    where: 'cut',
    note: 'Ctrl or ⌘ and the wheel as well',
  },
  farther: {
    title: 'Farther',
    keys: 'minus, subtract',
    shown: '-',
    where: 'cut',
    note: 'Ctrl or ⌘ and the wheel as well',
  },
  'open-nest': {
    title: 'Open the nested timeline',
    keys: 'enter',
    shown: 'Enter',
    where: 'cut',
    note: 'A double click on it as well',
  },
  'mark-first': { title: 'Mark the first frame of a stretch', keys: 'i', shown: 'i', where: 'cut' },
  'mark-last': { title: 'Mark the last frame of a stretch', keys: 'o', shown: 'o', where: 'cut' },
  unmark: { title: 'Forget the marks', keys: 'shift+x', shown: 'Shift x', where: 'cut' },
  'file-in-bin': {
    title: 'Put the selected clips into a bin',
    keys: 'b',
    shown: 'b',
    where: 'bins',
    note: 'By the name of a bin; a new name makes one. Dragging them onto it as well',
  },
  'new-bin': {
    title: 'New bin',
    keys: 'shift+b',
    shown: 'Shift b',
    where: 'bins',
    note: 'Inside the one that is open',
  },
  'write-cell': {
    title: 'Write in the cell',
    keys: 'enter, f2',
    shown: 'Enter',
    where: 'bins',
    note: 'A double click on it as well; documents stay as they are',
  },
  'fill-down': {
    title: 'Fill down',
    keys: 'mod+d',
    shown: 'Ctrl/⌘ D',
    where: 'bins',
    note: 'The first selected clip’s value of the column in hand into all of the selection',
  },
  circle: { title: 'Circle the take, or not', keys: 'c', shown: 'c', where: 'bins' },
  'copy-cells': {
    title: 'Copy the cells',
    keys: 'mod+c',
    shown: 'Ctrl/⌘ C',
    where: 'bins',
    note: 'The cell in hand, or the rows of a selection as a table',
  },
  'next-cell': { title: 'Cell to the right', keys: 'right', shown: '→', where: 'bins' },
  'former-cell': { title: 'Cell to the left', keys: 'left', shown: '←', where: 'bins' },
  'select-bin': { title: 'Select all that is shown', keys: 'mod+a', shown: 'Ctrl/⌘ A', where: 'bins' },
  'show-in-ledger': { title: 'Show in the ledger', where: 'bins' },
  'show-in-bin': {
    title: 'Show in its bin',
    where: 'ledger',
    note: 'Where the clip is filed, with all that is noted of it',
  },
  'all-of-cut': { title: 'All of the timeline', keys: '0', shown: '0', where: 'cut' },
} as const satisfies Readonly<Record<string, Definition>>;
export type CommandId = keyof typeof definitions;
export const commandIds = Object.keys(definitions) as readonly CommandId[];
export const definitionOf = (id: CommandId): Definition => definitions[id];

/** What moves about in a list: keys of lists, not commands, and shown beside them. */
export const listKeys: readonly (readonly [string, string])[] = [
  ['↑ ↓', 'row; with Shift, extend the selection'],
  ['Home End PgUp PgDn', 'first row, last row, a page; with Shift, extend the selection'],
  ['double-click', 'open what is under the pointer'],
  ['right-click', 'what can be done to the selection'],
  ['Esc', 'close, or clear the selection'],
];

export const whereWords: Readonly<Record<Where, string>> = {
  anywhere: 'Everywhere',
  causes: 'Causes',
  ledger: 'Ledger',
  cut: 'Cut',
  bins: 'Bins',
};

/** What a tooltip says of a command: what it does, and its key. */
export function tipOf(id: CommandId): string {
  const { title, shown, note } = definitionOf(id);
  return [shown && `${shown}:`, note ?? title].filter(Boolean).join(' ');
}

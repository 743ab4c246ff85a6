/** Help for a screen: what it is for, and how it is worked, in the order in which it is done. */
export type ScreenHelp = { readonly title: string; readonly about: string; readonly how: readonly string[] };

/** By the screen's address inside a project. */
export const screenHelp = {
  intake: {
    title: 'Intake',
    about: 'Brings in what points at the media: timelines, lists, bundles and shot logs. They are kept byte for byte.',
    how: [
      'Drop files on the page, or take them from a place, where their relative references are known to mean what lies there.',
      'Each is shown before it comes in: its clips, its events, and every line that was not understood.',
      'A newer version of a timeline keeps the links and decisions of the clips that it shares with the one it replaces.',
      'Watch the folder into which the editor puts new cuts: a newer one is told, compared, and comes in by one click.',
    ],
  },
  places: {
    title: 'Places',
    about: 'Says where media may be: drives, cards, shares, folders. Nothing in them is ever changed or deleted.',
    how: [
      'Add a place by its folder. It is read by itself, and again whenever something in it changes.',
      'Say by which names it is known on other machines: a drive letter, a mount point, the name of a share.',
      'A place that went away takes its clips along; when it is back, under whatever path, they are back too.',
      'The map of a place shows what takes its room, and what of it nobody uses.',
    ],
  },
  causes: {
    title: 'Causes',
    about: 'Why clips are dark: the fewest causes that account for all of them, each with the screen time it costs.',
    how: [
      'Look at what mending a cause would do, clip by clip, before it is done. What would not fit is left alone.',
      'A cause that is only likely says what would prove it.',
      'Mending is one act: one Undo takes it back.',
      'What no cause explains is asked about one by one, at the end of the list.',
    ],
  },
  ledger: {
    title: 'Ledger',
    about: 'Clip by clip: its status, what the edit remembers of it, what was found, and the evidence for and against.',
    how: [
      'Link all that is certain in one act; what is only likely is linked after you have seen its evidence.',
      'Point a clip at a file by hand, and carry the same step over to every clip that it fits.',
      'Drop files or a folder from your computer onto the page: it says which dark clips they are for, or which folder has to be a place first.',
      'Columns sort, with Shift by several, and filter by value; grouped by reason, reel or folder, rows show what belongs together.',
      'Pin a link that no rule may change; park what can wait; waive what needs no media, with the reason.',
      'Match rules say of each attribute whether it must agree, counts, or is ignored; they show what they would change first.',
    ],
  },
  cut: {
    title: 'Cut',
    about: 'The timeline above, the recordings beneath it, and a thread from every event to the stretch it reads.',
    how: [
      'Go from one dark event to the next, and see where it stands and for how long.',
      'Hang the thread of an event on another recording: the evidence is shown before it is let go.',
      'Open a nested timeline in its place.',
      'Mark a stretch by its first and last frame: hand off just that, or see what is to be fetched for it.',
      'Play it from the playhead by Space: what is linked is seen and heard, small; what is dark is told.',
      'Go from one marker or comment of the document to the next: flags stand on the ruler.',
      'Lay the version before and the one now above one another: what was added, removed, moved or trimmed, and is dark.',
    ],
  },
  handoff: {
    title: 'Handoff',
    about: 'Gathers exactly the media that the next person needs, proven byte by byte, with timelines that open on it.',
    how: [
      'The plan is one sentence: choose its words, and see what goes, whole or trimmed, with how many bytes.',
      'Nothing is written before it runs, and nothing is ever written over.',
      'Whatever breaks it off, it goes on where it was.',
      'Whoever receives the set checks it against its hashes under “Check a received set”.',
    ],
  },
  bins: {
    title: 'Bins',
    about:
      'All recordings in their bins, with every column of edit, file and logs; yours are written over what documents say.',
    how: [
      'Make bins by card, day, reel or kind in one act, or file clips by dragging them.',
      'Write in a cell, fill down, paste from a spreadsheet and copy to one.',
      'What is odd is told: reels that are blank or overlap, the one that differs, log rows without a clip.',
    ],
  },
  timecode: {
    title: 'Timecode',
    about: 'How the edit counts and how the files count, side by side, and the one displacement that explains a group.',
    how: [
      'Choose a clip to see both countings; the displacement is worked out for all that share it.',
      'Count clips otherwise than the edit states, as a proposal first. The edit itself is not touched.',
    ],
  },
  pulls: {
    title: 'Pull list',
    about: 'What has to be fetched, by reel, with handles; what was asked of whom, and what came of it.',
    how: [
      'Choose sources by one, by reel or all, and say of whom they are asked.',
      'Each who was asked has a list of what is still owed: as CSV, as EDL and on paper.',
      'What comes back is linked by itself and stands as arrived; what the cut wants beyond what was asked is told.',
    ],
  },
  health: {
    title: 'Health',
    about: 'What may go wrong with the media later: each check with its risk and a remedy.',
    how: [
      'Say which folder is home; what lies elsewhere is copied there, proven, and linked there in one act.',
      'Folders… says which folders a project has and what goes where; they are made in a place in one act.',
      'Accept what you know of with a note.',
      'Keep the state as it is, and the next look tells what is new and what is gone.',
    ],
  },
  naming: {
    title: 'Names',
    about:
      'What the files of clips are called, held against a pattern; and other names for them, with every clip kept tied.',
    how: [
      'Choose clips in the ledger or in bins and say there that their files are to be renamed; without a choice all are looked at.',
      'Change the pattern, or write a name yourself. Files beside a recording under its name go with it.',
      'Rename: all at once, or none. Undo renames them back.',
    ],
  },
  history: {
    title: 'History',
    about: 'Everything that was changed, by which rule or by hand, clip by clip before and after; and the way back.',
    how: [
      'Undo takes back the last act, again and again; redo does it once more.',
      'Set a checkpoint before something large, and return to it. That can be undone too.',
      'Before an act on fifty clips or more the state is kept by itself; hold any two states against one another.',
    ],
  },
  'read-log': {
    title: 'Read log',
    about: 'Everything that is opened, how long it took, and where it got stuck.',
    how: [
      'A trial read decodes files from end to end, in a fenced process, and tells the frame that fails.',
      'What overwhelms a reader is set aside and said, and holds up nothing else.',
    ],
  },
} as const satisfies Readonly<Record<string, ScreenHelp>>;

/** What a word means here. In the order in which a dictionary has them. */
export const glossary: readonly (readonly [string, string])[] = [
  [
    'acceptance profile',
    'what the project takes as media: containers, codecs, rasters, rates; what it does not take is told',
  ],
  ['arrived', 'said of a source on the pull list whose clips have their media again'],
  ['bin', 'a folder of clips inside a project'],
  ['candidate', 'a media file that may be the right one, with its evidence'],
  ['carry', 'apply the step that one decision revealed to every clip that it fits'],
  ['cause', 'one explanation that accounts for many dark clips at once, with its remedy'],
  [
    'certain',
    'said of a candidate that is linked without asking: all that must agree agrees, something identifies it, and nothing rivals it',
  ],
  ['Changed', 'status: a file is there, but not the one remembered; its timecode, length, rate or content is another'],
  ['channels', 'the sounds of a file that lie side by side, as left and right'],
  [
    'checkpoint',
    'the state of all links and decisions, under a name or kept before a large act, to return to or to compare with',
  ],
  ['circled', 'said of a take that was chosen while it was shot'],
  [
    'clip',
    'one source reference of the edit: a name, a reel, the path it remembers, a range, and what is expected of its media',
  ],
  ['codec', 'how picture or sound is coded in a file'],
  ['cut strip', 'the line below the top bar: the whole timeline, with what is dark in it'],
  ['dark', 'said of a clip or an event whose media is not there as the edit wants it'],
  [
    'drop-frame',
    'timecode at 29.97 or 59.94 that leaves out numbers, never frames, so that it keeps pace with the clock',
  ],
  ['event', 'one use of a clip on a timeline: source range, record range, speed'],
  ['evidence', 'what agrees, nearly agrees, differs or is unknown, attribute by attribute'],
  [
    'facts',
    'what was measured in a file: kind, timecode, length, rate, raster, codec, channels, reel, size, fingerprint',
  ],
  [
    'fingerprint',
    'a fast identity of content: size and a hash of sampled blocks; a full hash where bytes must be proven',
  ],
  ['folders of a project', 'the folders of its home, and what kind of media goes into which; also for handoffs'],
  ['form', 'one of several versions of the same recording: the camera original, a small copy, an accepted copy'],
  ['handles', 'extra frames kept on either side of a used range'],
  ['handoff', 'a gathered set: media, timelines that open on it, a list of hashes, a report'],
  ['hash list', 'a hash of every file of a set, after the standard ASC MHL: it proves that nothing changed on the way'],
  ['headroom', 'the share of a drive that is kept free'],
  ['holder', 'whoever keeps a source on the pull list: an archive, a lab, a person'],
  ['home', 'the folder in which all media of a project should lie'],
  ['label', 'a mark of your own on a clip, with a name, a colour and a shape'],
  ['link', 'the tie between a clip and a media file, with the evidence it rests on and who made it'],
  ['Linked', 'status: a file is there, it is the expected one, and it covers all that is used'],
  ['match rules', 'for each attribute: it must agree, it counts, or it is ignored'],
  ['Missing', 'status: nothing lies where the edit says, and nothing was chosen'],
  [
    'namesake',
    'a file of the same name; evidence of nearly nothing, for cameras restart their numbering on every card',
  ],
  ['nest', 'a timeline that another timeline uses as an event'],
  ['Not shown', 'status: nests trim away all that would be read of it; it needs no media and is in no to-do count'],
  ['park', 'leave a clip for later; it stays in the to-do count'],
  ['pin', 'protect a link: no rule, carry or cause may change it'],
  ['place', 'a storage root where media may be, with the names it is known by on other machines'],
  ['point', 'tie a clip to a file or folder chosen by hand'],
  ['preview', 'what an act would do, shown before it is done'],
  ['pull list', 'what is missing, by reel, with its first and last frames: to recapture, or to ask for'],
  ['put back', 'copy a found file to where the edit expects it; nothing is written over'],
  ['raster', 'how many pixels a picture has across and down'],
  ['rate', 'how many frames a second has'],
  ['re-read', 'forget what is remembered of a file, and measure it again'],
  ['record timecode', 'an address in the timeline'],
  ['reel', 'the name of the card, roll or tape that a recording came from'],
  ['rival', 'a file that would fit nearly as well as the one that is meant'],
  ['room', 'what can still be written to a drive, with its headroom kept'],
  ['sequence', 'a picture kept as one image file a frame, numbered'],
  ['set', 'what a handoff gathered, as it is received: checked file by file against its hashes'],
  ['Short', 'status: the right file, but it does not cover all that is used'],
  ['shot log', 'a list of what was shot, with reel, timecode, scene and take'],
  ['sidecar', 'a file that is no media and lies beside a recording under its name'],
  ['source timecode', 'an address in the recording'],
  ['span', 'a continuous part of a file that a handoff keeps'],
  ['swap', 'deliberately tie a clip to different content'],
  ['take', 'one of several tries at a shot'],
  ['timecode', 'an address that counts frames as hours, minutes, seconds and frames'],
  ['timeline', 'the edit itself: events on tracks, one after another'],
  ['track', 'one of the lines of a timeline, for picture or for sound'],
  ['transcode', 'code a recording anew, in another codec; for what a receiver cannot take'],
  ['trial read', 'decode a file from end to end, in a fenced process, to prove that it can be read'],
  ['trim', 'keep only what is used of a recording, and handles, without coding it anew'],
  ['Unreadable', 'status: a file is there, but it cannot be opened or decoded; the reason is shown'],
  ['verified', 'read back from the drive and found the same, byte for byte'],
  ['waive', 'say that a clip needs no media, with the reason; it leaves the to-do count'],
  ['watched folder', 'a folder in which newer versions of what was brought in are looked for'],
  ['witness', 'an independent recording that bears a cause out; two uses of one recording are one witness'],
];

/** Statuses are told by their capital: "short" is only a word. */
const isStatus = (term: string): boolean => /^[A-Z]/.test(term);
const patternOf = (term: string): RegExp => {
  const stem = term.replace(/[.*+?^${}()|[\]\\]/g, '\\$&').replace(/e$/, 'e?');
  // As in "pinned".
  const doubled = /[a-z]$/.test(term) ? `${term.slice(-1)}?` : '';
  return new RegExp(
    `(?<![\\p{L}\\d])${stem}(?:s|es|d|${doubled}(?:ed|ing))?(?![\\p{L}\\d])`,
    isStatus(term) ? 'gu' : 'giu',
  );
};
const patterns = glossary.map((entry) => [entry, patternOf(entry[0])] as const);

/** The terms of the glossary that a text speaks of, in its order; of a term inside a longer one only the longer. */
export function termsIn(text: string): readonly (readonly [string, string])[] {
  const found = patterns.flatMap(([entry, pattern]) =>
    [...text.matchAll(pattern)].map((m) => ({ entry, from: m.index, to: m.index + m[0].length })),
  );
  const isInside = (a: (typeof found)[number], b: (typeof found)[number]) =>
    a !== b && b.from <= a.from && a.to <= b.to && (b.to - b.from > a.to - a.from || isStatus(b.entry[0]));
  const kept = found.filter((one) => !found.some((other) => isInside(one, other))).sort((a, b) => a.from - b.from);
  return [...new Set(kept.map((one) => one.entry))];
}

export type HelpFound = {
  readonly screens: readonly { readonly path: keyof typeof screenHelp; readonly help: ScreenHelp }[];
  readonly terms: readonly (readonly [string, string])[];
};

/** Help in which every word of a text stands; of an empty text all. A term that is called so comes before those that speak of it. */
export function findHelp(text: string): HelpFound {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const has = (...parts: readonly string[]) => {
    const all = parts.join(' ').toLowerCase();
    return words.every((word) => all.includes(word));
  };
  const rank = ([term]: readonly [string, string]) => Number(!has(term));
  return {
    screens: Object.entries(screenHelp).flatMap(([path, help]) =>
      has(help.title, help.about, ...help.how) ? [{ path: path as keyof typeof screenHelp, help }] : [],
    ),
    terms: glossary.filter(([term, meaning]) => has(term, meaning)).toSorted((a, b) => rank(a) - rank(b)),
  };
}

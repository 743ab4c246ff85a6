import { describe, expect, test } from '@jest/globals';
import type { MediaFileId } from '@legame/core/model';
import type { Problem, ProblemCode } from '@legame/core/contract';
import { changeTold } from './history.ts';
import { doingText, jobTitle, progressText } from './jobs.ts';
import { problemText } from './problems.ts';

/** One of each; the compiler asks for those that are missing. */
const each: { readonly [C in ProblemCode]: Extract<Problem, { code: C }> } = {
  'not-found': { code: 'not-found', what: 'media-file' },
  'request-not-understood': { code: 'request-not-understood', said: ['name: too short'] },
  'too-large': { code: 'too-large', limitInBytes: 268_435_456 },
  'foreign-origin': { code: 'foreign-origin' },
  'no-session': { code: 'no-session' },
  internal: { code: 'internal', detail: null },
  'document-not-read': { code: 'document-not-read', name: 'cut.edl', fault: { code: 'document-empty' } },
  'document-overwhelms': { code: 'document-overwhelms', name: 'a.edl', by: 'time', seconds: 120 },
  'rate-needed': { code: 'rate-needed', name: 'cut.edl', fault: { code: 'rate-needed', proposals: [] }, proposals: [] },
  'columns-needed': {
    code: 'columns-needed',
    name: 'log.csv',
    columns: 3,
    fault: { code: 'columns-needed', columns: { headers: [], roles: [], samples: [], rows: 0 } },
  },
  'document-known-already': { code: 'document-known-already', name: 'cut.edl', documentId: 'd' },
  'project-not-read': { code: 'project-not-read', name: 'a.otio', fault: { code: 'no-project' } },
  'no-such-timeline': { code: 'no-such-timeline', document: 'cut.otio' },
  'no-timeline': { code: 'no-timeline', document: 'log.csv' },
  'folder-wanted-for-relative-paths': { code: 'folder-wanted-for-relative-paths' },
  'no-bundle': { code: 'no-bundle', path: 'cuts', place: 'KILN_A', lacks: 'content.otio' },
  'zip-broken': { code: 'zip-broken', name: 'a.otioz' },
  'bin-refused': { code: 'bin-refused', bin: ['Day 1', 'Day 1'], why: 'into-itself' },
  'label-unknown': { code: 'label-unknown' },
  'part-damaged': { code: 'part-damaged', name: 'media/a.mov', detail: 'wrong checksum' },
  'outside-roots': { code: 'outside-roots', path: '/etc', roots: ['/media'] },
  'outside-folder': { code: 'outside-folder', path: '../a', folder: '/media/out' },
  'link-leads-out': { code: 'link-leads-out', path: 'trap/a', folder: '/media/out' },
  'in-no-place': { code: 'in-no-place', path: '/media/KILN_A/a.mov' },
  'folder-not-there': { code: 'folder-not-there', path: '/media/none', for: 'use' },
  'not-a-folder': { code: 'not-a-folder', path: '/media/a.txt' },
  'not-a-file': { code: 'not-a-file', path: '/media/KILN_A/pipe' },
  'another-folder-there': { code: 'another-folder-there', path: '/media/KILN_A' },
  'folder-closed': { code: 'folder-closed', path: '/media/KILN_A', place: 'KILN_A' },
  'place-known-already': {
    code: 'place-known-already',
    path: '/media/KILN_A/day1',
    how: 'inside',
    place: 'KILN_A',
    placePath: '/media/KILN_A',
    placeId: 'p',
  },
  'place-away': { code: 'place-away', place: 'KILN_A', path: '/media/KILN_A', for: 'index' },
  'place-stalls': { code: 'place-stalls', place: 'KILN_A', doing: 'listing' },
  'file-stalls': { code: 'file-stalls', path: '/media/KILN_A/a.mov' },
  'file-away': { code: 'file-away', file: 'a.mov', place: 'KILN_A', for: 'copy' },
  'not-in-place': { code: 'not-in-place', path: 'cuts/a.otio', place: 'KILN_A' },
  'not-hashed': { code: 'not-hashed', file: 'a.mov', place: 'KILN_A' },
  'sequence-has-no-hash': { code: 'sequence-has-no-hash', file: 'a.[1-9].png' },
  'no-drive-bay': { code: 'no-drive-bay' },
  'no-such-drive': { code: 'no-such-drive', drive: 'KILN_C' },
  'not-on-shelf': { code: 'not-on-shelf', path: 'KILN_A/a.mov' },
  'target-not-writable': { code: 'target-not-writable', path: '/media/OUT', why: 'read-only' },
  'target-exists': { code: 'target-exists', path: '/media/OUT/x', when: 'running' },
  'name-not-possible': { code: 'name-not-possible', path: '/media/OUT/a.mov', why: 'too-long' },
  'drive-failed': { code: 'drive-failed', path: '/media/OUT/a.mov', why: 'not-answering' },
  'drive-full': { code: 'drive-full', path: '/media/OUT/a.mov' },
  'no-room': { code: 'no-room', for: 'handoff', folder: '/media/OUT', neededInBytes: 2e9, usableInBytes: 1e9 },
  'reads-back-differently': { code: 'reads-back-differently', path: 'media/a.mov', inside: 'x.otioz' },
  'trim-not-proven': {
    code: 'trim-not-proven',
    path: '/media/KILN_A/a.mov',
    detail: { code: 'fact-differs', fact: 'length', is: '9', wanted: '10' },
  },
  'source-unreadable': { code: 'source-unreadable', path: '/media/KILN_A/a.mov' },
  'source-changed': { code: 'source-changed', path: '/media/KILN_A/a.mov', since: 'planned' },
  'copy-changed': { code: 'copy-changed', path: 'media/a.mov' },
  'folder-claimed': { code: 'folder-claimed', path: '/media/OUT/x' },
  'nothing-to-gather': { code: 'nothing-to-gather', leftOut: 3 },
  'handoff-finished': { code: 'handoff-finished' },
  'handoff-running': { code: 'handoff-running' },
  'handoff-not-running': { code: 'handoff-not-running' },
  'files-not-copied': {
    code: 'files-not-copied',
    failed: 1,
    of: 4,
    first: { code: 'source-changed', path: '/media/KILN_A/a.mov', since: 'begun' },
  },
  'nothing-to-undo': { code: 'nothing-to-undo' },
  'nothing-to-redo': { code: 'nothing-to-redo' },
  'undo-overtaken': { code: 'undo-overtaken' },
  'rename-refused': { code: 'rename-refused', name: 'a.mov', to: 'b.mov', why: 'taken' },
  'rename-overtaken': { code: 'rename-overtaken', name: 'a.mov' },
  'rename-of-others': { code: 'rename-of-others', files: 2, by: ['Trailer'] },
  'restored-already': { code: 'restored-already', path: 'day1/a.mov' },
  'cause-gone': { code: 'cause-gone' },
  'cause-needs-a-person': { code: 'cause-needs-a-person' },
  'nothing-to-put-back': { code: 'nothing-to-put-back', why: { code: 'place-read-only', place: 'KILN_A' } },
  'no-home': { code: 'no-home' },
  'home-read-only': { code: 'home-read-only', place: 'BAY' },
  'nothing-to-bring-home': { code: 'nothing-to-bring-home', why: 'place-away' },
  'no-room-at-home': { code: 'no-room-at-home', place: 'BAY', wantedInBytes: 2e9, usableInBytes: 1e9 },
  'not-all-brought-home': {
    code: 'not-all-brought-home',
    files: 1,
    of: 3,
    path: 'BAY/picture/a.mov',
    because: { code: 'target-exists', path: '/bay/picture/a.mov', when: 'copied' },
  },
  'put-back-not-indexed': { code: 'put-back-not-indexed', file: 'a.mov', place: 'KILN_A' },
  'nothing-to-try': { code: 'nothing-to-try', scope: 'culprit' },
  'picture-not-made': {
    code: 'picture-not-made',
    file: 'a.mov',
    what: 'preview',
    why: 'not-decoded',
    detail: 'it holds no picture',
  },
  'not-a-film': { code: 'not-a-film', file: 'a.wav', mediaFileId: 'm' as MediaFileId },
  'copy-not-accepted': {
    code: 'copy-not-accepted',
    refusal: { what: 'bit-depth', found: '8', accepted: '10' },
  },
  'copy-in-no-place': { code: 'copy-in-no-place', folder: '/media/OUT' },
  'targets-alike': { code: 'targets-alike', path: '/media/DELIVERY' },
  'copy-not-made': { code: 'copy-not-made', file: 'a.mov', detail: 'the encoder gave up' },
  'copy-not-indexed': { code: 'copy-not-indexed', path: '/media/KILN_A/a.mov', place: 'KILN_A' },
  'job-given-up': { code: 'job-given-up' },
  'no-hash-list': { code: 'no-hash-list', folder: '/V/set' },
  'hash-list-broken': {
    code: 'hash-list-broken',
    path: 'ascmhl/0001.mhl',
    fault: { code: 'broken', line: 4, detail: 'unclosed tag' },
  },
  'hash-chain-broken': { code: 'hash-chain-broken', path: '/V/set/ascmhl/ascmhl_chain.xml' },
  'set-has-no-timeline': { code: 'set-has-no-timeline', folder: '/V/set' },
};

describe('what went wrong', () => {
  test.each(Object.values(each))('$code names what it is about, in whole sentences', (problem) => {
    const text = problemText(problem);
    expect(text).toMatch(/^[A-Z0-9"].*[.]$/s);
    expect(text).not.toMatch(/undefined|null|\[object/);
    const named = Object.entries(problem).filter(([k]) => ['path', 'file', 'name', 'drive', 'folder'].includes(k));
    for (const [, value] of named) expect(text).toContain(value);
  });

  test('sizes are for people, and the first of many failures is told in full', () => {
    expect(problemText(each['no-room'])).toBe(
      'The handoff needs 2.0 GB, but /media/OUT has only 1.0 GB free beside its headroom. Make room, or choose another drive.',
    );
    expect(problemText(each['files-not-copied'])).toMatch(
      /^1 of 4 files could not be copied: "\/media.*a.mov" changed/,
    );
  });

  test('that nothing is shown is another matter than that nothing can come along', () => {
    expect(problemText({ code: 'nothing-to-gather', leftOut: 0 })).toMatch(/shows nothing that has media/);
    expect(problemText({ code: 'nothing-to-gather', leftOut: 1 })).toMatch(/^Nothing .* 1 clip is left out/);
  });
});

describe('jobs', () => {
  test('say what they are, what they do and how far they are', () => {
    const job = {
      about: 'KILN_A/day1',
      payload: { placeId: 'p' as never, folder: 'day1' },
      kind: 'index-place',
    } as const;
    expect(jobTitle(job)).toBe('Index KILN_A/day1');
    expect(jobTitle({ kind: 'trial-read', about: '3', payload: { trialId: 't', scope: 'culprit' } })).toBe(
      'Find the culprit',
    );
    expect(doingText({ code: 'weighing', files: 1, clips: 20 })).toBe('weighing 1 file for 20 clips');
    const progress = { done: 1, of: 3, unit: 'bytes', doing: { code: 'read' }, elapsedSeconds: 0 } as const;
    expect([progressText({ progress }), progressText({ progress: { ...progress, unit: 'files' } })]).toEqual([
      '33 %',
      '1 of 3',
    ]);
    expect(progressText({ progress: { ...progress, of: null } })).toBe('');
  });
});

describe('changes in history', () => {
  test('timecode readings are told as rate and signed shift; what is not known any more says so', () => {
    const read = (countedAt: { num: number; den: number } | null, shiftInFrames: number) =>
      changeTold({
        what: 'interpret',
        clipName: 'bowl',
        before: null,
        after: { countedAt, shiftInFrames, statedRate: { num: 25, den: 1 } },
      }).after.text;
    expect([read(null, 25), read(null, -90_000), read({ num: 24, den: 1 }, 0)]).toEqual([
      '+00:00:01:00',
      '−01:00:00:00',
      'at 24',
    ]);
    expect(
      changeTold({ what: 'link', clipName: null, before: { path: null }, after: { path: 'KILN_A/a.mov' } }),
    ).toEqual({
      of: 'a clip taken out since',
      kind: 'file',
      before: { text: 'a file of a forgotten place', isNothing: false },
      after: { text: 'KILN_A/a.mov', isNothing: false },
    });
    expect(
      changeTold({ what: 'set-aside', clipName: 'bowl', before: null, after: { as: 'waived', reason: '' } }),
    ).toEqual(
      expect.objectContaining({
        before: { text: 'to do', isNothing: true },
        after: { text: 'waived', isNothing: false },
      }),
    );
  });
});

import { describe, expect, test } from '@jest/globals';
import type { Evidence, Finding, Why } from '@legame/core/match';
import { rate } from '@legame/core/time';
import type { RateProposal, ReadFault, Remark, RowFault } from '@legame/core/remarks';
import type { Status } from '@legame/core/state';
import { findingWords } from './findings.ts';
import { proposalWords, readFaultSentence, remarkSentence, whereWords } from './remarks.ts';
import { reasonText, statusSentence, whySentence } from './statuses.ts';
import { areApart, coded, isSaid } from './testing/every.ts';

const pal = rate(25);
const clip = { rate: pal, counting: 'non-drop' } as const;

describe('what was compared', () => {
  const names = { edit: 'bowl.mov', file: 'SG_bowl.mov' };
  const ranges = { edit: { start: 90_000, end: 90_100 }, file: { start: 90_010, end: 90_500 } };
  const rates = { edit: pal, file: rate(24_000, 1001) };
  const rasters = { edit: { width: 1920, height: 1080 }, file: { width: 640, height: 360 } };
  const sounds = { edit: { channels: 1, sampleRate: 48_000 }, file: { channels: 2, sampleRate: null } };
  const findings = coded<Finding>({
    'name-equal': names,
    'name-case': names,
    'name-unicode': names,
    'name-extension': names,
    'name-differs': names,
    'name-added': { ...names, before: 'SG_', between: '', after: '' },
    'name-sequence': names,
    'name-version': names,
    'name-in-other-folder': names,
    'name-version-untold': names,
    'name-number': names,
    'name-copy': { ...names, mark: ' (2)' },
    'name-inside': { ...names, of: 'clip' },
    'name-similar': { ...names, hundredths: 88 },
    'folder-levels': { ...names, levels: 2, of: 3 },
    'folder-beside': names,
    'reel-equal': names,
    'reel-case': names,
    'reel-spelling': names,
    'reel-truncated': names,
    'reel-differs': names,
    'reel-in-path': { ...names, where: 'folder' },
    'reel-in-name': names,
    'start-equal': ranges,
    'start-within-a-frame': ranges,
    'start-differs': ranges,
    'both-count-from-zero': ranges,
    'used-inside': ranges,
    'used-partly': { ...ranges, uncoveredInFrames: 1 },
    'used-outside': { ...ranges, uncoveredInFrames: 1 },
    'length-equal': { inFrames: 1 },
    'length-within-a-frame': { inFrames: 250 },
    'length-differs': { edit: 251, file: 250 },
    'length-differs-covers': { edit: 250, file: 260 },
    'rate-equal': rates,
    'rate-nominal': rates,
    'rate-varies': rates,
    'rate-differs': rates,
    'raster-equal': rasters,
    'raster-scaled': rasters,
    'raster-differs': rasters,
    'content-equal': { ...names, by: 'hash' },
    'content-differs': { ...names, by: 'fingerprint' },
    'kind-equal': { edit: 'picture', file: 'picture' },
    'kind-sequence': { edit: 'picture', file: 'sequence' },
    'kind-differs': { edit: 'picture', file: 'sound' },
    'codec-equal': names,
    'codec-differs': names,
    'sound-equal': sounds,
    'sound-partly': sounds,
    'sound-differs': sounds,
    'size-equal': { edit: 1000, file: 1000 },
    'size-differs': { edit: 1000, file: 999 },
    'date-equal': { edit: 0, file: 0 },
    'date-within-two-seconds': { edit: 0, file: 1500 },
    'date-differs': { edit: 0, file: 9_000_000 },
    'edit-says-nothing': {},
    'file-says-nothing': {},
    'not-read-yet': {},
    'does-not-apply': {},
  });
  const said = (finding: Finding) => findingWords({ attribute: 'reel', verdict: 'nearly', finding } as Evidence, clip);

  test.each(findings)('$code: a sentence, and both sides as far as there are any', (finding) => {
    const { edit, file, sentence } = said(finding);
    isSaid(sentence);
    expect(sentence).not.toMatch(/\.$|^[A-Z]/);
    for (const side of [edit, file]) expect(side).not.toMatch(/undefined|NaN|\[object|null|false/);
    if ('edit' in finding) expect([edit, file].every((side) => side !== '')).toBe(true);
  });

  test('no two findings say the same of the same two sides', () => {
    areApart(findings.map((finding) => said(finding).sentence));
  });

  test('one and many: folders, frames, bytes', () => {
    const levels = (of: number, agree: number) =>
      said({ code: 'folder-levels', edit: 'a', file: 'b', levels: agree, of }).sentence;
    expect([levels(3, 0), levels(3, 1), levels(3, 3)]).toEqual([
      'no folder level agrees',
      '1 folder level of 3 agrees',
      'all folder levels agree',
    ]);
    const used = (uncoveredInFrames: number) => said({ code: 'used-outside', ...ranges, uncoveredInFrames }).sentence;
    expect([used(1), used(2)]).toEqual([
      'the one used frame lies outside the file',
      'all 2 used frames lie outside the file',
    ]);
    const size = (edit: number, file: number) => said({ code: 'size-differs', edit, file }).sentence;
    expect([size(10, 9), size(10, 5010)]).toEqual(['1 byte smaller', '5\u202f000 bytes larger']);
  });

  test('what was put to a name is told wherever it was put', () => {
    const added = (before: string, between: string, after: string) =>
      said({ code: 'name-added', ...names, before, between, after }).sentence;
    expect(added('', '_b_', '')).toBe('“_b_” put in between');
    expect(added('SG_', '', '_v2')).toBe('“SG_” added in front, “_v2” added behind');
  });
});

describe('why, and what it is now', () => {
  const whys = coded<Why>({
    'place-away': { placeId: 'p', placeName: 'KILN_A' },
    moved: { from: 'KILN_A/day1', to: 'KILN_B' },
    renamed: { from: 'a.mov', to: 'b.mov' },
    'moved-and-renamed': { from: 'KILN_A/a.mov', to: 'KILN_B', name: 'b.mov' },
    found: { to: 'KILN_B', name: 'b.mov' },
    several: { count: 2 },
    contested: { name: 'b.mov' },
    versions: { count: 3 },
    'too-many': { name: 'C0001.mov' },
    unreadable: { name: 'b.mov', folder: 'KILN_A' },
    'still-reading': {},
    'other-content': { name: 'b.mov', folder: 'KILN_A', differs: ['length'] },
    'volume-unknown': { volume: 'S:' },
    'taken-offline': {},
    gone: {},
  } as never);
  test.each(whys)('$code', (why) => {
    const sentence = whySentence(why);
    isSaid(sentence);
    for (const [field, value] of Object.entries(why))
      if (
        typeof value === 'string' &&
        !['code', 'from', 'placeId'].includes(field) &&
        !(why.code === 'found' && field === 'name')
      )
        expect(sentence).toContain(value);
  });
  test.each(whys)('$code as a reason that clips share: of places and folders, and of no file', (why) => {
    const reason = reasonText(why);
    isSaid(reason);
    for (const name of ['a.mov', 'b.mov', 'C0001.mov']) expect(reason).not.toContain(name);
    expect(reason).not.toMatch(/^[a-z]/);
  });
  test('no two say the same; namesakes are counted', () => {
    areApart(whys.map(whySentence));
    expect(whySentence({ code: 'gone', namesakes: 1 })).toContain('1 file of its name is another recording');
    expect(whySentence({ code: 'gone', namesakes: 20 })).toContain('20 files of its name are other recordings');
    expect(whySentence({ code: 'moved', from: '', to: 'KILN' })).toBe('moved: / → KILN');
  });

  const because = ['nothing-there', 'place-away', 'file-gone', 'not-read-yet', 'taken-offline'] as const;
  const statuses: Status[] = [
    { status: 'linked' },
    ...because.map((why): Status => ({ status: 'missing', because: why })),
    { status: 'changed', differs: [] },
    { status: 'changed', differs: ['length'] },
    { status: 'changed', differs: ['length', 'reel', 'rate'] },
    { status: 'unreadable', reason: { code: 'file-empty' } },
    { status: 'short', uncoveredInFrames: 1 },
    { status: 'short', uncoveredInFrames: 12 },
    { status: 'parked' },
    { status: 'waived', reason: '' },
    { status: 'waived', reason: 'a slate' },
  ];
  test.each(statuses)('%o', (status) => {
    isSaid(statusSentence(status));
    expect(statusSentence(status)).toMatch(/^[A-Z].*[.a-z]$/s);
  });
  test('no two statuses say the same', () => areApart(statuses.map(statusSentence)));
});

describe('what a reader noticed', () => {
  const fault = { code: 'not-timecode', text: '99:99' } as const;
  const rows = coded<RowFault>({
    'no-name': {},
    'timecode-impossible': { column: 'In', fault },
    'duration-not-understood': { column: 'Dur', text: 'long' },
    'rate-not-understood': { column: 'FPS', text: 'fast' },
    'ends-before-start': { start: '01:00:00:00', end: '00:59:00:00' },
    'too-many-cells': { cells: 7, columns: 1 },
    'quote-not-closed': {},
  });
  const remarks = coded<Remark>({
    'line-not-understood': { at: { line: 1 }, text: 'M2 ???' },
    'timecode-impossible': { at: { line: 2 }, fault },
    'lengths-differ': { at: { line: 3 }, sourceInFrames: 1, recordInFrames: 2 },
    'speed-disagrees': {
      at: { line: 4 },
      sourceInFrames: 1,
      recordInFrames: 1,
      framesPerSecond: 50,
      expectedInFrames: 2,
    },
    'record-overlap': { at: { line: 5 }, overlapInFrames: 1, withLine: 4 },
    'record-gap': { at: { line: 6 }, gapInFrames: 1, afterLine: 4 },
    'name-far-apart': { at: { line: 7 }, name: 'C0001.MOV', apartInSeconds: 33_576, afterLine: 4 },
    'speed-without-event': { at: { line: 7 }, text: 'M2 X 50' },
    'drop-frame-impossible': { at: { line: 8 }, text: 'FCM' },
    'transition-unknown': { at: { line: 9 }, text: 'Z9' },
    'schema-unknown': { at: { path: '/a' }, schema: 'Sparkle.3' },
    'schema-version-unknown': { at: { path: '/a' }, schema: 'Clip.9', known: 2 },
    'number-not-finite': { at: { path: '/a' }, text: '-Infinity' },
    'time-not-understood': { at: { path: '/a' }, what: 'source_range', value: 'x', rate: '' },
    'rate-unknown': { at: { path: '/a' }, value: '24' },
    'fraction-rounded-outward': { at: { path: '/a' }, value: 1.5 },
    'clip-without-range': { at: { path: '/a' }, name: 'bowl' },
    'reference-missing': { at: { path: '/a' }, name: 'bowl' },
    'child-not-understood': { at: { path: '/a' }, what: 'a number' },
    'row-skipped': { at: { line: 9 }, reason: { code: 'no-name' } },
    'media-in-bundle': { at: { path: '/' }, files: 1, bytes: 5000 },
    'more-of-these': { at: { line: 1 }, of: 'record-gap', count: 1 },
  } as never);

  test.each(remarks)('$code, with where it is', (remark) => {
    isSaid(remarkSentence(remark));
    expect(whereWords(remark)).toMatch(/^line \d+$|^\//);
  });
  test.each(rows)('a row: $code', (reason) => {
    isSaid(remarkSentence({ at: { line: 3 }, code: 'row-skipped', reason }));
  });
  test('no two remarks, and no two rows, say the same', () => {
    areApart(remarks.map(remarkSentence));
    areApart(rows.map((reason) => remarkSentence({ at: { line: 3 }, code: 'row-skipped', reason })));
  });

  const faults = coded<ReadFault>({
    'document-empty': {},
    'document-not-text': {},
    'document-too-large': { limitInBytes: 400_000_000 },
    'format-unknown': { known: ['EDL', 'OTIO'] },
    'json-broken': { line: 3, column: 9, detail: 'Unexpected token' },
    'nested-too-deep': { limit: 400 },
    'no-edit-inside': { found: 'a marker' },
    'bundle-broken': { detail: { code: 'zip-locked' } },
    'counts-too-far': { number: 9e30 },
    'rate-needed': { proposals: [] },
    'columns-needed': { columns: { roles: [] } },
  } as never);
  test.each(faults)('a document not read: $code', (readFault) => {
    isSaid(readFaultSentence(readFault));
    expect(readFaultSentence(readFault)).toMatch(/^[A-Z].*\.$/s);
  });
  test('no two of those say the same', () => areApart(faults.map(readFaultSentence)));

  const reasons = coded<RateProposal['reason']>({
    'drop-frame-stated': {},
    'lengths-agree': { agree: 3, of: 4 },
    stated: { line: 2 },
    'other-timelines': {},
    'largest-frame': { frame: 29, line: 7 },
    common: {},
  } as never);
  test('a proposed rate says what for', () => {
    const words = reasons.map((reason) => proposalWords({ rate: pal, reason }));
    areApart(words);
    for (const text of words) expect(text).toMatch(/^25 – /);
  });
});

import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { DocumentId } from '../model/ids.ts';
import { compareVersions, findNewer, versionOf, type KnownDocument, type WatchedFile } from './newer.ts';

const document = (name: string, ...sha256s: string[]): KnownDocument => ({
  ...{ id: name as DocumentId, name, sha256s },
  ...{ says: { format: 'edl', title: `title of ${name}` }, broughtInMs: 100 },
});
const file = (name: string, sha256 = `bytes of ${name}`, modifiedMs = 0): WatchedFile => ({
  ...{ name, sha256, modifiedMs, says: null },
});
const told = (files: readonly WatchedFile[], documents: readonly KnownDocument[]) =>
  findNewer(files, documents).map((n) => `${n.replaces} ← ${n.file.name}`);

describe('versions of one document, by name', () => {
  test.each([
    ['Saltglass cut 7.edl', 'saltglass_cut_8.EDL', -1],
    ['Saltglass cut 7.edl', 'Saltglass cut 7 v2.edl', -1],
    ['Saltglass cut 9.edl', 'Saltglass cut 10.edl', -1],
    ['saltglass v3.otio', 'saltglass v12.otio', -1],
    ['film.v2.edl', 'film.v1.edl', 1],
    ['cut 2026-11-26.edl', 'cut 2026-12-01.edl', -1],
    ['REEL_2 cut 4.edl', 'REEL_2 cut 5.edl', -1],
  ])('%s and %s', (a, b, order) => {
    expect(versionOf(a).stem).toBe(versionOf(b).stem);
    expect(Math.sign(compareVersions(versionOf(a).numbers, versionOf(b).numbers))).toBe(order);
  });
  test.each([
    ['SALTGLASS_REEL_2.edl', 'SALTGLASS_REEL_3.edl'],
    ['day 1.csv', 'day 2.csv'],
    ['Saltglass cut 7.edl', 'Saltglass cut 8.otio'],
    ['Saltglass cut 7.edl', 'Trailer cut 8.edl'],
    ['Saltglass cut 7.edl', 'Saltglass cut 8 music.edl'],
  ])('%s is no version of %s', (a, b) => {
    expect(versionOf(a).stem).not.toBe(versionOf(b).stem);
  });
});

describe('what of a folder is newer', () => {
  test('the same name with other bytes, or a name that counts on; nothing that was brought in', () => {
    const documents = [document('cut 7.edl', 'now', 'before'), document('trailer.otio', 't1')];
    expect(told([file('cut 7.edl', 'now'), file('trailer.otio', 't1')], documents)).toEqual([]);
    expect(told([file('cut 7.edl', 'before')], documents)).toEqual([]);
    expect(told([file('CUT 7.EDL', 'other'), file('trailer.otio', 't2')], documents)).toEqual([
      'cut 7.edl ← CUT 7.EDL',
      'trailer.otio ← trailer.otio',
    ]);
    expect(told([file('cut 6.edl'), file('music.edl')], documents)).toEqual([]);
  });

  test('only the newest is told, for the version right before it', () => {
    const documents = [document('cut 7.edl'), document('cut 3.edl')];
    expect(told([file('cut 8.edl'), file('cut 10.edl'), file('cut 9.edl'), file('cut 4.edl')], documents)).toEqual([
      'cut 7.edl ← cut 10.edl',
      'cut 3.edl ← cut 4.edl',
    ]);
    expect(told([file('cut_8.edl', 'a', 5), file('cut 8.edl', 'b', 9)], documents)).toEqual(['cut 7.edl ← cut 8.edl']);
  });

  test('written since, under the title of one document alone', () => {
    const says = { format: 'edl', title: 'SALTGLASS REEL 2' } as const;
    const reel = { ...document('reel 2.edl'), says };
    const tuesday = { ...file('reel 2 of tuesday.edl', 'x', 200), says };
    const other = { ...document('trailer.edl'), says: { format: 'edl', title: 'TRAILER' } as const };
    expect(told([tuesday], [reel, other])).toEqual(['reel 2.edl ← reel 2 of tuesday.edl']);
    expect(told([{ ...tuesday, modifiedMs: 50 }], [reel])).toEqual([]);
    expect(told([{ ...tuesday, says: { ...says, format: 'otio' } }], [reel])).toEqual([]);
    expect(told([{ ...tuesday, says: null }], [reel])).toEqual([]);
    expect(told([tuesday], [reel, { ...document('copy of it.edl'), says }])).toEqual([]);
    // A name that counts versions is believed before a title: it counts back.
    expect(told([{ ...tuesday, name: 'cut 3.edl' }], [{ ...document('cut 7.edl'), says }])).toEqual([]);
  });

  test('nothing is proposed where two documents have as good a claim', () => {
    expect(told([file('cut 8.edl')], [document('cut 7.edl'), document('cut_07.edl')])).toEqual([]);
  });

  test('whatever lies there: known bytes are never news, and each document and file are told once', () => {
    const name = fc.constantFrom(
      'cut 7.edl',
      'cut 8.edl',
      'cut_8.edl',
      'cut 9 v2.edl',
      'trailer.edl',
      'x.csv',
      '7.edl',
    );
    const sha = fc.constantFrom('a', 'b', 'c', 'd');
    const docs = fc.uniqueArray(fc.tuple(name, sha), { selector: ([n]) => n });
    fc.assert(
      fc.property(fc.array(fc.tuple(name, sha, fc.nat(9))), docs, (given, known) => {
        const documents = known.map(([n, s]) => document(n, s));
        const files = given.map(([n, s, at]) => file(n, s, at));
        const newer = findNewer(files, documents);
        const bytes = new Set(documents.flatMap((d) => d.sha256s));
        expect(newer.every((n) => !bytes.has(n.file.sha256))).toBe(true);
        expect(new Set(newer.map((n) => n.replaces)).size).toBe(newer.length);
        expect(new Set(newer.map((n) => n.file)).size).toBe(newer.length);
        // In whatever order they lie there, the same files are told.
        const turned = findNewer(files.toReversed(), documents);
        const names = (list: typeof newer) =>
          list.map((n) => `${n.replaces} ${versionOf(n.file.name).numbers.join('.')}`);
        expect(names(turned).sort()).toEqual(names(newer).sort());
      }),
    );
  });
});

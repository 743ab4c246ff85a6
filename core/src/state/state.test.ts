import { describe, expect, test } from '@jest/globals';
import type { EditEvent, Timeline } from '../model/edit.ts';
import { withUsedRanges } from '../model/uses.ts';
import { rate } from '../time/rate.ts';
import { buildClip, buildEvent, buildFile, fileId } from '../testing/build.ts';
import { certainLink, type ToLink } from './certain.ts';
import { clipsInScope } from './scope.ts';
import { deriveStatus, isDark, statusWhileAway } from './status.ts';
import { judge, judgeOnceLinked, seenOf, tiedTo, wasReplaced } from './tie.ts';

const at25 = rate(25);
const timeline = (key: string, top: boolean, events: readonly EditEvent[]): Timeline => ({
  key,
  name: key,
  rate: at25,
  counting: 'non-drop',
  start: 0,
  length: Math.max(...events.map((e) => e.record.end)),
  top,
  events,
});
const shows = (what: Partial<EditEvent>, from: number, record: [number, number]) =>
  buildEvent({
    ...what,
    address: what.clipKey ?? what.nestedKey ?? '',
    source: { start: from, end: from + record[1] - record[0] },
    record: { start: record[0], end: record[1] },
  });

describe('what a scope reaches', () => {
  const clips = ['bowl', 'door', 'kiln', 'yard'].map((key) => ({ key, rate: at25 }));
  // The nest holds three clips of a hundred frames each; the film shows frames 120 to 180 of it, the trailer 20 to 30.
  const nest = timeline('nest', false, [
    shows({ clipKey: 'bowl' }, 1000, [0, 100]),
    shows({ clipKey: 'door' }, 2000, [100, 200]),
    shows({ clipKey: 'kiln' }, 3000, [200, 300]),
  ]);
  const film = timeline('film', true, [shows({ nestedKey: 'nest' }, 120, [0, 60])]);
  const trailer = timeline('trailer', true, [
    shows({ nestedKey: 'nest' }, 20, [0, 10]),
    shows({ clipKey: 'yard' }, 5, [10, 20]),
  ]);
  const edit = { clips, timelines: [film, trailer, nest] };

  test('a nested clip that the nest’s window trims away is out of it; of the rest, the frames that are shown', () => {
    expect([...clipsInScope(edit, new Set(['film']))]).toEqual([
      ['door', { timelineKeys: new Set(['film']), reads: new Map([['door', { start: 2020, end: 2080 }]]) }],
    ]);
    expect([...clipsInScope(edit, new Set(['trailer'])).keys()]).toEqual(['bowl', 'yard']);
    expect([...clipsInScope(edit, null).keys()].sort()).toEqual(['bowl', 'door', 'yard']);
  });

  test('an event that shows through two nests has to be served by one file: what lies between is read as well', () => {
    const later = timeline('later', true, [
      shows({ nestedKey: 'nest' }, 5, [0, 10]),
      shows({ nestedKey: 'nest' }, 70, [10, 20]),
    ]);
    expect(clipsInScope({ clips, timelines: [later, nest] }, null).get('bowl')!.reads).toEqual(
      new Map([['bowl', { start: 1005, end: 1080 }]]),
    );
  });

  test('a stretch of a timeline takes what it shows, also through nests; a clip that it cuts is read as far as it shows', () => {
    const reads = (window: { start: number; end: number }) =>
      Object.fromEntries(
        [...clipsInScope(edit, null, new Map([['trailer', window]]))].map(([key, of]) => [key, [...of.reads.values()]]),
      );
    const door = [{ start: 2020, end: 2080 }];
    expect(reads({ start: 4, end: 7 })).toEqual({ door, bowl: [{ start: 1024, end: 1027 }] });
    expect(reads({ start: 8, end: 12 })).toEqual({
      door,
      bowl: [{ start: 1028, end: 1030 }],
      yard: [{ start: 5, end: 7 }],
    });
    expect(reads({ start: 300, end: 400 })).toEqual({ door });
  });

  test('a timeline that is not there, and a nest by itself, reach nothing', () => {
    expect(clipsInScope(edit, new Set(['nest'])).size).toBe(0);
    expect(clipsInScope(edit, new Set()).size).toBe(0);
  });
});

describe('a clip of which nests show nothing', () => {
  const [bowl, door, yard] = ['bowl', 'door', 'yard'].map((key) => ({
    ...buildClip(`/Volumes/KILN_A/${key}.mov`),
    key,
  }));
  const nest = timeline('nest', false, [
    shows({ clipKey: 'bowl' }, 1000, [0, 100]),
    shows({ clipKey: 'door' }, 1000, [100, 200]),
  ]);
  const film = (from: number) => timeline('film', true, [shows({ nestedKey: 'nest' }, from, [0, 60])]);
  const trimmedIn = (...timelines: Timeline[]) =>
    withUsedRanges([bowl!, door!, yard!], timelines)
      .filter((c) => c.isTrimmedAway)
      .map((c) => c.key);

  test('is one that stands in a nest alone, outside of every window; a clip that no timeline has is none', () => {
    expect(trimmedIn(film(110), nest)).toEqual(['bowl']);
    expect(trimmedIn(film(60), nest)).toEqual([]);
    expect(trimmedIn(film(10), nest)).toEqual(['door']);
    // Another cut shows it.
    const other = { ...film(130), key: 'other' };
    expect(trimmedIn(film(10), other, nest)).toEqual([]);
    const direct = timeline('direct', true, [shows({ clipKey: 'door' }, 1000, [0, 5])]);
    expect(trimmedIn(film(10), direct, nest)).toEqual([]);
  });

  test('is dark for no reason but says so, is linked as ever, and stays waived where a person said why', () => {
    const clip = { ...bowl!, used: [], isTrimmedAway: true };
    const parked = { as: 'parked', reason: '' } as const;
    const waived = { as: 'waived', reason: 'a slug' } as const;
    const unshown = { status: 'unshown' };
    expect(deriveStatus({ clip, tied: null, setAside: null })).toEqual(unshown);
    expect(deriveStatus({ clip, tied: null, takenOffline: true, setAside: null })).toEqual(unshown);
    expect(deriveStatus({ clip, tied: null, unusable: { code: 'file-empty' }, setAside: null })).toEqual(unshown);
    expect(deriveStatus({ clip, tied: null, setAside: parked })).toEqual(unshown);
    expect(deriveStatus({ clip, tied: null, setAside: waived })).toEqual({ status: 'waived', reason: 'a slug' });
    expect(statusWhileAway({ clip, setAside: null })).toEqual(unshown);
    expect(statusWhileAway({ clip: bowl!, setAside: null })).toMatchObject({ status: 'missing' });
    const file = buildFile('KILN_A/bowl.mov');
    const tied = { file, gone: false, place: { name: 'KILN_A', there: true } };
    const link = { mediaFileId: file.id, seen: seenOf(file) };
    const judged = judge({ ...clip, link, takenOffline: false, setAside: null }, clip, tied, {
      acceptance: null,
      unusable: null,
    });
    expect(judged.status).toEqual({ status: 'linked' });
    expect(isDark('unshown')).toBe(false);
  });
});

describe('what ties a clip', () => {
  const film = buildFile('KILN_A/day1/bowl.mov');
  const link = { mediaFileId: fileId('linked'), seen: seenOf(film) };
  const whereRemembered = fileId('lying');

  test('its link, else what lies where the edit says; nothing of that where it was untied on purpose', () => {
    expect(tiedTo({ link, takenOffline: true, whereRemembered })).toBe('linked');
    expect(tiedTo({ link: null, takenOffline: false, whereRemembered })).toBe('lying');
    expect(tiedTo({ link: null, takenOffline: true, whereRemembered })).toBeNull();
  });

  test('another file in its place is noticed by its content, else by what it measures; unread it is not accused', () => {
    const seen = { ...seenOf(film), fingerprint: 'f1' };
    expect(wasReplaced(seen, { ...film, fingerprint: 'f1' })).toBe(false);
    expect(wasReplaced(seen, { ...film, fingerprint: 'f2' })).toBe(true);
    // The same content, measured better since.
    expect(wasReplaced(seen, { ...film, fingerprint: 'f1', facts: { ...film.facts!, length: 7 } })).toBe(false);
    expect(wasReplaced(seen, { ...film, fingerprint: null })).toBe(false);
    expect(wasReplaced(seen, { ...film, facts: { ...film.facts!, length: 7 } })).toBe(true);
    expect(wasReplaced(seen, { ...film, facts: null })).toBe(false);
  });

  test('a preview promises what is said afterwards', () => {
    const clip = { ...buildClip('/Volumes/KILN_A/day1/bowl.mov'), takenOffline: false, setAside: null };
    const placed = { file: film, gone: false, place: { name: 'KILN_A', there: true } };
    const files = [film, { ...film, facts: { ...film.facts!, length: 20 } }, { ...film, facts: null }];
    for (const file of files)
      for (const there of [true, false])
        for (const interpretation of [null, { countedAt: null, shiftInFrames: 250 }]) {
          const tied = { ...placed, file, place: { name: 'KILN_A', there } };
          const shift = interpretation?.shiftInFrames ?? 0;
          const move = <R extends { start: number; end: number }>(r: R) => ({
            start: r.start + shift,
            end: r.end + shift,
          });
          const then = { ...clip, available: clip.available && move(clip.available), used: clip.used.map(move) };
          const linked = { ...then, link: { mediaFileId: file.id, seen: seenOf(file) } };
          expect(judgeOnceLinked(clip, clip, tied, { acceptance: null, interpretation })).toEqual(
            judge(linked, then, tied, { acceptance: null, unusable: null }).status,
          );
        }
  });
});

test('a rule links what is dark, certain, not set aside, not untied on purpose, and not tied to it already', () => {
  const mediaFileId = fileId('f');
  const sure: ToLink = {
    decision: { kind: 'certain', mediaFileId, grounds: 'content', second: null, copies: [] },
    status: 'missing',
    isSetAside: false,
    takenOffline: false,
    tiedTo: null,
  };
  expect(certainLink(sure)).toBe(mediaFileId);
  expect(certainLink({ ...sure, status: 'changed', tiedTo: fileId('other') })).toBe(mediaFileId);
  // What nests trim away is missed by nobody, and right all the same when somebody moves the nest.
  expect(certainLink({ ...sure, status: 'unshown' })).toBe(mediaFileId);
  const not: Partial<ToLink>[] = [
    { tiedTo: mediaFileId },
    { takenOffline: true },
    { decision: null },
    { decision: { kind: 'nothing' } },
    { status: 'linked' },
    { status: 'waived' },
    { isSetAside: true },
    { status: 'unshown', isSetAside: true },
  ];
  for (const change of not) expect(certainLink({ ...sure, ...change })).toBeNull();
});

import { describe, expect, it } from '@jest/globals';
import type { ClipId, MediaFileId, PlaceId } from '../model/ids.ts';
import { acceptsAll } from '../model/acceptance.ts';
import { buildFacts } from '../testing/index.ts';
import { rate } from '../time/rate.ts';
import {
  checkHealth,
  isAtHome,
  nameFaultOf,
  proposeHome,
  type ClipToCheck,
  type FileToCheck,
  type HealthCheck,
  type HealthInput,
} from './index.ts';

const kiln = 'kiln' as PlaceId;
const shed = 'shed' as PlaceId;
const pal = rate(25);
let made = 0;
const file = (name: string, given: Partial<FileToCheck> = {}): FileToCheck => {
  made += 1;
  return {
    id: `f${made}` as MediaFileId,
    placeId: kiln,
    folder: 'rushes',
    name,
    sizeInBytes: 100,
    facts: buildFacts({ rate: pal }),
    fingerprint: `print ${made}`,
    isTried: true,
    clipIds: [`c${made}` as ClipId],
    ...given,
  };
};
const clip = (name: string, given: Partial<ClipToCheck> = {}): ClipToCheck => ({
  id: name as ClipId,
  name,
  reel: 'A001',
  rate: '25',
  holds: { start: 90_000, end: 90_050 },
  shows: { start: 90_000, end: 90_050 },
  recording: name,
  isPicture: true,
  setAside: null,
  ...given,
});
const input = (given: Partial<HealthInput>): HealthInput => ({
  home: null,
  places: [
    { id: kiln, name: 'KILN', path: '/mnt/kiln', isRemovable: false, room: null },
    { id: shed, name: 'SHED', path: '/mnt/shed', isRemovable: true, room: null },
  ],
  files: [],
  beside: [],
  clips: [],
  copied: new Set((given.files ?? []).flatMap((f) => f.fingerprint ?? [])),
  timelineRates: [pal],
  acceptance: null,
  headroomShare: 0.2,
  ...given,
});
const found = (check: HealthCheck, given: Partial<HealthInput>) =>
  checkHealth(input(given)).filter((f) => f.check === check);
const paths = (check: HealthCheck, given: Partial<HealthInput>) =>
  found(check, given).map(({ subject }) => ('path' in subject ? subject.path : 'name' in subject ? subject.name : ''));

describe('where media lie', () => {
  it('finds nothing in a project that is well', () => {
    const files = [file('a.mov'), file('b.mov')];
    expect(checkHealth(input({ files, home: { placeId: kiln, folder: 'rushes' }, clips: [clip('a')] }))).toEqual([]);
  });

  it('tells what lies outside of home, and not what only begins like it', () => {
    const files = [
      file('a.mov'),
      file('b.mov', { folder: 'rushes/day 1' }),
      file('c.mov', { folder: 'rushes 2' }),
      file('d.mov', { placeId: shed }),
    ];
    expect(paths('outside-home', { files, home: { placeId: kiln, folder: 'rushes' } })).toEqual([
      'KILN/rushes 2/c.mov',
      'SHED/rushes/d.mov',
    ]);
    expect(found('outside-home', { files })).toEqual([]);
    expect(isAtHome({ placeId: kiln, folder: '' }, files[2]!)).toBe(true);
  });

  it('proposes the folder that most of what is used has in common, by bytes', () => {
    const files = [
      file('a.mov', { folder: 'film/rushes/day 1', sizeInBytes: 60 }),
      file('b.mov', { folder: 'film/rushes/day 2', sizeInBytes: 60 }),
      file('c.wav', { folder: 'film/sound', sizeInBytes: 1 }),
      file('d.mov', { placeId: shed, folder: 'x', sizeInBytes: 100 }),
    ];
    expect(proposeHome(files)).toEqual({ placeId: kiln, folder: 'film' });
    expect(proposeHome([file('a.mov', { folder: '' }), file('b.mov', { folder: 'in' })])).toEqual({
      placeId: kiln,
      folder: '',
    });
    expect(proposeHome([])).toBeNull();
  });

  it('tells desktops, downloads, removable drives and cards by where they lie', () => {
    const files = [
      file('a.mov', { folder: 'Desktop/film' }),
      file('b.mov', { folder: 'film/Desktops' }),
      file('c.mov', { placeId: shed }),
      file('d.mov', { folder: 'DCIM/100KILN' }),
      file('e.mov', { folder: 'cards/DCIM' }),
    ];
    expect(paths('in-passing', { files })).toEqual(['KILN/Desktop/film/a.mov']);
    expect(paths('on-card', { files })).toEqual(['SHED/rushes/c.mov', 'KILN/DCIM/100KILN/d.mov']);
    const places = [{ id: kiln, name: 'KILN', path: '/home/gaffer/Downloads', isRemovable: false, room: null }];
    expect(paths('in-passing', { files: [file('f.mov')], places })).toEqual(['KILN/rushes/f.mov']);
  });

  it('tells what has no copy in another place, where content was measured', () => {
    const files = [file('a.mov', { fingerprint: 'one' }), file('b.mov', { fingerprint: 'two' })];
    const unmeasured = file('c.mov', { fingerprint: null });
    expect(paths('only-copy', { files: [...files, unmeasured], copied: new Set(['two']) })).toEqual([
      'KILN/rushes/a.mov',
    ]);
  });

  it('tells drives that are nearly full, if they hold something of the project', () => {
    const full = { freeInBytes: 19, totalInBytes: 100 };
    const places = [
      { id: kiln, name: 'KILN', path: '/mnt/kiln', isRemovable: false, room: full },
      { id: shed, name: 'SHED', path: '/mnt/shed', isRemovable: false, room: full },
    ];
    expect(found('headroom', { files: [file('a.mov')], places })[0]).toMatchObject({
      key: kiln,
      subject: { what: 'place', name: 'KILN', freeInBytes: 19, wantedInBytes: 20 },
    });
    expect(found('headroom', { files: [file('a.mov')], places })).toHaveLength(1);
  });

  it('tells folders of what nobody uses, only of places in use', () => {
    const beside = [file('x.mov'), file('y.mov'), file('z.mov', { folder: 'old' }), file('q.mov', { placeId: shed })];
    expect(found('unused', { files: [file('a.mov')], beside })).toMatchObject([
      { subject: { path: 'KILN/rushes', files: 2 }, sizeInBytes: 200 },
      { subject: { path: 'KILN/old', files: 1 } },
    ]);
  });
});

describe('how media are called', () => {
  it('tells several recordings of one name, and no copies of one', () => {
    const files = [
      file('C0001.mov', { folder: 'card 1' }),
      file('c0001.MOV', { folder: 'card 2' }),
      file('b.mov', { folder: 'card 1', fingerprint: 'same' }),
      file('b.mov', { folder: 'card 2', fingerprint: 'same' }),
    ];
    const [one, ...others] = found('same-name', { files });
    expect(others).toEqual([]);
    expect(one).toMatchObject({ mediaFileIds: [files[0]!.id, files[1]!.id], sizeInBytes: 200 });
  });

  it.each([
    ['a:b.mov', 'characters'],
    ['take 1?.mov', 'characters'],
    ['a.mov ', 'ending'],
    ['rushes.', 'ending'],
    ['aux.mov', 'device'],
    [`${'n'.repeat(250)}.mov`, 'length'],
    ['cafe\u0301.mov', 'form'],
    ['Süß 硝子.mov', null],
    ['day 1 (2).mov', null],
  ] as const)('says of the name %s: %s', (name, fault) => {
    expect(nameFaultOf(name)).toBe(fault);
  });

  it('tells unsafe folders as well as names, and what would be safe', () => {
    const files = [file('a.mov', { folder: 'day 1: fire' }), file('ok.mov')];
    expect(found('unsafe-name', { files }).map((f) => f.subject)).toEqual([
      { what: 'name', path: 'KILN/day 1: fire/a.mov', part: 'day 1: fire', fault: 'characters', safe: 'day 1_ fire' },
    ]);
  });

  it('tells names of one folder that only case keeps apart, also of files that nobody uses', () => {
    const files = [file('Fire.mov'), file('glass.mov')];
    const beside = [file('fire.MOV'), file('GLASS.mov', { folder: 'other' })];
    expect(found('case-twins', { files, beside }).map((f) => f.subject)).toEqual([
      { what: 'files', name: 'Fire.mov', paths: ['KILN/rushes/Fire.mov', 'KILN/rushes/fire.MOV'] },
    ]);
  });

  it('tells picture with timecode and no reel, and recordings of one reel that overlap', () => {
    const clips = [
      clip('a'),
      clip('b', { holds: { start: 90_040, end: 90_100 } }),
      clip('c', { reel: 'B001' }),
      clip('d', { reel: null }),
      clip('e', { reel: null, holds: null }),
      clip('f', { reel: null, isPicture: false }),
    ];
    expect(paths('reel-missing', { clips })).toEqual(['d']);
    expect(found('reel-overlaps', { clips })).toMatchObject([
      { key: 'A001 2', clipIds: ['a', 'b'], subject: { reel: 'A001', names: ['a', 'b'] } },
    ]);
  });
});

describe('what media are, and what was left', () => {
  it('tells picture at a rate that no timeline has; sound has none', () => {
    const files = [
      file('a.mov', { facts: buildFacts({ rate: rate(24) }) }),
      file('b.mov'),
      file('c.wav', { facts: buildFacts({ kind: 'sound', rate: rate(24) }) }),
    ];
    expect(paths('other-rate', { files })).toEqual(['KILN/rushes/a.mov']);
    expect(paths('other-rate', { files, timelineRates: [] })).toEqual([]);
    expect(paths('other-rate', { files, timelineRates: [pal, rate(24)] })).toEqual([]);
  });

  it('tells what the project does not accept, and why', () => {
    const files = [file('a.mov', { facts: buildFacts({ codec: 'strange' }) }), file('b.mov')];
    const acceptance = { ...acceptsAll, codecs: [files[1]!.facts!.codec!] };
    expect(found('not-accepted', { files, acceptance })).toMatchObject([
      { mediaFileIds: [files[0]!.id], subject: { refusal: { what: 'codec', found: 'strange' } } },
    ]);
    expect(found('not-accepted', { files })).toEqual([]);
  });

  it('tells what was never read to its end, and what was set aside for more than a week', () => {
    expect(paths('never-tried', { files: [file('a.mov', { isTried: false }), file('b.mov')] })).toEqual([
      'KILN/rushes/a.mov',
    ]);
    const aside = (days: number) => ({ as: 'parked' as const, reason: 'later', days });
    const clips = [clip('a', { setAside: aside(7) }), clip('b', { reel: 'B', setAside: aside(8) })];
    expect(found('left-aside', { clips }).map((f) => f.subject)).toEqual([
      { what: 'left', name: 'b', as: 'parked', reason: 'later', days: 8 },
    ]);
  });

  it('takes several together for another finding when one more comes: it was not accepted', () => {
    const namesakes = [file('C0001.mov'), file('C0001.mov', { folder: 'b' }), file('C0001.mov', { folder: 'c' })];
    const key = (files: typeof namesakes) => found('same-name', { files })[0]!.key;
    expect(key(namesakes.slice(0, 2))).not.toBe(key(namesakes));
    const beside = [file('x.mov'), file('y.mov')];
    const unused = (n: number) => found('unused', { files: [file('a.mov')], beside: beside.slice(0, n) })[0]!.key;
    expect(unused(1)).not.toBe(unused(2));
    expect(unused(2)).toBe(unused(2));
  });

  it('gives the same thing the same key, whatever else is found', () => {
    const files = [file('a.mov', { isTried: false }), file('b.mov', { isTried: false })];
    const keys = found('never-tried', { files }).map((f) => f.key);
    expect(found('never-tried', { files: files.slice(1) }).map((f) => f.key)).toEqual(keys.slice(1));
  });
});

import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { rate } from '../time/rate.ts';
import { readDocument, relinkDocument } from './index.ts';
import type { Edit } from '../model/edit.ts';
import type { Remark } from '../remarks/remark.ts';
import { encodeText } from './text.ts';

const bytes = (text: string) => encodeText({ text, encoding: 'utf-8' });
const text = (content: Uint8Array) => new TextDecoder().decode(content);
const pal = rate(25);

function read(
  content: string | Uint8Array,
  options: { rate?: ReturnType<typeof rate>; name?: string } = { rate: pal },
): { edit: Edit; remarks: readonly Remark[] } {
  const result = readDocument(typeof content === 'string' ? bytes(content) : content, { name: 'list.edl', ...options });
  if (result.format === null || !result.result.ok) throw new Error(`not read: ${JSON.stringify(result)}`);
  return result.result;
}
function faultOf(content: string | Uint8Array, options: { rate?: ReturnType<typeof rate> } = {}) {
  const result = readDocument(typeof content === 'string' ? bytes(content) : content, { name: 'x', ...options });
  if (result.format === null) return result.fault;
  if (result.result.ok) throw new Error('was read');
  return result.result.fault;
}
const path = (p: string) => ({ path: p, sequence: null });

const list = [
  'TITLE: FURNACE REEL',
  'FCM: NON-DROP FRAME',
  '001  A001     V     C        01:00:00:00 01:00:04:00 10:00:00:00 10:00:04:00',
  '* FROM CLIP NAME: bowl.mov',
  '* SOURCE FILE: E:\\Saltglass\\bowl.mov',
  'M2   A001       050.0       01:00:00:00',
  '002  A001     V     C        01:00:08:00 01:00:08:00 10:00:04:00 10:00:04:00',
  '002  B002     V     D    025 02:00:00:00 02:00:03:00 10:00:04:00 10:00:07:00',
  '* FROM CLIP NAME: bowl.mov',
  '* TO CLIP NAME: door.mov',
  '003  BL       V     C        00:00:00:00 00:00:01:00 10:00:07:00 10:00:08:00',
  '004  AX       AA    C        00:00:00:00 00:00:02:00 10:00:08:00 10:00:10:00',
  '* FROM CLIP NAME: song.wav',
  'kiln notes nobody asked for',
  '',
].join('\r\n');

describe('EDL', () => {
  test('events, clips and used ranges, with speed and the frames under a dissolve', () => {
    const { edit } = read(list);
    expect(edit.title).toBe('FURNACE REEL');
    expect(edit.timelines[0]).toMatchObject({ start: 900_000, length: 250, counting: 'non-drop' });
    expect(edit.clips.map((c) => [c.name, c.reel, c.remembered, c.used])).toEqual([
      // M2 at 50 fps reads 200 frames for 100 recorded.
      ['bowl.mov', 'A001', 'E:\\Saltglass\\bowl.mov', [{ start: 90_000, end: 90_200 }]],
      ['bowl.mov', 'A001', null, [{ start: 90_200, end: 90_225 }]],
      ['door.mov', 'B002', null, [{ start: 180_000, end: 180_075 }]],
      ['song.wav', null, null, [{ start: 0, end: 50 }]],
    ]);
    expect(edit.timelines[0]!.events.map((e) => [e.number, e.track, e.clipKey !== null])).toEqual([
      [1, 'V', true],
      [2, 'V', true],
      [2, 'V', true],
      [3, 'V', false],
      [4, 'AA', true],
    ]);
  });

  test('a line nobody knows is remarked with its number and stays in the export', () => {
    const { remarks } = read(list);
    expect(remarks).toEqual([{ at: { line: 14 }, code: 'line-not-understood', text: 'kiln notes nobody asked for' }]);
    expect(text(relinkDocument(bytes(list), 'edl', new Map()))).toBe(list);
  });

  test('impossible timecode, overlap and unequal lengths are remarked by line; the rest is read', () => {
    const { edit, remarks } = read(
      [
        '001  R1 V C 01:00:00:00 01:00:02:00 10:00:00:00 10:00:02:00',
        '002  R1 V C 01:00:00:30 01:00:02:00 10:00:02:00 10:00:04:00',
        '003  R1 V C 01:00:00:00 01:00:02:00 10:00:01:00 10:00:02:12',
      ].join('\n'),
    );
    expect(edit.timelines[0]!.events.map((e) => e.number)).toEqual([1, 3]);
    expect(remarks.map((r) => [r.code, 'line' in r.at && r.at.line])).toEqual([
      ['timecode-impossible', 2],
      ['lengths-differ', 3],
      ['record-overlap', 3],
    ]);
  });

  test('without a rate it asks, and proposes by what the list shows', () => {
    const fault = (body: string) => faultOf(body);
    expect(fault('FCM: DROP FRAME\n001 R V C 00:00:00:00 00:00:01:00 00:00:00:00 00:00:01:00')).toMatchObject({
      code: 'rate-needed',
      proposals: [{ rate: { num: 30000, den: 1001 } }, { rate: { num: 60000, den: 1001 } }],
    });
    expect(fault('001 R V C 00:00:00:00 00:00:01:24 00:00:00:00 00:00:01:24')).toMatchObject({
      code: 'rate-needed',
      proposals: expect.arrayContaining([
        { rate: { num: 25, den: 1 }, reason: { code: 'largest-frame', frame: 24, line: 1 } },
      ]) as unknown,
    });
  });

  test('drop-frame is counted as the list says, though it writes colons', () => {
    const { edit } = read('FCM: DROP FRAME\n001 R1 V C 01:00:00:00 01:01:00:02 01:00:00:00 01:01:00:02', {
      rate: rate(30000, 1001),
    });
    expect(edit.clips[0]!.used).toEqual([{ start: 107_892, end: 107_892 + 1800 }]);
  });

  test('relinking changes source files and nothing else: encoding, line ends, unknown lines and names stay', () => {
    const { edit } = read(list);
    const [known, bare] = edit.clips;
    const changes = new Map(
      [...known!.addresses, ...bare!.addresses].map((a) => [a, path('/bay/KILN_B/bowl $& new.mov')]),
    );
    const out = text(relinkDocument(bytes(list), 'edl', changes));
    const [before, after] = [list.split('\r\n'), out.split('\r\n')];
    expect(after.filter((line) => !before.includes(line))).toEqual([
      '* SOURCE FILE: /bay/KILN_B/bowl $& new.mov',
      '* SOURCE FILE: /bay/KILN_B/bowl $& new.mov',
    ]);
    expect(after.filter((line) => !line.startsWith('* SOURCE FILE'))).toEqual(
      before.filter((line) => !line.startsWith('* SOURCE FILE')),
    );
    expect(read(out).edit.clips.map((c) => c.remembered)).toEqual(['/bay/KILN_B/bowl $& new.mov', null, null]);
  });

  test('a generated list comes back with every event, and is stable through a relink', () => {
    const event = fc.record({
      reel: fc.constantFrom('A001', 'B-002', 'LONGREELNAME'),
      from: fc.nat(80_000),
      length: fc.integer({ min: 1, max: 500 }),
      name: fc.constantFrom('bowl.mov', 'salt sack.jpg', 'vo.wav'),
    });
    fc.assert(
      fc.property(fc.array(event, { minLength: 1, maxLength: 30 }), (events) => {
        let record = 0;
        const tc = (f: number) =>
          [f / 90_000, (f / 1500) % 60, (f / 25) % 60, f % 25]
            .map((n) => String(Math.floor(n)).padStart(2, '0'))
            .join(':');
        const body = events.flatMap((e, i) => {
          const line = `${String(i + 1).padStart(3, '0')}  ${e.reel} V C ${tc(e.from)} ${tc(e.from + e.length)} ${tc(record)} ${tc(record + e.length)}`;
          record += e.length;
          return [line, `* FROM CLIP NAME: ${e.name}`];
        });
        const source = body.join('\n');
        const { edit, remarks } = read(source);
        expect(remarks).toEqual([]);
        expect(edit.timelines[0]!.events.map((e) => e.source)).toEqual(
          events.map((e) => ({ start: e.from, end: e.from + e.length })),
        );
        const relinked = text(
          relinkDocument(
            bytes(source),
            'edl',
            new Map(edit.clips.flatMap((c) => c.addresses.map((a) => [a, path(`/x/${c.name}`)] as const))),
          ),
        );
        const again = read(relinked).edit;
        expect(again.timelines[0]!.events.map((e) => [e.source, e.record])).toEqual(
          edit.timelines[0]!.events.map((e) => [e.source, e.record]),
        );
        expect(again.clips.every((c) => c.remembered === `/x/${c.name}`)).toBe(true);
      }),
      { numRuns: 40 },
    );
  });
});

const time = (value: number, r = 25) => `{"OTIO_SCHEMA": "RationalTime.1", "rate": ${r}, "value": ${value}}`;
const span = (start: number, length: number, r = 25) =>
  `{"OTIO_SCHEMA": "TimeRange.1", "duration": ${time(length, r)}, "start_time": ${time(start, r)}}`;
const external = (url: string, available: string) =>
  `{"OTIO_SCHEMA": "ExternalReference.1", "metadata": {"cam": {"reel": "A001", "width": 1280, "height": 720, "serial": 9007199254740993}}, "name": "", "available_range": ${available}, "target_url": "${url}"}`;
const clip = (name: string, range: string, reference: string, more = '') =>
  `{"OTIO_SCHEMA": "Clip.2", "name": "${name}", "source_range": ${range}, ${more}"media_references": {"DEFAULT_MEDIA": ${reference}}, "active_media_reference_key": "DEFAULT_MEDIA"}`;
const track = (children: string[], kind = 'Video') =>
  `{"OTIO_SCHEMA": "Track.1", "kind": "${kind}", "children": [${children.join(', ')}]}`;
const timeline = (tracks: string[]) =>
  `{"OTIO_SCHEMA": "Timeline.1", "name": "cut", "global_start_time": ${time(900000)}, "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [${tracks.join(', ')}]}}`;

describe('OTIO', () => {
  const bowl = external('file:///Volumes/KILN/day%201/bowl.mov', span(1000, 500));
  const dissolve = `{"OTIO_SCHEMA": "Transition.1", "transition_type": "SMPTE_Dissolve", "in_offset": ${time(10)}, "out_offset": ${time(15)}}`;

  test('used ranges reach under transitions and follow speed; positions are exact across rates', () => {
    const slow = clip(
      'bowl',
      span(1300, 50),
      bowl,
      '"effects": [{"OTIO_SCHEMA": "LinearTimeWarp.1", "time_scalar": 2.0}], ',
    );
    const film = clip('film', span(0, 24, 24), external('film.mov', span(0, 240, 24)));
    const { edit, remarks } = read(
      timeline([
        track([clip('bowl', span(1100, 100), bowl), dissolve, clip('bowl', span(1200, 50), bowl), film, slow]),
      ]),
    );
    expect(remarks).toEqual([]);
    expect(edit.clips).toHaveLength(2);
    expect(edit.clips[0]).toMatchObject({
      reel: 'A001',
      raster: { width: 1280, height: 720 },
      available: { start: 1000, end: 1500 },
      kind: 'picture',
    });
    // 1100–1200 and 15 frames past the cut; 1200–1250 from 10 frames before it; 1300 for 50 frames at double speed.
    expect(edit.clips[0]!.used).toEqual([
      { start: 1100, end: 1250 },
      { start: 1300, end: 1400 },
    ]);
    expect(edit.timelines[0]!.events.map((e) => e.record)).toEqual([
      { start: 900_000, end: 900_100 },
      { start: 900_100, end: 900_150 },
      { start: 900_150, end: 900_175 },
      { start: 900_175, end: 900_225 },
    ]);
  });

  test('collections are bins, nested compositions are timelines that are not top', () => {
    const nest = `{"OTIO_SCHEMA": "Stack.1", "name": "nest", "children": [${track([clip('bowl', span(1000, 30), bowl)])}]}`;
    const project = `{"OTIO_SCHEMA": "SerializableCollection.1", "name": "Saltglass", "children": [{"OTIO_SCHEMA": "SerializableCollection.1", "name": "Day 1", "children": [${clip('bowl', 'null', bowl)}]}, ${timeline([track([nest])])}]}`;
    const { edit } = read(project);
    expect(edit.bins).toEqual([{ key: 'bin-1', name: 'Day 1', parentKey: null }]);
    expect(edit.timelines.map((t) => [t.name, t.top, t.length])).toEqual([
      ['cut', true, 30],
      ['nest', false, 30],
    ]);
    expect(edit.timelines[0]!.events[0]).toMatchObject({ nestedKey: 'timeline-2', clipKey: null });
    expect(edit.clips.map((c) => [c.binKey, c.addresses.length])).toEqual([['bin-1', 2]]);
  });

  test('unknown schemas and missing parts get a remark with their JSON pointer', () => {
    const { remarks } = read(
      timeline([track(['{"OTIO_SCHEMA": "Sparkle.3"}', clip('x', 'null', external('x.mov', 'null'))])]),
    );
    expect(remarks).toEqual([
      { at: { path: '/tracks/children/0/children/0' }, code: 'schema-unknown', schema: 'Sparkle.3' },
      { at: { path: '/tracks/children/0/children/1' }, code: 'clip-without-range', name: 'x' },
    ]);
  });

  test('relinking changes only the URL: digits, key order and everything unknown stay to the letter', () => {
    const source = `${timeline([track([clip('bowl', span(1100, 100), bowl)])]).replace('"name": "cut"', '"zeta": 25.0, "name": "cut", "alpha": [1e3, 9007199254740993]')}\n`;
    const { edit } = read(source);
    const out = text(
      relinkDocument(
        bytes(source),
        'otio',
        new Map(edit.clips[0]!.addresses.map((a) => [a, path('/bay/KILN B/böwl#1.mov')])),
      ),
    );
    expect(out).toBe(source.replace('file:///Volumes/KILN/day%201/bowl.mov', 'file:///bay/KILN%20B/b%C3%B6wl%231.mov'));
    expect(read(out).edit.clips[0]!.remembered).toBe('file:///bay/KILN%20B/b%C3%B6wl%231.mov');
  });

  test('a missing reference becomes an external one and keeps its name and range', () => {
    const missing = `{"OTIO_SCHEMA": "MissingReference.1", "name": "lost.mov", "available_range": ${span(0, 50)}, "metadata": {"reel": "C9"}}`;
    const source = timeline([track([clip('lost', span(0, 20), missing)])]);
    const { edit } = read(source);
    expect(edit.clips[0]).toMatchObject({ remembered: null, reel: 'C9', available: { start: 0, end: 50 } });
    const out = text(
      relinkDocument(bytes(source), 'otio', new Map([[edit.clips[0]!.addresses[0]!, path('media/found.mov')]])),
    );
    expect(read(out).edit.clips[0]).toMatchObject({
      remembered: 'media/found.mov',
      reel: 'C9',
      available: { start: 0, end: 50 },
    });
  });

  test('an image sequence keeps its numbering and changes base, prefix and suffix', () => {
    const frames = `{"OTIO_SCHEMA": "ImageSequenceReference.1", "available_range": ${span(1001, 48)}, "target_url_base": "file:///S:/titles/", "name_prefix": "title_", "name_suffix": ".png", "start_frame": 1001, "frame_step": 1, "rate": 25, "frame_zero_padding": 4}`;
    const source = timeline([track([clip('titles', span(1001, 48), frames)])]);
    const { edit } = read(source);
    expect(edit.clips[0]).toMatchObject({ kind: 'sequence', remembered: 'file:///S:/titles/title_%23%23%23%23.png' });
    const sequence = { prefix: 'open_', suffix: '.png', padding: 4, first: 1001, last: 1048, missing: [] };
    const out = text(
      relinkDocument(
        bytes(source),
        'otio',
        new Map([[edit.clips[0]!.addresses[0]!, { path: 'media/open/open_####.png', sequence }]]),
      ),
    );
    expect(out).toContain('"target_url_base": "media/open/", "name_prefix": "open_"');
  });

  test('names that objects have by nature are no trouble', () => {
    const { edit } = read(
      timeline([
        track([
          clip(
            'x',
            span(0, 5),
            external('x.mov', span(0, 5)),
            '"metadata": {"__proto__": {"reel": "P"}, "constructor": 1}, ',
          ),
        ]),
      ]),
    );
    expect(edit.clips[0]!.reel).toBe('A001');
  });
});

describe('what cannot be read', () => {
  test.each([
    ['an empty file', '', 'document-empty'],
    ['blank lines', ' \n\n ', 'document-empty'],
    ['a picture', Uint8Array.from([0xff, 0xd8, 0xff, 0xe0, 0, 16, 74, 70, 73, 70, 0, 1]), 'document-not-text'],
    ['a letter', 'Dear editor,\nplease find enclosed nothing.', 'format-unknown'],
    ['broken JSON', '{"OTIO_SCHEMA": "Timeline.1", "tracks": ', 'json-broken'],
    ['other JSON', '{"version": 1}', 'no-edit-inside'],
    ['an empty collection', '{"OTIO_SCHEMA": "SerializableCollection.1", "children": []}', 'no-edit-inside'],
    ['a title alone', 'TITLE: NOTHING', 'no-edit-inside'],
    ['JSON nested 10,000 deep', '['.repeat(10_000) + ']'.repeat(10_000), 'nested-too-deep'],
  ])('%s says so', (_, content, code) => {
    expect(faultOf(content, { rate: pal })).toMatchObject({ code });
  });

  test('broken JSON says where', () => {
    expect(faultOf('{\n  "OTIO_SCHEMA": "Timeline.1",\n  "tracks": nope\n}')).toMatchObject({
      code: 'json-broken',
      line: 3,
    });
  });
});

test.each(['utf-8', 'utf-8-bom', 'utf-16le', 'utf-16be', 'windows-1252'] as const)(
  'a list in %s goes out as it came in',
  (encoding) => {
    const source = encodeText({ text: list.replace('kiln notes', 'Öfen “notes”'), encoding });
    const { remarks, edit } = read(source);
    expect(remarks[0]).toMatchObject({ text: 'Öfen “notes” nobody asked for' });
    expect(edit.clips).toHaveLength(4);
    expect(relinkDocument(source, 'edl', new Map())).toEqual(source);
  },
);

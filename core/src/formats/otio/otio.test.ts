import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { readText as read, utf8 as bytes } from '../../testing/reading.ts';
import { relinkDocument } from '../documents.ts';

const text = (content: Uint8Array) => new TextDecoder().decode(content);
const path = (p: string) => ({ path: p, sequence: null });

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

  test('markers stand where they show: on the timeline, on a track, and on what an item shows of its source', () => {
    const marker = (at: string, words: string) => `{"OTIO_SCHEMA": "Marker.2", "marked_range": ${at}, ${words}}`;
    const marked = (list: string[]) => `"markers": [${list.join(', ')}], `;
    const inside = [
      marker(span(1150, 0), '"name": "door opens", "color": "RED"'),
      marker(span(1090, 20), '"name": "in"'),
      marker(span(1300, 5), '"name": "cut away"'),
      '7',
      '{"OTIO_SCHEMA": "Marker.2", "name": "nowhere"}',
    ];
    const reversed = '"effects": [{"OTIO_SCHEMA": "LinearTimeWarp.1", "time_scalar": -2.0}], ';
    const nest = `{"OTIO_SCHEMA": "Stack.1", "name": "nest", ${marked([marker(span(3, 1), '"name": "in the nest"')])}"children": [${track([clip('bowl', span(1000, 30), bowl)])}]}`;
    const first = track([
      clip('bowl', span(1100, 100), bowl, marked(inside)),
      clip('bowl', span(1300, 50), bowl, `${reversed}${marked([marker(span(1320, 4), '"comment": "sparks"')])}`),
      nest,
    ]).replace('"kind"', `${marked([marker(span(10, 5), '"name": "track"')])}"kind"`);
    const gap = `{"OTIO_SCHEMA": "Gap.1", "source_range": ${span(0, 40)}, ${marked([marker(span(8, 1), '"name": "to come"')])}"name": ""}`;
    const cut = timeline([first, track([gap], 'Audio')]).replace(
      '"Stack.1"',
      `"Stack.1", ${marked([marker(span(30, 25), '"name": "all", "color": "CYAN"')])}"name": "tracks"`,
    );
    const { edit, remarks } = read(cut);
    expect(remarks.map((r) => [r.code, 'path' in r.at && r.at.path])).toEqual([
      ['child-not-understood', '/tracks/children/0/children/0/markers/3'],
      ['time-not-understood', '/tracks/children/0/children/0/markers/4'],
    ]);
    const start = 900_000;
    expect(
      edit.timelines[0]!.markers!.map((m) => [
        m.name || m.comment,
        m.track,
        m.record.start - start,
        m.record.end - start,
      ]),
    ).toEqual([
      ['all', null, 30, 55],
      ['track', 'V1', 10, 15],
      ['door opens', 'V1', 50, 51],
      // It begins before what is shown, and is marked as far as it shows.
      ['in', 'V1', 0, 10],
      // Backwards at double speed: its twentieth to twenty-fourth frame lie ten to twelve before the end.
      ['sparks', 'V1', 138, 140],
      ['to come', 'A1', 8, 9],
    ]);
    expect(edit.timelines[0]!.markers![2]).toMatchObject({
      color: 'RED',
      address: '/tracks/children/0/children/0/markers/0',
    });
    expect(edit.timelines[1]!.markers!.map((m) => [m.name, m.record])).toEqual([['in the nest', { start: 3, end: 4 }]]);
  });

  test('tracks keep what the document calls them besides their number; what is no name is none', () => {
    const called = (name: string, kind?: string) =>
      track([clip('bowl', span(1100, 10), bowl)], kind).replace('"Track.1",', `"Track.1", "name": ${name},`);
    const { edit, remarks } = read(
      timeline([called('" kiln floor "'), called('"V2"'), called('""'), called('7'), called('"talk"', 'Audio')]),
    );
    expect(remarks).toEqual([]);
    expect(edit.timelines[0]!.events.map((e) => e.track)).toEqual(['V1', 'V2', 'V3', 'V4', 'A1']);
    expect(edit.timelines[0]!.trackNames).toEqual({ V1: 'kiln floor', A1: 'talk' });
  });

  describe('what a nest shows of clips of several rates', () => {
    const rates = fc.constantFrom(24, 25, 30, 50, 60, 24000 / 1001, 30000 / 1001, 60000 / 1001);
    const item = fc.record({ r: rates, frames: fc.integer({ min: 1, max: 40 }), isGap: fc.boolean() });
    type Item = { r: number; frames: number; isGap: boolean };
    const items = fc.array(item, { minLength: 1, maxLength: 8 });
    const children = (of: readonly Item[], what: string) =>
      of.map(({ r, frames, isGap }, i) =>
        isGap
          ? `{"OTIO_SCHEMA": "Gap.1", "source_range": ${span(0, frames, r)}}`
          : clip(`${what} ${i}`, span(1000, frames, r), external(`${what}${i}.mov`, span(900, 500, r))),
      );
    const nestOf = (inside: readonly Item[], window: string) =>
      `{"OTIO_SCHEMA": "Stack.1", "name": "nest", "source_range": ${window}, "children": [${track(children(inside, 'inside'))}]}`;
    const clipsOf = (before: readonly Item[], nest: readonly string[]) =>
      read(timeline([track([...children(before, 'before'), ...nest])])).edit.clips;

    test('shown whole, it is read as if it lay in the timeline, however short it is', () => {
      fc.assert(
        fc.property(items, items, (before, inside) => {
          const used = (nest: readonly string[]) =>
            clipsOf(before, nest).map((c) => [c.name, c.used, c.isTrimmedAway ?? false]);
          expect(used([nestOf(inside, 'null')])).toEqual(used(children(inside, 'inside')));
        }),
      );
    });

    test('through a window, no frame of it is missing, and beside it few are read', () => {
      const window = fc.record({
        r: rates,
        start: fc.integer({ min: 0, max: 60 }),
        frames: fc.integer({ min: 1, max: 60 }),
      });
      fc.assert(
        fc.property(items, items, window, (before, inside, { r: rate, start, frames: long }) => {
          const clips = clipsOf(before, [nestOf(inside, span(start, long, rate))]);
          const [from, to] = [start / rate, (start + long) / rate];
          let at = 0;
          inside.forEach(({ r, frames, isGap }, i) => {
            const begins = at;
            at += frames / r;
            if (isGap) return;
            const isShown = (frame: number, by = -1e-9) =>
              begins + (frame + 1) / r > from - by && begins + frame / r < to + by;
            const used = clips.find((c) => c.name === `inside ${i}`)!.used;
            for (let frame = 0; frame < frames; frame += 1) {
              const isRead = used.some((u) => u.start <= 1000 + frame && 1000 + frame < u.end);
              if (isShown(frame)) expect(isRead).toBe(true);
              // Three frames of the coarsest rate on either side.
              else if (isRead) expect(isShown(frame, 3 / 23)).toBe(true);
            }
          });
        }),
        { numRuns: 300 },
      );
    });
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
      ).bytes,
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
      relinkDocument(bytes(source), 'otio', new Map([[edit.clips[0]!.addresses[0]!, path('media/found.mov')]])).bytes,
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
      ).bytes,
    );
    expect(out).toContain('"target_url_base": "media/open/", "name_prefix": "open_"');
  });

  test('a relative base of an image sequence is percent-encoded as other references are', () => {
    const frames = (base: string) =>
      `{"OTIO_SCHEMA": "ImageSequenceReference.1", "target_url_base": "${base}", "name_prefix": "t%20_", "name_suffix": ".png", "start_frame": 1, "frame_zero_padding": 4}`;
    const remembered = (base: string) =>
      read(timeline([track([clip('titles', span(1, 48), frames(base))])])).edit.clips[0]!.remembered;
    expect(remembered('media/no%20bin/')).toBe('media/no bin/t _####.png');
    expect(remembered('/rooted%20so/')).toBe('/rooted%20so/t _####.png');
  });

  test('an image sequence whose first number outgrows its padding is named by the digits it has', () => {
    const named = (first: number, padding: number) => {
      const frames = `{"OTIO_SCHEMA": "ImageSequenceReference.1", "target_url_base": "x/", "name_prefix": "t_", "name_suffix": ".png", "start_frame": ${first}, "frame_zero_padding": ${padding}}`;
      return read(timeline([track([clip('t', span(1, 48), frames)])])).edit.clips[0]!.remembered;
    };
    expect([named(9990, 4), named(10_006, 4), named(1, 0), named(86_400, 0)]).toEqual([
      'x/t_####.png',
      'x/t_#####.png',
      'x/t_#.png',
      'x/t_#####.png',
    ]);
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

import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { faultOf, readText as read, utf8 as bytes } from '../../testing/reading.ts';
import { rate } from '../../time/rate.ts';
import { formatTimecode } from '../../time/timecode.ts';
import { relinkDocument } from '../documents.ts';
import { encodeText } from '../text.ts';
import { edl } from './index.ts';

const text = (content: Uint8Array) => new TextDecoder().decode(content);
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

  test('rates are proposed by lengths that agree, by other timelines, and by the largest frame, with the reason', () => {
    const first = (body: string, otherRates = [rate(30)]) => {
      const fault = faultOf(body, { otherRates });
      return fault.code === 'rate-needed' ? fault.proposals[0] : null;
    };
    // 20 to 1:10 is as long as 5 to 0:20 at 25 only.
    expect(
      first(
        '001 R V C 00:00:00:20 00:00:01:10 00:00:00:05 00:00:00:20\n002 R V C 0:0:0:0 0:0:0:9 0:0:0:20 0:0:1:4',
        [],
      ),
    ).toEqual({ rate: rate(25), reason: { code: 'lengths-agree', agree: 2, of: 2 } });
    expect(first('001 R V C 00:00:00:00 00:00:01:10 00:00:00:00 00:00:01:10')).toEqual({
      rate: rate(30),
      reason: { code: 'other-timelines' },
    });
  });

  test('located words stand at their record timecode, comments where the event above them begins', () => {
    const { edit, remarks } = read(
      [
        '* LOC: 01:00:00:12 GREEN',
        '001 A001 V C 01:00:00:00 01:00:02:00 01:00:00:00 01:00:02:00',
        '* FROM CLIP NAME: bowl',
        '* LOC: 01:00:01:10 RED   check focus,  please',
        '* LOC: soon BLUE no timecode',
        '* LOC:',
        '002 A001 A C 01:00:10:00 01:00:12:00 01:00:02:00 01:00:04:00',
        '* COMMENT: warm this up',
      ].join('\n'),
    );
    // What has no timecode stands nowhere, and that is said.
    expect(remarks.map((r) => [r.at, r.code])).toContainEqual([{ line: 5 }, 'line-not-understood']);
    const [timeline] = edit.timelines;
    const brief = timeline!.markers!.map((m) => [
      m.name,
      m.comment,
      m.color,
      m.track,
      m.record.start - 90_000,
      m.address,
    ]);
    expect(brief).toEqual([
      ['', '', 'GREEN', null, 12, '1'],
      ['check focus,  please', '', 'RED', null, 35, '4'],
      ['', 'warm this up', '', timeline!.events[1]!.track, 50, '8'],
    ]);
  });

  test('relinking changes source files and nothing else: encoding, line ends, unknown lines and names stay', () => {
    const { edit } = read(list);
    // One event has a source file comment, and one of the same reel and name none: it inherits none, and is its own clip.
    const [first, ...others] = edit.clips;
    const alike = others.filter((c) => c.name === first!.name && c.reel === first!.reel);
    expect([first!.remembered, ...alike.map((c) => c.remembered)]).toEqual([expect.any(String), null]);
    const addresses = [first!, ...alike].flatMap((c) => c.addresses);
    const changes = new Map(addresses.map((a) => [a, path('/bay/KILN_B/bowl $& new.mov')]));
    const out = text(relinkDocument(bytes(list), 'edl', changes).bytes);
    const [before, after] = [list.split('\r\n'), out.split('\r\n')];
    const isFile = (line: string) => line.startsWith('* SOURCE FILE');
    // The one that had none gets its own.
    expect(after.filter(isFile)).toEqual(Array(2).fill('* SOURCE FILE: /bay/KILN_B/bowl $& new.mov'));
    expect(after.filter((line) => !isFile(line))).toEqual(before.filter((line) => !isFile(line)));
    expect(read(out).edit.clips.map((c) => c.remembered)).toEqual(['/bay/KILN_B/bowl $& new.mov', null, null]);
    expect(read(out).edit.timelines[0]!.events.map((e) => e.source)).toEqual(
      edit.timelines[0]!.events.map((e) => e.source),
    );
  });

  test('a reel is changed on the event and on its M2 line, and the columns stay where they were', () => {
    const { edit } = read(list);
    const change = { ...path('bowl.mov'), reel: 'A001 C01' };
    const out = text(relinkDocument(bytes(list), 'edl', new Map([[edit.clips[0]!.addresses[0]!, change]])).bytes);
    expect(out).toContain('001  A001_C01 V     C        01:00:00:00 01:00:04:00 10:00:00:00 10:00:04:00');
    expect(out).toContain('M2   A001_C01   050.0       01:00:00:00');
    expect(out).toContain('002  A001     V     C');
  });

  test('a name that Latin-1 cannot hold makes the list UTF-8, and says so', () => {
    const source = encodeText({ text: list.replace('kiln notes', 'Öfen'), encoding: 'windows-1252' });
    const relinked = (p: string) => relinkDocument(source, 'edl', new Map([['3', path(p)]]));
    expect(relinked('/bay/Öfen.mov').reencoded).toBe(false);
    expect(relinked('/bay/炉.mov').reencoded).toBe(true);
    expect(text(relinked('/bay/炉.mov').bytes)).toContain('/bay/炉.mov');
  });

  test('clips are gathered as told, and every way says how many clips it makes', () => {
    const body = [
      '001 R1 V C 00:00:00:00 00:00:01:00 00:00:00:00 00:00:01:00',
      '* FROM CLIP NAME: a',
      '* SOURCE FILE: /x/a.mov',
      '002 R1 V C 00:00:02:00 00:00:03:00 00:00:01:00 00:00:02:00',
      '* FROM CLIP NAME: a',
      '* SOURCE FILE: /y/a.mov',
      '003 R2 V C 00:00:02:00 00:00:03:00 00:00:02:00 00:00:03:00',
      '* FROM CLIP NAME: a',
      '004 R1 V C 00:00:04:00 00:00:05:00 00:00:03:00 00:00:04:00',
      '* FROM CLIP NAME: b',
      '* SOURCE FILE: /x/a.mov',
    ].join('\n');
    const { choices } = read(body);
    expect(choices.clipsBy).toEqual([
      { grouping: 'reel-and-name', clips: 4 },
      { grouping: 'stretch', clips: 4 },
      { grouping: 'reel', clips: 4 },
      { grouping: 'clip-name', clips: 3 },
      { grouping: 'source-file', clips: 3 },
    ]);
    for (const { grouping, clips } of choices.clipsBy)
      expect(read(body, { rate: rate(25), clipsBy: grouping }).edit.clips).toHaveLength(clips);
    const byFile = read(body, { rate: rate(25), clipsBy: 'source-file' }).edit.clips;
    expect(byFile.map((c) => [c.remembered, c.addresses])).toEqual([
      ['/x/a.mov', ['1', '9']],
      ['/y/a.mov', ['4']],
      [null, ['7']],
    ]);
  });

  test('one name far apart on one reel is remarked, and may be gathered by stretches', () => {
    const body = [
      '001 AX V C 08:00:00:00 08:00:01:00 00:00:00:00 00:00:01:00',
      '* FROM CLIP NAME: C0001.MOV',
      '002 AX V C 17:30:00:00 17:30:01:00 00:00:01:00 00:00:02:00',
      '* FROM CLIP NAME: C0001.MOV',
      '003 AX V C 08:00:00:12 08:00:01:12 00:00:02:00 00:00:03:00',
      '* FROM CLIP NAME: C0001.MOV',
      '004 AX V C 17:30:00:00 17:30:01:00 00:00:03:00 00:00:04:00',
      '* FROM CLIP NAME: C0002.MOV',
    ].join('\n');
    const asUsual = read(body);
    expect(asUsual.edit.clips.map((c) => c.addresses)).toEqual([['1', '3', '5'], ['7']]);
    expect(asUsual.remarks).toMatchObject([
      { at: { line: 3 }, code: 'name-far-apart', name: 'C0001.MOV', apartInSeconds: 34_200 - 37 / 25, afterLine: 5 },
    ]);
    const apart = read(body, { rate: rate(25), clipsBy: 'stretch' });
    expect(apart.edit.clips.map((c) => c.addresses)).toEqual([['1', '5'], ['3'], ['7']]);
    expect(apart.remarks).toEqual([]);
  });

  test('written, a list keeps dissolves, wipes, speeds, black, names and files, and is stable from then on', () => {
    const full = [
      list,
      '005  A001     V     C        01:00:08:00 01:00:08:00 10:00:10:00 10:00:10:00',
      '005  B002     V     W012 010 02:00:00:00 02:00:02:00 10:00:10:00 10:00:12:00',
      'M2   B002      -025.0       02:00:01:24',
    ].join('\r\n');
    const once = edl.write(read(full).edit);
    expect(once).toContain('002  B002     V     D    025 02:00:00:00 02:00:03:00 10:00:04:00 10:00:07:00');
    expect(once).toContain('W012 010 02:00:00:00 02:00:02:00');
    expect(once).toContain('M2   B002           -025.0     02:00:01:24');
    expect(once).toContain('003  BL ');
    expect(edl.write(read(once).edit)).toBe(once);
    expect(edl.write(read(full).edit, { track: 'A1' })).toContain('001  AX       A     C');
  });

  test('a speed below a dissolve from a take to the same take goes to the line whose lengths want it', () => {
    const dissolve = (speeds: readonly string[], sourceOut: string) =>
      read(
        [
          '001  A001 V C 00:00:40:00 00:00:41:05 01:00:00:00 01:00:01:05',
          '002  A001 V C 00:00:40:00 00:00:40:00 01:00:01:05 01:00:01:05',
          `002  A001 V D 025 00:00:40:00 ${sourceOut} 01:00:01:05 01:00:02:10`,
          ...speeds.map((speed) => `M2 A001 ${speed} 00:00:40:00`),
        ].join('\n'),
      );
    const speedsOf = ({ edit }: ReturnType<typeof read>) =>
      edit.timelines[0]!.events.map(({ speed }) => speed.num / speed.den);
    expect(speedsOf(dissolve(['012.5'], '00:00:40:15'))).toEqual([1, 1, 0.5]);
    expect(dissolve(['012.5'], '00:00:40:15').remarks).toEqual([]);
    // Its lengths are alike: the speed is that of the line below which it lies.
    expect(speedsOf(dissolve(['050.0'], '00:00:41:05'))).toEqual([1, 2, 1]);
    expect(speedsOf(dissolve(['050.0', '012.5'], '00:00:40:15'))).toEqual([1, 2, 0.5]);
  });

  test('any list of cuts, dissolves and speeds is stable through the model', () => {
    const event = fc.record({
      reel: fc.constantFrom('A001', 'B-002', 'LONGREELNAME', 'BL'),
      from: fc.integer({ min: 1000, max: 80_000 }),
      length: fc.integer({ min: 30, max: 500 }),
      name: fc.constantFrom('bowl.mov', 'salt sack.jpg', 'vo.wav', 'käfig – "nah".mov'),
      over: fc.constantFrom(0, 0, 12, 25),
      speed: fc.constantFrom(25, 25, 50, 12.5, -25, 0, 30),
    });
    const tc = (f: number) => formatTimecode(f, rate(25));
    fc.assert(
      fc.property(fc.array(event, { minLength: 1, maxLength: 30 }), (events) => {
        let record = 90_000;
        const body = events.flatMap((e, i) => {
          const number = String(i + 1).padStart(3, '0');
          const read = Math.max(1, Math.ceil((e.length * Math.abs(e.speed)) / 25));
          const times = `${tc(e.from)} ${tc(e.from + read)} ${tc(record)} ${tc(record + e.length)}`;
          const before = events[i - 1];
          const lines =
            e.over > 0 && before
              ? [
                  `${number}  ${before.reel} V C ${tc(before.from)} ${tc(before.from)} ${tc(record)} ${tc(record)}`,
                  `${number}  ${e.reel} V D ${e.over} ${times}`,
                  `* FROM CLIP NAME: ${before.name}`,
                  `* TO CLIP NAME: ${e.name}`,
                ]
              : [`${number}  ${e.reel} V C ${times}`, `* FROM CLIP NAME: ${e.name}`];
          record += e.length;
          const entry = e.speed < 0 ? e.from + read - 1 : e.from;
          return e.speed === 25 || e.reel === 'BL'
            ? lines
            : [...lines, `M2 ${e.reel} ${e.speed.toFixed(1)} ${tc(entry)}`];
        });
        const first = read(body.join('\n'));
        const mains = first.edit.timelines[0]!.events.filter((e) => e.record.end > e.record.start);
        expect(mains.map((e) => e.record.end - e.record.start)).toEqual(events.map((e) => e.length));
        const once = edl.write(first.edit);
        const again = read(once);
        expect(again.remarks).toEqual([]);
        const used = (clips: typeof again.edit.clips) => clips.map((c) => [c.name, c.reel, c.used]).sort();
        expect(used(again.edit.clips)).toEqual(used(first.edit.clips));
        expect(edl.write(again.edit)).toBe(once);
      }),
      { numRuns: 60 },
    );
  });
});

import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import Papa from 'papaparse';
import { faultOf, readText, utf8 } from '../../testing/reading.ts';
import { rate } from '../../time/rate.ts';
import { relinkDocument } from '../documents.ts';
import { log } from './index.ts';

const path = (p: string) => ({ path: p, sequence: null });
const text = (content: Uint8Array) => new TextDecoder().decode(content);

describe('shot log', () => {
  test('columns whose names tell nothing are asked for, with headers and samples; the answer reads the log', () => {
    const body = 'A;B;C\nbowl_03;01:00:00:00;01:00:08:00\ndoor_01;01:00:10:00;01:00:12:00\n';
    expect(faultOf(body, { rate: rate(25) })).toEqual({
      code: 'columns-needed',
      columns: {
        headers: ['A', 'B', 'C'],
        roles: ['metadata', 'metadata', 'metadata'],
        samples: [
          ['bowl_03', '01:00:00:00', '01:00:08:00'],
          ['door_01', '01:00:10:00', '01:00:12:00'],
        ],
        rows: 2,
      },
    });
    const { edit } = readText(body, { rate: rate(25), columns: ['name', 'start', 'end'] });
    expect(edit.clips.map((c) => [c.name, c.available])).toEqual([
      ['bowl_03', { start: 90_000, end: 90_200 }],
      ['door_01', { start: 90_250, end: 90_300 }],
    ]);
  });

  test('times without a rate ask for one, and start, end and length together tell it', () => {
    const fault = faultOf('name,start,end,duration\na,00:00:00:20,00:00:01:10,15\n');
    expect(fault).toMatchObject({
      code: 'rate-needed',
      proposals: expect.arrayContaining([
        { rate: rate(25), reason: { code: 'lengths-agree', agree: 1, of: 1 } },
      ]) as unknown,
    });
    expect(fault.code === 'rate-needed' && fault.proposals[0]!.rate).toEqual(rate(25));
    expect(readText('name,reel\na,R1\n', {}).edit.clips).toHaveLength(1);
  });

  test('relinking changes the file cell of its rows; every other row stays byte for byte', () => {
    const body = 'Name,File,Notes\r\n"a, b",old/a.mov,"two\r\nlines"\r\nc,old/c.mov,  spaced \r\n';
    const { edit } = readText(body);
    const out = text(
      relinkDocument(utf8(body), 'log', new Map([[edit.clips[0]!.addresses[0]!, path('/bay/a.mov')]])).bytes,
    );
    expect(out).toBe('Name,File,Notes\r\n"a, b",/bay/a.mov,"two\r\nlines"\r\nc,old/c.mov,  spaced \r\n');
  });

  test('a log without a file column gets one', () => {
    const body = 'Reel\tName\nA001\tbowl\nA001\tdoor';
    const { edit } = readText(body);
    const out = text(
      relinkDocument(utf8(body), 'log', new Map([[edit.clips[1]!.addresses[0]!, path('/bay/door.mov')]])).bytes,
    );
    expect(out).toBe('Reel\tName\tFile\nA001\tbowl\nA001\tdoor\t/bay/door.mov');
    expect(readText(out).edit.clips.map((c) => c.remembered)).toEqual([null, '/bay/door.mov']);
  });

  test('what is written is read back, and no cell can be taken for a formula', () => {
    const word = fc.stringMatching(/^[a-zA-Z=+@-][\w ,;"'=äß-]{0,12}\w$/);
    const row = fc.record({
      name: word,
      reel: fc.option(word, { nil: null }),
      start: fc.nat(1_000_000),
      length: fc.nat(5000),
      notes: word,
    });
    fc.assert(
      fc.property(fc.array(row, { minLength: 1, maxLength: 12 }), (rows) => {
        const clips = rows.map((r, i) => ({
          key: `clip-${i + 1}`,
          name: `${r.name}${i}`,
          reel: r.reel,
          remembered: null,
          kind: null,
          rate: rate(25),
          counting: 'non-drop' as const,
          available: { start: r.start, end: r.start + r.length },
          raster: null,
          used: [],
          binKey: null,
          addresses: [],
          metadata: { notes: r.notes, Lens: '35' },
        }));
        const written = log.write({ title: 'x', bins: [], clips, timelines: [] });
        const cells = Papa.parse<string[]>(written, { delimiter: ',' }).data.flat();
        expect(cells.filter((cell) => /^[=+@-]/.test(cell))).toEqual([]);
        const back = readText(written, { rate: rate(25) }).edit.clips;
        const told = (list: typeof back | typeof clips) => list.map((c) => [c.name, c.reel, c.available, c.metadata]);
        expect(told(back)).toEqual(told(clips));
      }),
      { numRuns: 60 },
    );
  });
});

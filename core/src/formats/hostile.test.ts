import { describe, expect, test } from '@jest/globals';
import { faultOf, readText } from '../testing/reading.ts';
import { rate } from '../time/rate.ts';

/** Documents made to hang, crash or fool a reader. None may take longer than reading as much of an honest one. */
describe('hostile documents end in a clear message, or in the edit that they do hold', () => {
  test('one endless line', () => {
    expect(faultOf('x'.repeat(30_000_000))).toMatchObject({ code: 'format-unknown' });
    const inList = `001 A V C 0:0:0:0 0:0:1:0 0:0:0:0 0:0:1:0\n${'9 '.repeat(5_000_000)}\n`;
    const { remarks, edit } = readText(inList);
    expect(edit.clips).toHaveLength(1);
    expect(remarks).toEqual([{ at: { line: 2 }, code: 'line-not-understood', text: '9 '.repeat(100) }]);
  });

  test.each([
    ['M2 lines of spaces', `M2 ${' '.repeat(3000)}x`],
    ['an event of tracks', `001 ${'V '.repeat(1500)}`],
    ['a comment of stars', '*'.repeat(3900)],
    ['a drop of timecodes', `001 A V C ${'00:00:00:00 '.repeat(300)}`],
  ])('%s, a thousand times', (_, line) => {
    const { edit } = readText(`001 A V C 0:0:0:0 0:0:1:0 0:0:0:0 0:0:1:0\n${`${line}\n`.repeat(1000)}`);
    expect(edit.timelines[0]!.events.length).toBeGreaterThan(0);
  });

  test('what nobody understands a hundred thousand times is remarked four hundred times and counted', () => {
    const { remarks } = readText(`001 A V C 0:0:0:0 0:0:1:0 0:0:0:0 0:0:1:0\n${'what?\n'.repeat(100_000)}`);
    expect(remarks).toHaveLength(401);
    expect(remarks.at(-1)).toEqual({
      at: { line: 402 },
      code: 'more-of-these',
      of: 'line-not-understood',
      count: 99_600,
    });
  });

  test('nesting 10,000 deep, open or closed, in strings or not', () => {
    expect(faultOf('{"a":'.repeat(10_000))).toMatchObject({ code: 'nested-too-deep' });
    expect(faultOf(`[${'['.repeat(10_000)}`)).toMatchObject({ code: 'nested-too-deep' });
    expect(faultOf(`{"OTIO_SCHEMA": "Timeline.1", "x": "${'['.repeat(10_000)}`)).toMatchObject({ code: 'json-broken' });
  });

  test('a string of ten million backslashes', () => {
    expect(faultOf(`{"a": "${'\\\\'.repeat(5_000_000)}"}`)).toMatchObject({ code: 'no-edit-inside' });
  });

  test('names that objects have by nature', () => {
    const { edit } = readText(
      '{"OTIO_SCHEMA": "Clip.2", "__proto__": {"name": "x"}, "name": "a", "media_references": {"__proto__": {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "a.mov"}}, "active_media_reference_key": "__proto__"}',
    );
    expect(edit.clips[0]).toMatchObject({ name: 'a', remembered: 'a.mov' });
    expect(Object.keys(Object.prototype)).toEqual([]);
    const { edit: logged } = readText('name,reel,__proto__,constructor\na,R1,x,y\n', { rate: rate(25) });
    expect({ ...logged.clips[0]!.metadata }).toMatchObject({ constructor: 'y' });
    expect(Object.getPrototypeOf(logged.clips[0]!.metadata)).toBe(Object.prototype);
  });

  test('a log of one open quote does not swallow what came before it', () => {
    const { edit, remarks } = readText(`name,reel\na,R1\n"${'b\n'.repeat(100_000)}`);
    expect(edit.clips.map((c) => c.name)).toEqual(['a']);
    expect(remarks).toEqual([{ at: { line: 3 }, code: 'row-skipped', reason: { code: 'quote-not-closed' } }]);
  });

  test('a log of a hundred thousand columns', () => {
    const wide = Array.from({ length: 100_000 }, (_, i) => `c${i}`).join(',');
    expect(faultOf(`name,${wide}\n`)).toMatchObject({ code: 'format-unknown' });
  });
});

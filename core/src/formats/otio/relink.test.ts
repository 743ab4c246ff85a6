import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { rate } from '../../time/rate.ts';
import type { NewReference } from '../format.ts';
import { fileUrl, relinkOtio } from './relink.ts';

type Json = Record<string, unknown>;
const clone = (value: unknown): Json => JSON.parse(JSON.stringify(value)) as Json;

/** Members in whatever order a writer put them, with whatever white space. */
const shuffled = (value: Json, order: readonly number[]): Json =>
  Object.fromEntries(
    Object.entries(value)
      .map((entry, i) => ({ entry, at: order[i % order.length]! * 31 + i }))
      .sort((a, b) => (a.at % 17) - (b.at % 17))
      .map(({ entry }) => entry),
  );
const spaces = fc.constantFrom<((v: unknown) => string)[]>(
  (v) => JSON.stringify(v),
  (v) => JSON.stringify(v, null, 4),
  (v) => JSON.stringify(v, null, '\t').replaceAll('\n', '\r\n'),
  (v) => JSON.stringify(v, null, 1).replace(/^(\s*"[^"\\]*"): /gm, '$1   :\n  '),
);
const anyText = fc.constantFrom('a.mov', 'ü {"x": [1]} \\', 'target_url', '"quoted"', '\u2028', '', 'kiln/1 #2%.mov');
const range = { OTIO_SCHEMA: 'TimeRange.1', start_time: { OTIO_SCHEMA: 'RationalTime.1', rate: 24, value: 10 }, duration: { OTIO_SCHEMA: 'RationalTime.1', rate: 24, value: 90 } }; // prettier-ignore
const shared = { name: 'ref', metadata: { note: 'keep', list: [1, { target_url: 'not this one' }] } };

const external = fc.record({ url: anyText, ranged: fc.boolean() }).map(({ url, ranged }): Json => ({
  OTIO_SCHEMA: 'ExternalReference.1',
  target_url: url,
  available_range: ranged ? range : null,
  ...shared,
}));
const missing = fc.boolean().map((ranged): Json => ({
  OTIO_SCHEMA: 'MissingReference.1',
  ...(ranged ? { available_range: range } : {}),
  ...shared,
}));
const sequence = fc
  .record({ start: fc.integer({ min: 0, max: 2000 }), padding: fc.nat(6), base: anyText })
  .map(({ start, padding, base }): Json => ({
    OTIO_SCHEMA: 'ImageSequenceReference.1',
    target_url_base: base,
    name_prefix: 'p_',
    name_suffix: '.png',
    start_frame: start,
    frame_step: 1,
    rate: 24,
    frame_zero_padding: padding,
    missing_frame_policy: 'error',
    available_range: range,
    ...shared,
  }));
const reference = fc.oneof(external, missing, sequence);
const order = fc.array(fc.nat(1000), { minLength: 1, maxLength: 12 });
const toFile = fc.constantFrom('/bay/KILN B/böwl#1.mov', 'media/100%.mov', 'E:/YARD/a b.mov', '//nas/share/x.mov');
const change: fc.Arbitrary<NewReference> = fc.oneof(
  fc.record({
    path: toFile,
    sequence: fc.constant(null),
    available: fc.constantFrom(undefined, { start: 5, end: 25 }),
    rate: fc.constant(rate(25)),
  }),
  fc.record({
    path: fc.constant('/bay/open/open_####.png'),
    sequence: fc.record({
      prefix: fc.constant('open_'),
      suffix: fc.constant('.png'),
      padding: fc.constantFrom(0, 4),
      first: fc.constantFrom(0, 1001),
      last: fc.constant(1200),
      missing: fc.constant([]),
    }),
    available: fc.constant(undefined),
    rate: fc.constant(rate(25)),
  }),
);

/** What a reference is to become, said once more in the plainest way: on values, not on text. */
function expected(before: Json, { path, sequence: frames, available }: NewReference): Json {
  const after = clone(before);
  if (available) {
    const time = (value: number) => ({ OTIO_SCHEMA: 'RationalTime.1', rate: before.available_range ? 24 : 25, value });
    after.available_range = {
      OTIO_SCHEMA: 'TimeRange.1',
      start_time: time(available.start),
      duration: time(available.end - available.start),
    };
  }
  const parts = Object.keys(after).filter((key) => /^(target_url|name_|start_frame|frame_|rate$|missing_)/.test(key));
  if (!frames) {
    for (const key of parts) delete after[key];
    return { ...after, OTIO_SCHEMA: 'ExternalReference.1', target_url: fileUrl(path) };
  }
  const wasSequence = before.OTIO_SCHEMA === 'ImageSequenceReference.1';
  const start = before.start_frame as number;
  const keepsStart = wasSequence && start >= frames.first && start <= frames.last;
  if (!wasSequence) delete after.target_url;
  return {
    ...after,
    OTIO_SCHEMA: 'ImageSequenceReference.1',
    target_url_base: fileUrl(path.slice(0, path.lastIndexOf('/') + 1)),
    name_prefix: frames.prefix,
    name_suffix: frames.suffix,
    start_frame: keepsStart ? start : frames.first,
    frame_zero_padding: frames.padding,
    ...(wasSequence ? {} : { frame_step: 1, rate: 25 }),
  };
}

describe('relinking a document of references', () => {
  test('whatever the order of members and the white space, the references are changed as asked, and all else is kept', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ reference, order, change: fc.option(change, { nil: null }) }), {
          minLength: 1,
          maxLength: 6,
        }),
        spaces,
        (clips, written) => {
          const before = {
            OTIO_SCHEMA: 'Timeline.1',
            children: clips.map((c, i) => ({
              name: `clip ${i}`,
              'media/ref~s': { DEFAULT: shuffled(c.reference, c.order) },
            })),
          };
          const changes = new Map(
            clips.flatMap((c, i) => (c.change ? [[`/children/${i}/media~1ref~0s/DEFAULT`, c.change] as const] : [])),
          );
          const after = JSON.parse(relinkOtio(written(before), changes)) as unknown;
          const wanted = clone(before);
          clips.forEach((c, i) => {
            if (c.change) (wanted.children as Json[])[i]!['media/ref~s'] = { DEFAULT: expected(c.reference, c.change) };
          });
          expect(after).toEqual(wanted);
        },
      ),
      { numRuns: 600 },
    );
  });

  test('what is not asked for keeps every character: outside of the references the text is the same', () => {
    fc.assert(
      fc.property(reference, order, change, spaces, (was, by, to, written) => {
        const [head, tail] = ['{"first": 1e3, "zeta": 25.0, "ref" :  ', '\r\n, "last" : [9007199254740993, -0.0]}\n\n'];
        const result = relinkOtio(`${head}${written(shuffled(was, by))}${tail}`, new Map([['/ref', to]]));
        expect(result.startsWith(head)).toBe(true);
        expect(result.endsWith(tail)).toBe(true);
      }),
    );
  });

  test('relinked twice is relinked once to the second', () => {
    fc.assert(
      fc.property(external, change, toFile, spaces, (was, first, path, written) => {
        const text = written({ ref: was });
        const once = relinkOtio(text, new Map([['/ref', first]]));
        const twice = JSON.parse(relinkOtio(once, new Map([['/ref', { path, sequence: null }]]))) as { ref: Json };
        expect(twice.ref).toMatchObject({ OTIO_SCHEMA: 'ExternalReference.1', target_url: fileUrl(path), ...shared });
        expect(Object.keys(twice.ref).filter((key) => /^(name_|frame_|target_url_base)/.test(key))).toEqual([]);
      }),
    );
  });
});

describe('where no reference was', () => {
  const found: NewReference = { path: 'media/found.mov', sequence: null };
  const made = { OTIO_SCHEMA: 'ExternalReference.1', metadata: {}, name: '', target_url: 'media/found.mov', available_range: null }; // prettier-ignore
  const relinked = (text: string, pointer: string, to = found) =>
    JSON.parse(relinkOtio(text, new Map([[pointer, to]]))) as Json;

  test('a null becomes one', () => {
    expect(relinked('{"OTIO_SCHEMA": "Clip.1", "media_reference": null}', '/media_reference')).toEqual({
      OTIO_SCHEMA: 'Clip.1',
      media_reference: made,
    });
  });

  test('a clip without the member gets it; one without even the list of them, likewise', () => {
    expect(relinked('{\n  "OTIO_SCHEMA": "Clip.1",\n  "name": "x"\n}', '/media_reference')).toEqual({
      OTIO_SCHEMA: 'Clip.1',
      media_reference: made,
      name: 'x',
    });
    expect(relinked('{"c": [{"OTIO_SCHEMA": "Clip.2"}]}', '/c/0/media_references/DEFAULT')).toEqual({
      c: [{ OTIO_SCHEMA: 'Clip.2', media_references: { DEFAULT: made } }],
    });
    expect(relinked('{"c": [{"media_references": null}]}', '/c/0/media_references/DEFAULT')).toEqual({
      c: [{ media_references: { DEFAULT: made } }],
    });
    expect(relinked('{"c": [{}]}', '/c/0/media_reference')).toEqual({ c: [{ media_reference: made }] });
  });

  test('a sequence with its range, at the rate of the clip; without a rate, at 24', () => {
    const frames = { prefix: 'a_', suffix: '.exr', padding: 4, first: 1001, last: 1048, missing: [] };
    const to = {
      path: '/vfx/a_####.exr',
      sequence: frames,
      rate: rate(24_000, 1001),
      available: { start: 0, end: 48 },
    };
    expect(relinked('{"ref": null}', '/ref', to).ref).toMatchObject({
      OTIO_SCHEMA: 'ImageSequenceReference.1',
      target_url_base: 'file:///vfx/',
      start_frame: 1001,
      rate: 24_000 / 1001,
      available_range: { duration: { value: 48, rate: 24_000 / 1001 } },
    });
    expect(relinked('{"ref": null}', '/ref', { path: '/vfx/a_####.exr', sequence: frames }).ref).toMatchObject({
      rate: 24,
      available_range: null,
    });
  });

  test('a pointer to nothing that could hold a reference changes nothing', () => {
    for (const text of ['{"ref": "text"}', '{"other": 1}', '[1, 2, 3]', '"x"'])
      expect(() => relinked(text, '/nowhere/at/all')).not.toThrow();
    expect(relinked('{"ref": "text"}', '/ref')).toEqual({ ref: 'text' });
  });

  test('numbers that JSON does not have move nothing', () => {
    const text =
      '{"a": NaN, "ref": {"OTIO_SCHEMA": "ExternalReference.1", "target_url": "x"}, "b": [-Infinity, "NaN"]}';
    expect(relinkOtio(text, new Map([['/ref', found]]))).toBe(text.replace('"x"', '"media/found.mov"'));
  });
});

test('a path becomes the URL that leads back to it', () => {
  expect(fileUrl('/Volumes/KILN A/böwl #1 100%.mov')).toBe('file:///Volumes/KILN%20A/b%C3%B6wl%20%231%20100%25.mov');
  expect(fileUrl('E:/day 1/x.mov')).toBe('file:///E:/day%201/x.mov');
  expect(fileUrl('//nas/share/x y.mov')).toBe('file://nas/share/x%20y.mov');
  expect(fileUrl('media/x?.mov')).toBe('media/x%3F.mov');
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), (name) => {
      fc.pre(!/[/\\\ud800-\udfff]/.test(name) && name !== '.' && name !== '..');
      expect(decodeURIComponent(new URL(fileUrl(`/bay/${name}`)).pathname)).toBe(`/bay/${name}`);
    }),
  );
});

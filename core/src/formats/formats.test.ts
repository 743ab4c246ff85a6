import { describe, expect, test } from '@jest/globals';
import { faultOf, readText as read } from '../testing/reading.ts';
import { rate } from '../time/rate.ts';
import { relinkDocument } from './documents.ts';
import { encodeText, textEncodings } from './text.ts';

const pal = rate(25);
const list = [
  'TITLE: FURNACE REEL',
  '001  A001     V     C        01:00:00:00 01:00:04:00 10:00:00:00 10:00:04:00',
  '* FROM CLIP NAME: bowl.mov',
  'kiln notes nobody asked for',
  '',
].join('\r\n');

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
    ['a log of nothing but a header', 'name,reel,start\n', 'no-edit-inside'],
    ['lists nested 10,000 deep', '['.repeat(10_000) + ']'.repeat(10_000), 'no-edit-inside'],
    [
      'nests 10,000 deep',
      `${'{"OTIO_SCHEMA": "Stack.1", "children": ['.repeat(10_000)}${']}'.repeat(10_000)}`,
      'nested-too-deep',
    ],
  ])('%s says so', (_, content, code) => {
    expect(faultOf(content, { rate: pal })).toMatchObject({ code });
  });

  test('broken JSON says where', () => {
    expect(faultOf('{"OTIO_SCHEMA": "Timeline.1",\n"tracks":')).toMatchObject({ line: 2, column: 10 });
    expect(faultOf('{\n  "OTIO_SCHEMA": "Timeline.1",\n  "tracks": nope\n}')).toMatchObject({
      code: 'json-broken',
      line: 3,
    });
  });
});

test.each(textEncodings)('a list in %s goes out as it came in', (encoding) => {
  const source = encodeText({ text: list.replace('kiln notes', 'Öfen “notes”'), encoding });
  const { remarks, edit } = read(source);
  expect(remarks[0]).toMatchObject({ text: 'Öfen “notes” nobody asked for' });
  expect(edit.clips).toHaveLength(1);
  expect(relinkDocument(source, 'edl', new Map())).toEqual({ bytes: source, reencoded: false });
});

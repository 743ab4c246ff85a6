import { expect, test } from '@jest/globals';
import type { Detail, HeaderFault } from '@legame/core/model';
import { detailWords } from './details.ts';

type Found = Exclude<Detail, string>;
/** One of each code; the compiler asks for those that come to be. */
const details: { readonly [C in Found['code']]: Extract<Found, { code: C }> } = {
  header: { code: 'header', container: 'MXF', fault: { code: 'ends-in-value' } },
  'index-unwritten': { code: 'index-unwritten' },
  'index-missing': { code: 'index-missing' },
  'ends-in-index': { code: 'ends-in-index' },
  'ends-in-header': { code: 'ends-in-header' },
  'no-picture-no-sound': { code: 'no-picture-no-sound' },
  'no-sound-data': { code: 'no-sound-data' },
  pixels: { code: 'pixels', width: 70_000, height: 70_001 },
  'is-other': { code: 'is-other', what: 'rar' },
  'files-listed': { code: 'files-listed', files: 1 },
  'gave-no-reason': { code: 'gave-no-reason' },
  'header-beyond-files': { code: 'header-beyond-files' },
  'decodes-beyond-films': { code: 'decodes-beyond-films' },
  'frames-decoded': { code: 'frames-decoded', frames: 49, of: 1250 },
  'reader-ended': { code: 'reader-ended' },
  'drive-silent': { code: 'drive-silent' },
  'file-gone': { code: 'file-gone' },
  'decoding-too-long': { code: 'decoding-too-long', seconds: 20 },
  'decoder-stopped': { code: 'decoder-stopped' },
  'no-picture-given': { code: 'no-picture-given' },
  'plays-not': { code: 'plays-not' },
  'rate-unknown': { code: 'rate-unknown' },
  'no-wave-to-cut': { code: 'no-wave-to-cut' },
  'frames-uncountable': { code: 'frames-uncountable' },
  'took-too-long': { code: 'took-too-long', seconds: 90 },
  'not-written': { code: 'not-written' },
  'sound-differs': { code: 'sound-differs' },
  'not-in-source': { code: 'not-in-source' },
  'pictures-counted': { code: 'pictures-counted', found: 24, wanted: 25 },
  'pictures-differ': { code: 'pictures-differ', fromFrame: 7 },
  'not-read-back': { code: 'not-read-back' },
  'part-unreadable': { code: 'part-unreadable' },
  'fact-differs': { code: 'fact-differs', fact: 'length', is: '9', wanted: '10' },
  'odd-sides': { code: 'odd-sides' },
  'picture-too-small': { code: 'picture-too-small' },
  'is-link': { code: 'is-link' },
  'zip-without': { code: 'zip-without', part: 'content.otio' },
  'zip-locked': { code: 'zip-locked' },
  'zip-unread': { code: 'zip-unread', said: 'bad offset' },
  'value-beyond-json': { code: 'value-beyond-json' },
};

test.each(Object.values(details))('$code goes into a sentence, with all that it carries', (detail) => {
  const words = detailWords(detail);
  expect(words).toMatch(/^[a-z0-9]/);
  expect(words).not.toMatch(/\.$|undefined|\[object/);
  // What it carries is said, numbers with their thousands apart; a fault inside is said in words of its own.
  for (const [name, value] of Object.entries(detail))
    if (name !== 'code' && name !== 'what' && (typeof value === 'string' || typeof value === 'number'))
      expect(words.replaceAll('\u202f', '')).toContain(String(value));
});

test('no two say the same', () => {
  const said = Object.values(details).map(detailWords);
  expect(new Set(said).size).toBe(said.length);
});

test('the words of another program are said as they are', () => {
  expect(detailWords('moov atom not found')).toBe('moov atom not found');
});

test.each<[HeaderFault, string]>([
  [{ code: 'part-above-whole', part: 'stsz' }, 'its part “stsz” is larger than what holds it (MOV)'],
  [{ code: 'ends-in-field', at: 312 }, 'it ends inside a field at 312 (MOV)'],
  [{ code: 'index-lacks', part: 'stco' }, 'its index lacks “stco” (MOV)'],
  [{ code: 'part-below-head' }, 'one of its parts is smaller than its own head (MOV)'],
])('a header is broken where it is: %j', (fault, words) => {
  expect(detailWords({ code: 'header', container: 'MOV', fault })).toBe(words);
});

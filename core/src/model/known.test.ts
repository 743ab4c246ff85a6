import { describe, expect, test } from '@jest/globals';
import { knownFromMetadata, nothingKnown } from './known.ts';

const known = (header: string, text: string) => knownFromMetadata({ [header]: text });

describe('what the words of a log state of the file itself', () => {
  test('columns by any usual spelling of their name; others state nothing', () => {
    for (const header of ['Size', 'file size', 'FILE_SIZE', 'Size (in bytes)', 'filesize'])
      expect(known(header, '4096')).toEqual({ ...nothingKnown, sizeInBytes: 4096 });
    expect(known('Scene', '12A')).toBeNull();
    expect(knownFromMetadata({})).toBeNull();
  });

  test.each([
    ['12 345 678', 12_345_678],
    ['12.345.678', 12_345_678],
    ["12'345'678 bytes", 12_345_678],
    ['12,345,678 B', 12_345_678],
    ['4096.0', 4096],
    // A size in larger units is rounded: it is no size to hold a file against.
    ['1.5 GB', null],
    ['1.5', null],
    ['12,34', null],
    ['', null],
    ['0', null],
    ['-4', null],
    ['large', null],
  ])('size "%s"', (text, sizeInBytes) => {
    expect(known('Size', text)).toMatchObject({ sizeInBytes });
  });

  test.each([
    ['48000', 48_000],
    ['48 kHz', 48_000],
    ['48', 48_000],
    ['48k', 48_000],
    ['44.1', 44_100],
    ['44,1 kHz', 44_100],
    ['44.1 kHz', 44_100],
    ['48,000', 48_000],
    ['48.000 Hz', 48_000],
    ['192 000', 192_000],
    ['0', null],
    ['high', null],
  ])('sample rate "%s"', (text, sampleRate) => {
    expect(known('Audio Sample Rate', text)).toMatchObject({ sampleRate });
  });

  test.each([
    ['2', 2],
    ['8 ch', 8],
    // A layout of loudspeakers is no count: six are in it, and none is fifty-one.
    ['5.1', null],
    ['7.1', null],
    ['stereo', null],
  ])('channels "%s"', (text, channels) => {
    expect(known('Channels', text)).toMatchObject({ channels });
  });

  test.each([
    ['0123456789abcdef', '0123456789abcdef'],
    [' 0123456789ABCDEF ', '0123456789abcdef'],
    ['n/a', null],
    ['d41d8cd98f00b204e9800998ecf8427e', null],
    ['', null],
  ])('a hash "%s"', (text, fullHash) => {
    expect(known('xxh64', text)).toMatchObject({ fullHash });
  });

  test.each([
    ['2026-03-04', Date.UTC(2026, 2, 4)],
    ['2026-03-04T10:11:12Z', Date.UTC(2026, 2, 4, 10, 11, 12)],
    ['2026-03-04 10:11:12+02:00', Date.UTC(2026, 2, 4, 8, 11, 12)],
    // Of a clock whose zone nobody wrote down, the day.
    ['2026-03-04 10:11:12', Date.UTC(2026, 2, 4)],
    ['2026-03-04T23:59', Date.UTC(2026, 2, 4)],
    ['04/03/2026', null],
    ['2026-13-40', null],
    ['2026-03-04 or so', null],
  ])('written "%s"', (text, writtenMs) => {
    expect(known('Date modified', text)).toMatchObject({ writtenMs });
  });

  test('several columns are one knowledge; an empty one takes nothing back', () => {
    expect(knownFromMetadata({ Codec: 'prores', Channels: '2', Size: ' ', Scene: '3' })).toEqual({
      ...nothingKnown,
      codec: 'prores',
      channels: 2,
    });
  });
});

import { describe, expect, test } from '@jest/globals';
import type { DocumentView } from '@legame/core/contract';
import { choiceSchema, formatsFor, isOwnForm, queryOf, type ExportChoice } from './exports.ts';

const timeline = {
  key: 't1',
  name: 'Cut',
  top: true,
  tracks: ['V1', 'A1'],
} as unknown as DocumentView['timelines'][number];
const document = (format: DocumentView['format'], timelines = [timeline]) =>
  ({ format, timelines }) as unknown as DocumentView;
const choice = (more: Partial<ExportChoice> = {}): ExportChoice => ({
  format: 'otio',
  timeline: 't1',
  track: '',
  paths: 'absolute',
  folder: '',
  roots: {},
  reels: false,
  ...more,
});

describe('what a document can go out as', () => {
  test('its own format comes first; a log is no list, and what has no timeline makes none', () => {
    expect(formatsFor(document('otio'))).toEqual(['otio', 'edl', 'log']);
    expect(formatsFor(document('edl'))).toEqual(['edl', 'otio', 'log']);
    expect(formatsFor(document('log'))).toEqual(['log', 'otio']);
    expect(formatsFor(document('otio', []))).toEqual(['otio', 'log']);
  });
});

describe('what is asked of the server', () => {
  test('of its own format only how paths are said: not one other character changes', () => {
    expect(queryOf(document('otio'), choice())).toEqual({ paths: 'absolute' });
    expect(isOwnForm(document('edl'), choice({ format: 'edl' }))).toBe(true);
    expect(isOwnForm(document('edl'), choice({ format: 'edl', track: 'A1' }))).toBe(false);
  });

  test('of a list the timeline and the track, the first where none was chosen', () => {
    expect(queryOf(document('otio'), choice({ format: 'edl', reels: true }))).toEqual({
      paths: 'absolute',
      reels: 'true',
      format: 'edl',
      timeline: 't1',
      track: 'V1',
    });
    expect(queryOf(document('otio'), choice({ format: 'edl', track: 'A1' }))).toMatchObject({ track: 'A1' });
  });

  test('roots of those places only that were said, folders only where paths are relative', () => {
    expect(
      queryOf(document('otio'), choice({ paths: 'place-roots', folder: '/x', roots: { a: '/Volumes/A', b: '' } })),
    ).toEqual({
      paths: 'place-roots',
      roots: JSON.stringify({ a: '/Volumes/A' }),
    });
    expect(queryOf(document('otio'), choice({ paths: 'relative', folder: '/x' }))).toEqual({
      paths: 'relative',
      folder: '/x',
    });
  });

  test('a relative path without a whole folder is refused before it is asked', () => {
    expect(choiceSchema.safeParse(choice({ paths: 'relative', folder: 'x' })).success).toBe(false);
    expect(choiceSchema.safeParse(choice({ paths: 'relative', folder: '/x' })).success).toBe(true);
    expect(choiceSchema.safeParse(choice({ folder: 'x' })).success).toBe(true);
  });
});

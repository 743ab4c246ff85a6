import { expect, test } from '@jest/globals';
import { changesText } from './documents.ts';

const timeline = { name: 'cut', only: null, unchanged: 1, added: 0, removed: 0, moved: 0, trimmed: 0, reSourced: 0 };

test.each([
  [
    { timelines: [timeline], kept: 1, fresh: 0, gone: 0 },
    'No event is different. 1 clip keeps its link and decisions.',
  ],
  [
    {
      timelines: [
        { ...timeline, moved: 1 },
        { ...timeline, moved: 2, reSourced: 1 },
      ],
      kept: 3,
      fresh: 1,
      gone: 2,
    },
    '3 events moved, 1 with another source. 3 clips keep their links and decisions, 1 is new, 2 are used no more.',
  ],
])('what a newer version would change is counted over its timelines', (would, text) => {
  expect(changesText(would)).toBe(text);
});

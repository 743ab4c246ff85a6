import { describe, expect, test } from '@jest/globals';
import { findHelp, glossary, screenHelp, termsIn } from './help.ts';
import { tour } from './tour.ts';

test('every word is explained once, in the order of a dictionary', () => {
  const terms = glossary.map(([term]) => term.toLowerCase());
  expect(terms).toEqual([...new Set(terms)].sort((a, b) => a.localeCompare(b, 'en')));
  for (const [term, meaning] of glossary) expect(meaning.length).toBeGreaterThan(term.length);
});

test('what is called so comes first; every word counts, wherever it stands', () => {
  expect(findHelp('pin').terms[0]![0]).toBe('pin');
  expect(findHelp('Frames handles').terms.map(([term]) => term)).toEqual(['handles']);
  expect(findHelp('archive asked').screens.map((s) => s.path)).toEqual([]);
  expect(findHelp('undo checkpoint').screens.map((s) => s.path)).toEqual(['history']);
  const nothing = findHelp('zebra');
  expect([nothing.screens, nothing.terms]).toEqual([[], []]);
  expect(findHelp(' ').terms).toHaveLength(glossary.length);
  expect(findHelp('').screens).toHaveLength(Object.keys(screenHelp).length);
});

test('statuses stand under the words that the screens use', () => {
  const known = new Set(glossary.map(([term]) => term));
  for (const status of ['Linked', 'Missing', 'Changed', 'Unreadable', 'Short']) expect(known.has(status)).toBe(true);
});

test('the tour has five steps, each on another screen', () => {
  expect(new Set(tour.map((step) => step.screen)).size).toBe(5);
});

describe('the words of a text', () => {
  const terms = (text: string) => termsIn(text).map(([term]) => term);

  test('are known in every form that the screens use, and in their order', () => {
    expect(terms('3 clips are parked, 2 waived')).toEqual(['clip', 'park', 'waive']);
    expect(terms('Pins of these handoffs')).toEqual(['pin', 'handoff']);
    expect(terms('trimmed, pinned, swapping')).toEqual(['trim', 'pin', 'swap']);
    expect(terms('nothing of the kind')).toEqual([]);
  });

  test('that are longer go before those inside them', () => {
    expect(terms('Source timecode')).toEqual(['source timecode']);
    expect(terms('the pull list of a reel')).toEqual(['pull list', 'reel']);
  });

  test('statuses are told by their capital', () => {
    expect(terms('Linked')).toEqual(['Linked']);
    expect(terms('linked')).toEqual(['link']);
    expect(terms('a short one that changed')).toEqual([]);
    for (const status of ['Linked', 'Missing', 'Changed', 'Unreadable', 'Short'])
      expect(terms(status)).toContain(status);
  });

  test('all screens are named by words that are told, or by their help', () => {
    for (const { title } of Object.values(screenHelp))
      expect([title, terms(title).length + findHelp(title).screens.length]).not.toEqual([title, 0]);
  });
});

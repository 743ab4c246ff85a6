import { expect, test } from '@jest/globals';
import { findHelp, glossary, screenHelp, tour } from './help.ts';

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

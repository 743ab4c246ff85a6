import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from '@jest/globals';
import { parseRate } from '../time/rate.ts';
import { summaryOf } from '../testing/summary.ts';
import type { ReadOptions } from './format.ts';
import { readDocument, relinkDocument } from './documents.ts';

/**
 * Hand-made documents, each beside what must be read of it. The first line of an expectation says how to read. To make
 * a new one, write that line alone, run with LEGAME_NEW_FIXTURES=1, and check every line against the document.
 */
const folders = ['edl', 'otio', 'log'].map((f) => join(import.meta.dirname, f, '__fixtures__'));
const fixtures = folders.flatMap((folder) =>
  readdirSync(folder)
    .filter((name) => !name.endsWith('.expected.txt'))
    .map((name) => [name, join(folder, name)] as const),
);

function optionsIn(line: string, name: string): ReadOptions {
  const given = Object.fromEntries(
    line.split(' ').flatMap((part) => {
      const [key, value] = part.split('=');
      return value === undefined ? [] : [[key!, key === 'rate' ? parseRate(value)! : value]];
    }),
  );
  return { name, ...given };
}

describe('hand-made documents are read as written beside them', () => {
  test.each(fixtures)('%s', (name, path) => {
    const expectedPath = `${path}.expected.txt`;
    const [how = '', ...expected] = readFileSync(expectedPath, 'utf8').trimEnd().split('\n');
    const content = readFileSync(path);
    const read = readDocument(content, optionsIn(how, name));
    const found =
      read.format !== null && read.result.ok
        ? summaryOf(read.result)
        : [`fault ${JSON.stringify(read.format === null ? read.fault : !read.result.ok && read.result.fault)}`];
    if (expected.length === 0 && process.env.LEGAME_NEW_FIXTURES)
      writeFileSync(expectedPath, `${[how, ...found].join('\n')}\n`);
    expect(found).toEqual(expected);
    if (read.format === null || !read.result.ok) return;
    // Whatever is in it, it goes out byte for byte when nothing is relinked.
    expect(Buffer.from(relinkDocument(content, read.format, new Map()).bytes).equals(content)).toBe(true);
  });
});

import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { openHouse, type House } from '../testing/house.ts';
import { copyRows, openCopy, type Row } from './copy.ts';
import type { Transaction } from './database.ts';

let house: House;
beforeAll(async () => {
  house = await openHouse({ worker: false });
});
afterAll(() => house.close());

type Copied = { at: number; text: string | null; json: unknown };
/** What stands in a table into which these were copied, in their order. */
const copied = (put: (trx: Transaction, table: string, columns: readonly string[]) => Promise<void>) =>
  house.db.transaction(async (trx) => {
    await trx.raw('create temporary table copied (at int, text text, json jsonb) on commit drop');
    await put(trx, 'copied', ['at', 'text', 'json']);
    return (await trx('copied').orderBy('at')) as Copied[];
  });
const rowOf = (text: string | null, at: number): Row => [at, text, text === null ? null : JSON.stringify({ text })];
const asCopied = (texts: readonly (string | null)[]): Copied[] =>
  texts.map((text, at) => ({ at, text, json: text === null ? null : { text } }));

describe('rows that are copied into a table', () => {
  it('are what they were, whatever stands in them', async () => {
    const text = fc.string({ unit: fc.constantFrom(...'ab"\\{}N.,\n\r\t\u0007 ü🔥') });
    await fc.assert(
      fc.asyncProperty(fc.array(fc.option(text), { maxLength: 40 }), async (texts) => {
        const rows = await copied((trx, table, columns) => copyRows(trx, table, columns, texts, rowOf));
        expect(rows).toEqual(asCopied(texts));
      }),
      { numRuns: 60, examples: [[['\\N', '\\.', null, '', 'C:\\new\ttab\\']]] },
    );
  });

  it('are all there, in their order, however many', async () => {
    const texts = Array.from({ length: 1201 }, (_, i) => (i % 7 === 0 ? null : `${'x'.repeat(i)}\n${i}`));
    expect(await copied((trx, table, columns) => copyRows(trx, table, columns, texts, rowOf))).toEqual(asCopied(texts));
    const inPieces = await copied(async (trx, table, columns) => {
      const copy = await openCopy(trx, table, columns);
      for (let at = 0; at < texts.length; at += 100)
        copy.write(texts.slice(at, at + 100).map((text, i) => rowOf(text, at + i)));
      await copy.end();
    });
    expect(inPieces).toEqual(asCopied(texts));
  });

  it('fail as a whole, and their transaction with them', async () => {
    const wrong: Row[] = [rowOf('good', 0), ['no number', 'bad', null]];
    await expect(copied((trx, table, columns) => copyRows(trx, table, columns, wrong, (row) => row))).rejects.toThrow(
      /invalid input syntax/,
    );
    expect(await copied(() => Promise.resolve())).toEqual([]);
  });
});

import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { listBindings } from './lists.ts';
import { openHouse, type House } from '../testing/house.ts';

let house: House;
beforeAll(async () => {
  house = await openHouse({ worker: false });
});
afterAll(() => house.close());

const back = async (type: string, list: readonly (string | number | boolean | null)[]): Promise<unknown> =>
  ((await house.db.raw(`select to_json(?::${type}[]) as list`, listBindings(list))) as { rows: [{ list: unknown }] })
    .rows[0].list;

describe('lists as bindings', () => {
  it('come back as they were, whatever stands in them', async () => {
    const texts = [
      '',
      'NULL',
      null,
      'a "name", {braced}',
      'back\\slash\\',
      ' edges ',
      'line\nbreak\r\n\ttab',
      '\u0001',
      'Süß 硝子 🔥',
      '\\n',
    ];
    expect(await back('text', texts)).toEqual(texts);
    expect(await back('text', [])).toEqual([]);
    expect(await back('int', [1, null, -3])).toEqual([1, null, -3]);
    expect(await back('float8', [0.1, 1e21, -0.5])).toEqual([0.1, 1e21, -0.5]);
    expect(await back('boolean', [true, null, false])).toEqual([true, null, false]);
  });

  it('hold JSON that holds line breaks and quotes', async () => {
    const bodies = [{ name: 'two\nlines "quoted" \\ 🔥', nested: [{ a: null }] }, null];
    expect(
      await back(
        'jsonb',
        bodies.map((b) => b && JSON.stringify(b)),
      ),
    ).toEqual(bodies);
  });

  it('come back as they were for texts made at random', async () => {
    const letters = [...'ab"\\{},\n\r\t\u0007 ü🔥NUL'];
    let seed = 7;
    const random = (n: number) => (seed = (seed * 48271) % 2147483647) % n;
    const texts = Array.from({ length: 2000 }, () =>
      Array.from({ length: random(12) }, () => letters[random(letters.length)]).join(''),
    );
    expect(await back('text', texts)).toEqual(texts);
  });
});

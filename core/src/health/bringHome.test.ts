import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { MediaFileId } from '../model/ids.ts';
import { nameKey, safeName } from '../paths/names.ts';
import { defaultTemplate, withContent } from '../folders/index.ts';
import { waysHome, type ToBringHome } from './index.ts';

const file = (path: string, kind: ToBringHome['kind'] = 'picture'): ToBringHome => {
  const parts = path.split('/');
  return { id: path as MediaFileId, kind, folders: parts.slice(0, -1), name: parts.at(-1)! };
};
const ways = (
  files: readonly ToBringHome[],
  folder = 'film',
  taken: readonly string[] = [],
  template = defaultTemplate,
) => [...waysHome(files, { folder }, template, taken).values()];

describe('the way home', () => {
  it('goes by kind, then by the card that a file came from, whatever folders a camera makes on every card', () => {
    expect(
      ways([
        file('KILN_A/day1/cardA/CLIP/bowl.mov'),
        file('RECORDER/ROLL_02/wild.wav', 'sound'),
        file('DESK/title.png', 'still'),
        file('DESK/strange.bin', null),
      ]),
    ).toEqual([
      'film/picture/cardA/bowl.mov',
      'film/sound/ROLL_02/wild.wav',
      'film/stills/DESK/title.png',
      'film/DESK/strange.bin',
    ]);
    expect(ways([file('KILN_A/cardA/bowl.mov')], '')).toEqual(['picture/cardA/bowl.mov']);
  });

  it('goes where the folders of the project say, wherever in them that is', () => {
    const own = withContent([...defaultTemplate, { path: 'papers/scans', takes: [] }], 'still', 'papers/scans');
    expect(ways([file('DESK/title.png', 'still')], 'film', [], own)).toEqual(['film/papers/scans/DESK/title.png']);
  });

  it('keeps recordings of one name apart, as cards of one name on two drives hold them', () => {
    const [a, b] = ways([file('KILN_A/cardA/C0001.mov'), file('KILN_B/cardA/c0001.MOV')]);
    expect(nameKey(a!)).not.toBe(nameKey(b!));
    expect(a).toBe('film/picture/cardA/KILN_A/C0001.mov');
  });

  it('gives way to what lies at home already, also where only case tells it apart', () => {
    const taken = ['film/picture/cardA/BOWL.mov'];
    expect(ways([file('KILN_A/cardA/bowl.mov')], 'film', taken)).toEqual(['film/picture/cardA/KILN_A/bowl.mov']);
    const both = [...taken, 'film/picture/cardA/KILN_A/bowl.mov'];
    expect(ways([file('KILN_A/cardA/bowl.mov')], 'film', both)).toEqual(['film/picture/cardA/KILN_A/bowl_2.mov']);
  });

  it('makes names safe for every system', () => {
    expect(ways([file('KILN_A/card: A/take 1?.mov')])).toEqual(['film/picture/card_ A/take 1_.mov']);
  });

  it('never leads two files to one place, nor one to where something lies, whatever they are called', () => {
    const name = fc.constantFrom(
      'a.mov',
      'A.mov',
      'b.mov',
      'b',
      'a.mov ',
      'café.mov',
      'cafe\u0301.mov',
      'x?.mov',
      'x:.mov',
    );
    const folder = fc.constantFrom('cardA', 'CARDA', 'day1', 'clip', 'b', 'a.mov');
    const path = fc.tuple(fc.constantFrom('KILN', 'SHED'), folder, folder, name).map((parts) => parts.join('/'));
    fc.assert(
      fc.property(
        fc.uniqueArray(path, { maxLength: 30 }),
        fc.array(
          fc.tuple(folder, name).map(([f, n]) => `film/picture/${f}/${n}`),
          { maxLength: 12 },
        ),
        (paths, taken) => {
          const found = ways(
            paths.map((p) => file(p)),
            'film',
            taken,
          );
          const keys = found.map(nameKey);
          expect(new Set(keys).size).toBe(paths.length);
          for (const key of keys) expect(taken.map(nameKey)).not.toContain(key);
          for (const way of found) expect(way.split('/').every((part) => safeName(part) === part)).toBe(true);
        },
      ),
    );
  });
});

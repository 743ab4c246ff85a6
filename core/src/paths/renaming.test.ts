import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { rename, renamingKey, renamingOf } from './renaming.ts';

describe('how one name became another', () => {
  test.each([
    ['bowl.mov', 'SG_bowl_v2.mov', 'SG_door_v2.mov'],
    ['GH_bowl_01.mov', 'SALT_bowl_01.mov', null],
    ['SG_bowl.mov', 'bowl.mov', null],
    ['take_1.mov', 'take_101.mov', null],
    ['bowl-gather_03.mov', 'bowl-gather_b_03.mov', 'b_door.mov'],
    ['bowl.mov', 'bowl.mxf', 'door.mxf'],
  ])('%s → %s carries to others', (before, after, door) => {
    const renaming = renamingOf(before, after)!;
    expect(rename(before, renaming)).toBe(after);
    expect(rename('door.mov', renaming)).toBe(door);
  });

  test('patterns are the same for all names that were changed alike', () => {
    const key = (before: string, after: string) => renamingKey(renamingOf(before, after)!);
    expect(key('GH_bowl_01.mov', 'SALT_bowl_01.mov')).toBe(key('GH_door-wide_07.mov', 'SALT_door-wide_07.mov'));
    expect(key('take_007.mov', 'take_107.mov')).toBe(key('pipe_31.mov', 'pipe_131.mov'));
    expect(key('take_1.mov', 'take_101.mov')).toBe(key('take_12.mov', 'take_112.mov'));
    expect(key('take_1.mov', 'take_2.mov')).not.toBe(key('take_1.mov', 'take_3.mov'));
  });

  test('numbers keep their width; names that share nothing have no pattern', () => {
    expect(rename('pipe_008.mov', renamingOf('bowl_001.mov', 'bowl_005.mov')!)).toBe('pipe_012.mov');
    expect(rename('pipe.mov', renamingOf('bowl_001.mov', 'bowl_005.mov')!)).toBeNull();
    expect(renamingOf('bowl.mov', 'k81-q.mov')).toBeNull();
  });

  test('applied to the name it was found on, a renaming gives the other name (any names)', () => {
    const word = fc.stringMatching(/^[A-Za-z]{1,6}$/);
    const number = fc.integer({ min: 0, max: 999 }).map((n) => String(n).padStart(3, '0'));
    const name = fc
      .tuple(fc.array(fc.oneof(word, number), { minLength: 1, maxLength: 4 }), fc.constantFrom('-', '_', ' '))
      .map(([parts, separator]) => `${parts.join(separator)}.mov`);
    fc.assert(
      fc.property(name, name, (before, after) => {
        const renaming = renamingOf(before, after);
        if (renaming) expect(rename(before, renaming)!.toLowerCase()).toBe(after.toLowerCase());
      }),
    );
  });
});

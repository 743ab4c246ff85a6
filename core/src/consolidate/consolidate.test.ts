import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { clipId, fileId } from '../testing/build.ts';
import { filesToCopy, planWholeFiles, type PlanInput } from './plan.ts';
import { roomAfter } from './room.ts';

const input = (id: string, path: string, usedBy: string[] = ['cut']): PlanInput => {
  const parts = path.split('/');
  return {
    clipId: clipId(id),
    clipName: parts.at(-1)!,
    usedBy,
    reason: null,
    file: {
      id: fileId(path),
      placeName: parts[0]!,
      folder: parts.slice(1, -1).join('/'),
      name: parts.at(-1)!,
      sizeInBytes: 100,
      sequence: null,
    },
  };
};

describe('the plan', () => {
  test('each file once, however many clips use it; bytes summed; what cannot come along is named', () => {
    const plan = planWholeFiles([
      input('1', 'KILN_A/a/bowl.mov'),
      input('2', 'KILN_A/a/bowl.mov', ['trailer']),
      input('3', 'KILN_B/b/door.mov'),
      { clipId: clipId('4'), clipName: 'gone.mov', usedBy: ['cut'], file: null, reason: 'place-away' },
    ]);
    expect(plan.files.map((f) => [f.source, f.target, f.clipIds, f.usedBy])).toEqual([
      ['a/bowl.mov', 'media/bowl.mov', ['1', '2'], ['cut', 'trailer']],
      ['b/door.mov', 'media/door.mov', ['3'], ['cut']],
    ]);
    expect(plan.sizeInBytes).toBe(200);
    expect(plan.leftOut).toEqual([{ clipId: '4', clipName: 'gone.mov', reason: 'place-away' }]);
  });

  test('two files of one name go into folders named after theirs, and numbers where that is not enough', () => {
    const plan = planWholeFiles([
      input('1', 'KILN_A/card_A/GB7.mov'),
      input('2', 'KILN_B/card_B/gb7.MOV'),
      input('3', 'KILN_C/card_B/GB7.mov'),
    ]);
    expect(plan.files.map((f) => f.target)).toEqual([
      'media/card_A/GB7.mov',
      'media/card_B/gb7.MOV',
      'media/card_B/GB7_2.mov',
    ]);
  });

  test('targets never collide, never leave the folder, and do not depend on the order of clips', () => {
    const names = fc.constantFrom(
      'a.mov',
      'A.MOV',
      'a_2.mov',
      'x/a.mov',
      'caf\u00e9.mov',
      'cafe\u0301.mov',
      'con.wav',
      '..',
      'b?.mov',
      'b:.mov',
    );
    const folders = fc.constantFrom('', 'x', 'X', 'x/y', 'y', '../..');
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.tuple(fc.constantFrom('P', 'Q'), folders, names), {
          maxLength: 25,
          selector: (t) => t.join('|'),
        }),
        (list) => {
          const inputs = list.map(([placeName, folder, name], i): PlanInput => ({
            clipId: clipId(String(i)),
            clipName: name,
            usedBy: [],
            reason: null,
            file: {
              id: fileId(`${placeName}|${folder}|${name}`),
              placeName,
              folder,
              name,
              sizeInBytes: 1,
              sequence: null,
            },
          }));
          const plan = planWholeFiles(inputs);
          const keys = plan.files.map((f) => f.target.normalize('NFC').toLowerCase());
          expect(new Set(keys).size).toBe(list.length);
          for (const { target } of plan.files)
            expect(
              target
                .split('/')
                .every((part, i) => (i === 0 ? part === 'media' : part !== '..' && part !== '.' && part !== '')),
            ).toBe(true);
          const reversed = planWholeFiles([...inputs].reverse());
          expect(reversed.files.map((f) => f.target)).toEqual(plan.files.map((f) => f.target));
        },
      ),
      { numRuns: 60 },
    );
  });

  test('a sequence brings every frame that it has, in a folder of its own', () => {
    const sequence = { prefix: 'title_', suffix: '.png', padding: 4, first: 1001, last: 1003, missing: [1002] };
    const plan = planWholeFiles([
      {
        ...input('1', 'S/titles/title_####.png'),
        file: { id: fileId('s'), placeName: 'S', folder: 'titles', name: 'title_####.png', sizeInBytes: 9, sequence },
      },
    ]);
    expect(filesToCopy(plan.files[0]!)).toEqual([
      { source: 'titles/title_1001.png', target: 'media/title/title_1001.png' },
      { source: 'titles/title_1003.png', target: 'media/title/title_1003.png' },
    ]);
  });
});

test('room is what is free less headroom', () => {
  const room = { freeInBytes: 300, totalInBytes: 1000, headroomShare: 0.2 };
  expect(roomAfter(100, room)).toEqual({ fits: true, usableInBytes: 100, leftInBytes: 0 });
  expect(roomAfter(101, room).fits).toBe(false);
  expect(roomAfter(1, { ...room, freeInBytes: 150 })).toMatchObject({ fits: false, usableInBytes: 0 });
});

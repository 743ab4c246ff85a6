import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { codedSoundAs } from '@legame/core/consolidate';
import { buildFile } from '@legame/core/testing';
import { inLanes, inTurns } from './lanes.ts';

const facts = buildFile('KILN/bowl.mov').facts!;
const part = (kind: 'picture' | 'sound' = 'picture', coded = false) => ({
  range: { start: 0, end: 10 },
  startsAt: 0,
  facts: { ...facts, kind },
  coded: coded ? codedSoundAs({ codec: 'mp3', bitDepth: null }) : null,
});
const file = fc.record({
  source: fc.constantFrom('/a.mov', '/a.mov', '/b.mov'),
  sizeInBytes: fc.constantFrom(10, 1_000_000, 90_000_000, 500_000_000),
  trim: fc.constantFrom(part(), part(), part(), part('sound'), part('picture', true), null),
});

describe('the turns of files', () => {
  test('each comes once and in order; written together are only parts of one film, few and not too large', () => {
    fc.assert(
      fc.property(fc.array(file, { maxLength: 60 }), (files) => {
        const groups = inTurns(files);
        expect(groups.flat().map((turn) => turn.file)).toEqual(files);
        for (const group of groups) {
          for (const [i, { file: one, next }] of group.entries()) {
            expect(next).toEqual(group.slice(i + 1).map((turn) => turn.file));
            for (const other of next) {
              expect(other.source).toBe(one.source);
              expect([one, other].every(({ trim }) => trim?.facts.kind === 'picture' && trim.coded === null)).toBe(
                true,
              );
            }
          }
          expect(group.length).toBeLessThanOrEqual(8);
          const bytes = group.reduce((sum, turn) => sum + turn.file.sizeInBytes, 0);
          expect(group.length === 1 || bytes <= 200_000_000).toBe(true);
        }
      }),
    );
  });

  test('one lane works off a group in order; what is thrown ends all lanes, and is thrown once they ended', async () => {
    const files = Array.from({ length: 30 }, (_, i) => ({
      source: `/${Math.floor(i / 3)}.mov`,
      sizeInBytes: 1,
      trim: part(),
    }));
    const done: (typeof files)[number][] = [];
    const lanesOf = new Map<string, Set<unknown>>();
    await inLanes(inTurns(files), new AbortController().signal, async (copier, turn) => {
      await new Promise((resolve) => setTimeout(resolve, Math.random() * 5));
      lanesOf.set(turn.file.source, (lanesOf.get(turn.file.source) ?? new Set()).add(copier));
      done.push(turn.file);
    });
    expect(done).toHaveLength(30);
    expect([...lanesOf.values()].every((lanes) => lanes.size === 1)).toBe(true);
    const begun: string[] = [];
    const broken = inLanes(inTurns(files), new AbortController().signal, async (_, turn, signal) => {
      begun.push(turn.file.source);
      if (turn.file.source === '/1.mov') throw new Error('the drive went away');
      await new Promise((resolve) => signal.addEventListener('abort', resolve));
    });
    await expect(broken).rejects.toThrow('the drive went away');
    expect(begun).not.toContain('/9.mov');
  }, 20_000);
});

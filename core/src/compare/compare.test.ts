import { describe, expect, test } from '@jest/globals';
import { readText } from '../testing/reading.ts';
import { rate } from '../time/rate.ts';
import { formatTimecode } from '../time/timecode.ts';
import { sameClips } from './clips.ts';
import { compareEdits } from './edits.ts';

const tc = (frames: number) => formatTimecode(frames, rate(25));
type Cut = readonly [name: string, from: number, length: number, reel?: string, file?: string];

/** A list of cuts end to end: name, source in, length. */
function listOf(...cuts: Cut[]) {
  let record = 90_000;
  const lines = cuts.flatMap(([name, from, length, reel = 'A001', file], i) => {
    const line = `${String(i + 1).padStart(3, '0')} ${reel} V C ${tc(from)} ${tc(from + length)} ${tc(record)} ${tc(record + length)}`;
    record += length;
    return [line, `* FROM CLIP NAME: ${name}`, ...(file ? [`* SOURCE FILE: ${file}`] : [])];
  });
  return readText(lines.join('\n')).edit;
}

const first = listOf(['gather', 1000, 50], ['marver', 2000, 60], ['door', 3000, 40], ['ember', 4000, 30]);

describe('two versions of a timeline', () => {
  test('the same is unchanged', () => {
    expect(compareEdits(first, first)).toEqual([
      expect.objectContaining({ name: first.title, only: null, changes: [] }),
    ]);
  });

  test('inserted, removed, trimmed, moved and re-sourced events are told apart', () => {
    const second = listOf(
      ['gather', 1000, 50],
      ['salt', 5000, 25],
      ['marver', 2005, 50],
      ['pipe', 6000, 40],
      ['ember', 4000, 30],
    );
    const [changes] = compareEdits(first, second);
    expect(changes!.kept.map((e) => [e.name, e.record.start])).toEqual([['gather', 90_000]]);
    const brief = changes!.changes.map((c) => {
      const name = c.kind === 'removed' ? c.before.name : c.event.name;
      if (c.kind === 'moved') return [c.kind, name, c.byFrames];
      return c.kind === 'trimmed' ? [c.kind, name, c.headFrames, c.tailFrames] : [c.kind, name];
    });
    expect(brief).toEqual([
      ['added', 'salt'],
      ['trimmed', 'marver', -5, -5],
      ['removed', 'door'],
      ['added', 'pipe'],
      ['moved', 'ember', 15],
    ]);
  });

  test('another source in the same place is re-sourced', () => {
    const second = listOf(['gather', 1000, 50], ['marver', 2000, 60], ['window', 9000, 40], ['ember', 4000, 30]);
    const [changes] = compareEdits(first, second);
    expect(changes!.changes).toEqual([
      expect.objectContaining({
        kind: 're-sourced',
        event: expect.objectContaining({ name: 'window' }) as unknown,
        before: expect.objectContaining({ name: 'door' }) as unknown,
      }),
    ]);
  });

  test('of an older version at another rate all is told in frames of the newer: by time, not by number', () => {
    const older = { ...first, timelines: first.timelines.map((t) => ({ ...t, rate: rate(50) })) };
    const [at50] = older.timelines;
    // Twice as many frames a second: what stood at frame 90050 stands at half of it.
    const [changes] = compareEdits(older, { ...first, timelines: [{ ...at50!, events: [], rate: rate(25) }] });
    const starts = changes!.changes.map((c) => (c.kind === 'removed' ? c.before.record.start : null));
    expect(starts).toEqual(at50!.events.map((e) => Math.floor(e.record.start / 2)));
  });

  test('a timeline that only one version has is told as such', () => {
    const both = { ...first, timelines: [...first.timelines, { ...first.timelines[0]!, key: 'x', name: 'trailer' }] };
    expect(compareEdits(first, both).map((t) => [t.name, t.only])).toEqual([
      [first.title, null],
      ['trailer', 'newer'],
    ]);
    expect(compareEdits(both, first).map((t) => [t.name, t.only])).toEqual([
      [first.title, null],
      ['trailer', 'older'],
    ]);
  });
});

describe('which clip of a newer version is which of the older', () => {
  const names = (older: ReturnType<typeof listOf>, newer: ReturnType<typeof listOf>) =>
    [...sameClips(older.clips, newer.clips)].map(([key, old]) => [
      newer.clips.find((c) => c.key === key)!.name,
      older.clips.find((c) => c.key === old)!.name,
    ]);

  test('a renamed clip of one remembered file, and a clip whose folder moved, are the same clips', () => {
    const older = listOf(
      ['bowl', 0, 50, 'A001', '/Volumes/K/bowl.mov'],
      ['door', 0, 50, 'A002', '/Volumes/K/door.mov'],
    );
    const newer = listOf(
      ['bowl, wide', 0, 50, 'A001', '/Volumes/K/bowl.mov'],
      ['door', 0, 50, 'A002', '/Volumes/NEW/door.mov'],
    );
    expect(names(older, newer)).toEqual([
      ['bowl, wide', 'bowl'],
      ['door', 'door'],
    ]);
  });

  test('a clip of one name that now remembers another file is another clip', () => {
    const older = listOf(['bowl', 0, 50, 'A001', '/Volumes/K/bowl.mov']);
    expect(names(older, listOf(['bowl', 0, 50, 'A001', '/Volumes/K/pickup_07.mov']))).toEqual([]);
    expect(names(older, listOf(['bowl', 0, 50, 'A001']))).toEqual([['bowl', 'bowl']]);
  });

  test('where two clips could be meant, none is', () => {
    const older = listOf(['take', 0, 50, 'A001'], ['take', 0, 50, 'B001']);
    expect(names(older, listOf(['take', 0, 50, 'C001']))).toEqual([]);
  });
});

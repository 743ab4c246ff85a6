import { expect, test } from '@jest/globals';
import { filmDocument } from '../../../demo/film.ts';
import { readDocument } from '@legame/core/formats';
import { rangeLength } from '@legame/core/time';

test('the film is what it says: twelve minutes on six tracks, of everything that an edit can have, read without a remark', () => {
  const read = readDocument(new TextEncoder().encode(filmDocument()), { name: 'film.otio' });
  if (read.format === null || !read.result.ok) throw new Error(JSON.stringify(read));
  const { edit, remarks } = read.result;
  expect(remarks).toEqual([]);
  const film = edit.timelines.find((t) => t.top)!;
  expect(film.length / 25 / 60).toBeCloseTo(12.2, 0);
  const tracks = new Set(film.events.map((e) => e.track));
  expect(tracks.size).toBe(6);
  expect(film.events.length).toBeGreaterThan(240);
  const nests = film.events.filter((e) => e.nestedKey !== null);
  expect([nests.length, edit.timelines.filter((t) => !t.top).length]).toEqual([6, 6]);
  expect(film.events.filter((e) => e.transition).length).toBeGreaterThan(8);
  const speeds = new Set(film.events.map((e) => e.speed.num / e.speed.den));
  expect([...speeds].sort()).toEqual([-1, 0, 0.5, 1, 1.5]);
  expect(film.markers?.map((m) => m.name)).toContain('last firing');
  // It is cut from what its media hold: whatever is dark in it is dark for want of a file, never of frames.
  for (const { name, used, available } of edit.clips)
    for (const range of available ? used : [])
      expect([name, range.start >= available!.start && range.end <= available!.end]).toEqual([name, true]);
  expect(edit.clips.filter((c) => c.available && c.used.some((u) => rangeLength(u) > 0)).length).toBeGreaterThan(40);
  expect(filmDocument()).toBe(filmDocument());
});

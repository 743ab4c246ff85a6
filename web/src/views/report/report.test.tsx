import { afterEach, describe, expect, jest, test } from '@jest/globals';
import { cleanup, render } from '@testing-library/react';
import type { ClipRow } from '@legame/core/contract';
import { causesOf } from './causes.ts';
import { standalone } from './standalone.ts';

afterEach(() => {
  cleanup();
  jest.restoreAllMocks();
});

const row = (name: string, why: ClipRow['why'], seconds: number, status: ClipRow['status']['status'] = 'missing') =>
  ({
    fileName: name,
    name,
    why,
    usedSeconds: seconds,
    status: { status, because: 'nothing-there' },
  }) as unknown as ClipRow;

describe('causes in the report', () => {
  test('clips of one reason are one cause, most dark screen time first; what is linked has none', () => {
    const moved = { code: 'moved', from: 'KILN_A/day2', to: 'KILN_B/day2' } as const;
    const causes = causesOf([
      row('a', moved, 2),
      row('b', { code: 'gone' }, 9),
      row('c', moved, 4),
      row('d', null, 60, 'linked'),
      row('e', { code: 'several', count: 2 }, 1),
      row('f', { code: 'several', count: 3 }, 1),
    ]);
    expect(causes.map((c) => [c.sentence, c.rows.length, c.seconds])).toEqual([
      ['nothing found in any place: no name, reel or timecode fits', 1, 9],
      ['moved: KILN_A/day2 → KILN_B/day2', 2, 6],
      ['several candidates are equally good: choose one for each', 2, 2],
    ]);
  });
});

describe('a page saved as one file', () => {
  test('holds its pictures and styles, no link and no script; a picture that does not come is left out', async () => {
    jest
      .spyOn(globalThis, 'fetch')
      .mockImplementation((input) =>
        Promise.resolve(
          (typeof input === 'string' ? input : '').includes('there')
            ? new Response('jpeg', { headers: { 'Content-Type': 'image/jpeg' } })
            : new Response('', { status: 404 }),
        ),
      );
    const { container } = render(
      <article>
        <a href="/projects/1">Saltglass &amp; sons</a>
        <img src="http://localhost/there" alt="door" />
        <img src="http://localhost/gone" alt="" />
      </article>,
    );
    const html = await standalone(container, 'Report <1>');
    expect(html).toContain('<title>Report &lt;1></title>');
    expect(html).toContain('Saltglass &amp; sons');
    // Four letters of a picture.
    expect(html.match(/<img[^>]*>/g)).toEqual([expect.stringContaining('src="data:image/jpeg;base64,anBlZw=="')]);
    expect(html).toContain('alt="door"');
    expect(html).not.toMatch(/href=|<script|localhost/);
  });
});

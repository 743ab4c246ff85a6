import { afterEach, describe, expect, jest, test } from '@jest/globals';
import { cleanup, render } from '@testing-library/react';
import { Provider } from 'react-redux';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { screen } from '@testing-library/react';
import type { Causes, ProjectSummary } from '@legame/core/contract';
import { defaultRules } from '@legame/core/match';
import { makeStore } from '../../app/store.ts';
import { standInServer } from '../../testing/server.ts';
import { CausesView } from '../causes/CausesView.tsx';
import { standalone } from './standalone.ts';
import { StatusReport } from './StatusReport.tsx';

afterEach(() => {
  cleanup();
  jest.restoreAllMocks();
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

describe('the status report', () => {
  const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
  const cause = { links: 0, apart: 0, agreeing: [], wanting: [], witnesses: 0, certainty: 'open' as const };
  const folder = { from: 'KILN_A/day2', to: 'KILN_B/day2', how: 'tree' as const };
  const moved = { code: 'displaced' as const, folder, name: null, timecode: null, rate: null, isOtherRaster: false };
  const found = {
    causes: [
      {
        ...cause,
        key: '1'.repeat(16),
        kind: moved,
        clipIds: [uuid(1), uuid(2)],
        screenSeconds: 64,
        samples: ['a.mov', 'b.mov'],
      },
      { ...cause, key: '2'.repeat(16), kind: moved, clipIds: [uuid(3)], screenSeconds: 5, samples: ['c.mov'] },
      { ...cause, key: '3'.repeat(16), kind: { code: 'gone' }, clipIds: [uuid(4)], screenSeconds: 2, samples: ['d'] },
    ],
    dark: 4,
    parked: 1,
    files: 9,
  } as unknown as Causes;
  const project = {
    id: uuid(7),
    name: 'Saltglass',
    createdAt: new Date(0).toISOString(),
    rules: defaultRules,
    clips: 0,
    toDo: 5,
    certain: 0,
    statuses: { linked: 0, missing: 4, changed: 0, unreadable: 0, short: 0, parked: 1, waived: 0, unshown: 0 },
    darkSeconds: 71,
    cutSeconds: 142,
    lastAct: null,
    redoable: null,
  } as unknown as ProjectSummary;

  test('tells the causes of the Causes screen in its words, as many clips and as much time', async () => {
    const server = standInServer(({ url }) =>
      url.pathname.endsWith('/causes')
        ? found
        : url.pathname.includes('/causes/')
          ? { cause: found.causes[0], members: [], backSeconds: 0, alternatives: [] }
          : url.pathname.endsWith(uuid(7))
            ? project
            : [],
    );
    const open = (path: string, element: React.ReactNode) =>
      render(
        <Provider store={makeStore()}>
          <RouterProvider
            router={createMemoryRouter([{ path: `/projects/:projectId/${path}`, element }], {
              initialEntries: [`/projects/${uuid(7)}/${path}`],
            })}
          />
        </Provider>,
      );
    open('causes', <CausesView />);
    await screen.findByText('A folder lies elsewhere');
    const said = [...document.querySelectorAll('[data-cause]')].map((card) => ({
      sentence: card.querySelector('h2')!.textContent,
      counts: [...card.querySelectorAll('b')].slice(0, 2).map((b) => b.textContent),
    }));
    expect(said.map((s) => s.sentence)).toEqual([
      'A folder lies elsewhere',
      'One file lies elsewhere',
      'Nothing was found in any place',
    ]);
    cleanup();
    open('report', <StatusReport />);
    const why = await screen.findByRole('region', { name: 'why' });
    for (const { sentence, counts } of said)
      expect(why.textContent).toContain(`${counts[0]}, ${counts[1]}: ${sentence}`);
    expect(document.body.textContent).toContain('for 3 causes, 1 of them parked for later');
    server.giveBack();
  });
});

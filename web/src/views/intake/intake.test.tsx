import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Provider } from 'react-redux';
import { createMemoryRouter, RouterProvider } from 'react-router';
import type { DocumentView } from '@legame/core/contract';
import { makeStore } from '../../app/store.ts';
import { documentOf as view } from '../../testing/document.ts';
import { uuid } from '../../testing/page.tsx';
import { standInServer } from '../../testing/server.ts';
import { IntakeView } from './IntakeView.tsx';

let documents: DocumentView[];
let server: ReturnType<typeof standInServer>;
beforeEach(() => {
  documents = [];
  server = standInServer(({ method, url }) => {
    if (url.pathname.endsWith('/log-mapping')) return { roles: null };
    if (url.pathname.endsWith('/watched')) return { folder: null, isThere: false, documents: 0, newer: [] };
    if (!url.pathname.endsWith('/documents')) return [];
    if (method !== 'POST') return documents;
    const brought = view(50 + documents.length, url.searchParams.get('name')!);
    documents = [...documents, brought];
    return brought;
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});

async function show() {
  const router = createMemoryRouter([{ path: '/projects/:projectId/intake', element: <IntakeView /> }], {
    initialEntries: [`/projects/${uuid(1)}/intake`],
  });
  render(
    <Provider store={makeStore()}>
      <RouterProvider router={router} />
    </Provider>,
  );
  await screen.findByText('Drop timelines and logs here');
}
const drop = (name: string, content: string) =>
  userEvent.upload(screen.getByLabelText('documents to bring in'), new File([content], name));
const card = (name: string) => screen.findByRole('article', { name: `incoming ${name}` });
const sent = () => server.asked.filter((a) => a.method === 'POST');

const list = 'TITLE: REEL\n001 R1 V C 01:00:00:00 01:00:01:24 01:00:00:00 01:00:01:24\nsmoke signals\n';

describe('what is dropped', () => {
  test('is read at once, remarks and all, and goes nowhere until told to', async () => {
    await show();
    await drop('reel.edl', list);
    const incoming = await card('reel.edl');
    await within(incoming).findByText(/1 event in 1 timeline/);
    expect(screen.getByRole('region', { name: 'remarks' }).textContent).toContain('smoke signals');
    expect((screen.getByLabelText('frame rate of reel.edl') as HTMLSelectElement).selectedOptions[0]!.textContent).toBe(
      '25 – the largest frame number is 24, in line 2',
    );
    expect(sent()).toEqual([]);
    await userEvent.selectOptions(screen.getByLabelText('frame rate of reel.edl'), '30/1');
    await userEvent.click(await within(incoming).findByRole('button', { name: 'Bring in at 30 fps' }));
    await waitFor(() => expect(sent()).toHaveLength(1));
    expect(JSON.parse(sent()[0]!.url.searchParams.get('reading')!)).toMatchObject({ rate: { num: 30, den: 1 } });
    expect(sent()[0]!.body).toBe(list);
    await waitFor(() => expect(screen.queryByRole('article', { name: 'incoming reel.edl' })).toBeNull());
  });

  test('that looks like a newer version says so, and can be told that it is not', async () => {
    documents = [view(7, 'other.edl'), view(8, 'reel of monday.edl', { title: 'REEL' })];
    await show();
    await drop('reel of tuesday.edl', list);
    const incoming = await card('reel of tuesday.edl');
    const button = await within(incoming).findByRole('button', { name: 'Bring in the newer version at 25 fps' });
    await userEvent.click(button);
    await waitFor(() => expect(sent()).toHaveLength(1));
    expect(sent()[0]!.url.searchParams.get('replaces')).toBe(uuid(8));

    await drop('reel of tuesday.edl', list);
    const again = await card('reel of tuesday.edl');
    await userEvent.selectOptions(await within(again).findByLabelText('what reel of tuesday.edl is'), '');
    await userEvent.click(within(again).getByRole('button', { name: 'Bring in at 25 fps' }));
    await waitFor(() => expect(sent()).toHaveLength(2));
    expect(sent()[1]!.url.searchParams.get('replaces')).toBeNull();
    expect(sent()[1]!.url.searchParams.get('beside')).toBe('true');
  });

  test('a log whose columns nobody knows is mapped by hand, with its first clips shown as mapped', async () => {
    await show();
    await drop('day.csv', 'A;B;C\nbowl;01:00:00:00;9\ndoor;01:00:10:00;9\n');
    const incoming = await card('day.csv');
    await within(incoming).findByText(/None of its columns is known by its name/);
    expect(within(incoming).queryByRole('button', { name: /^Bring in/ })).toBeNull();
    await userEvent.selectOptions(within(incoming).getByLabelText('meaning of A'), 'name');
    await userEvent.selectOptions(await within(incoming).findByLabelText('meaning of B'), 'start');
    const first = await within(incoming).findByRole('table', { name: 'first clips' });
    await waitFor(() => expect(first.textContent).toContain('bowl'));
    expect(first.textContent).toContain('C: 9');
  });

  test('that cannot be read says why, and can only be left', async () => {
    await show();
    await drop('letter.txt', 'Dear editor, please find enclosed nothing.');
    const incoming = await card('letter.txt');
    await within(incoming).findByText(/none of the formats Legame reads/);
    expect(within(incoming).queryByRole('button', { name: /^Bring in/ })).toBeNull();
    await userEvent.click(within(incoming).getByRole('button', { name: 'leave letter.txt' }));
    expect(screen.queryByRole('article', { name: 'incoming letter.txt' })).toBeNull();
  });
});

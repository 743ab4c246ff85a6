import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Toaster } from 'sonner';
import { showPage, uuid } from '../testing/page.tsx';
import { standInServer } from '../testing/server.ts';
import { CommandButton } from './CommandButton.tsx';
import { CommandMenu } from './CommandMenu.tsx';
import { commandIds, definitionOf, tipOf, type CommandId } from './definitions.ts';
import { FindOrDo } from './FindOrDo.tsx';
import { KeysOverview } from './KeysOverview.tsx';
import { useCommand } from './useCommand.ts';

let server: ReturnType<typeof standInServer>;
let done: CommandId[];
beforeEach(() => {
  done = [];
  server = standInServer(() => []);
});
afterEach(() => {
  cleanup();
  server.giveBack();
});

function Doer({ id, why = null }: { id: CommandId; why?: string | null }) {
  useCommand(id, () => done.push(id), why);
  return null;
}

test('Space does its command, but presses what has the focus where that can be pressed', async () => {
  let pressed = 0;
  render(
    <>
      <Doer id="play" />
      <button type="button" onClick={() => (pressed += 1)}>
        Nearer
      </button>
    </>,
  );
  await userEvent.keyboard(' ');
  expect([done, pressed]).toEqual([['play'], 0]);
  await userEvent.tab();
  await userEvent.keyboard(' ');
  expect([done, pressed]).toEqual([['play'], 1]);
});

test('Enter does its command where a button was clicked, and presses one that the keys went to', async () => {
  let pressed = 0;
  const { getByRole } = render(
    <>
      <Doer id="link-shown" />
      <button type="button" onClick={() => (pressed += 1)}>
        Other candidates
      </button>
    </>,
  );
  await userEvent.keyboard('{Enter}');
  expect([done, pressed]).toEqual([['link-shown'], 0]);
  await userEvent.tab();
  await userEvent.keyboard('{Enter}');
  expect([done, pressed]).toEqual([['link-shown'], 1]);
  // As a browser has it after a click: the focus is there, and not to be seen.
  const button = getByRole('button');
  const matches = (asked: string) => asked !== ':focus-visible' && Element.prototype.matches.call(button, asked);
  Object.assign(button, { matches });
  await userEvent.keyboard('{Enter}');
  expect(done).toEqual(['link-shown', 'link-shown']);
});

describe('the registry', () => {
  test('no two commands that may be possible at once have the same key', () => {
    const taken = new Map<string, CommandId>();
    for (const id of commandIds) {
      const { keys = '', where } = definitionOf(id);
      for (const key of keys
        .split(',')
        .map((k) => k.trim())
        .filter(Boolean))
        for (const place of where === 'anywhere' ? ['causes', 'ledger', 'timecode', 'cut', 'bins'] : [where]) {
          expect([key, place, taken.get(`${key} ${place}`)]).toEqual([key, place, undefined]);
          taken.set(`${key} ${place}`, id);
        }
    }
  });

  test('what has a key shows it, and what shows one has it', () => {
    for (const id of commandIds)
      expect([id, definitionOf(id).keys !== undefined]).toEqual([id, definitionOf(id).shown !== undefined]);
    expect(tipOf('pin')).toBe('i: No rule, carry or cause may change a pinned link');
    expect(tipOf('undo')).toBe('u: Undo the last act');
  });

  test('the overview lists every key, by where it works', () => {
    render(<KeysOverview onClose={() => undefined} />);
    for (const id of commandIds.filter((c) => definitionOf(c).shown))
      expect(screen.getAllByText(definitionOf(id).title).length).toBeGreaterThan(0);
    expect(screen.getByRole('heading', { name: 'Ledger', hidden: true })).toBeTruthy();
  });
});

describe('a command', () => {
  test('is done by its key and its button while it is there, and not after', async () => {
    const { rerender } = render(
      <>
        <Doer id="pin" />
        <CommandButton id="pin" className="">
          Pin
        </CommandButton>
      </>,
    );
    await userEvent.keyboard('i');
    await userEvent.click(screen.getByRole('button', { name: 'Pin' }));
    expect(done).toEqual(['pin', 'pin']);
    rerender(
      <CommandButton id="pin" className="">
        Pin
      </CommandButton>,
    );
    await userEvent.keyboard('i');
    expect(done).toHaveLength(2);
    expect(screen.getByRole('button', { name: 'Pin' }).title).toBe('This is done at Ledger.');
  });

  test('that is not possible now says why, by key, button and tooltip, and does nothing', async () => {
    render(
      <>
        <Toaster />
        <Doer id="park" why="No clip is selected." />
        <CommandButton id="park" className="">
          Park
        </CommandButton>
      </>,
    );
    const button = screen.getByRole('button', { name: 'Park' });
    expect([button.title, button.getAttribute('aria-disabled')]).toEqual(['No clip is selected.', 'true']);
    await userEvent.keyboard('k');
    expect(await screen.findByText('No clip is selected.')).toBeTruthy();
    await userEvent.click(button);
    expect(done).toEqual([]);
  });

  test('does not hear keys that are typed into a field', async () => {
    render(
      <>
        <Doer id="pin" />
        <input aria-label="field" />
      </>,
    );
    await userEvent.type(screen.getByLabelText('field'), 'iii');
    expect(done).toEqual([]);
  });
});

describe('the menu of a right-click', () => {
  test('is walked by the arrows past its end, does what is chosen, and closes', async () => {
    let closed = 0;
    render(
      <>
        <Doer id="pin" />
        <Doer id="park" />
        <Doer id="unlink" why="No selected clip has a file." />
        <CommandMenu at={{ x: 10, y: 10 }} ids={['pin', 'unlink', 'park']} onClose={() => (closed += 1)} />
      </>,
    );
    const items = within(screen.getByRole('menu')).getAllByRole('menuitem');
    expect(document.activeElement).toBe(items[0]);
    expect(items[1]!.title).toBe('No selected clip has a file.');
    await userEvent.keyboard('{ArrowUp}');
    expect(document.activeElement).toBe(items[2]);
    await userEvent.keyboard('{Enter}');
    expect([done, closed]).toEqual([['park'], 1]);
    await userEvent.keyboard('{Escape}');
    await userEvent.click(document.body);
    expect(closed).toBeGreaterThan(1);
  });
});

describe('the field that finds or does', () => {
  test('lists what its words name, what is possible first, and does it', async () => {
    showPage(
      '/projects/:projectId/causes',
      <>
        <Doer id="undo" why="There is nothing to undo." />
        <Doer id="redo" />
        <FindOrDo projectId="" />
      </>,
    );
    await userEvent.keyboard('/');
    const field = screen.getByLabelText('find or do');
    await waitFor(() => expect(document.activeElement).toBe(field));
    await userEvent.type(field, 'act');
    const options = await screen.findAllByRole('option');
    expect(options.map((o) => o.textContent)).toEqual([
      'Do the undone act againShift u',
      'Undo the last actThere is nothing to undo.',
    ]);
    await userEvent.keyboard('{Enter}');
    expect(done).toEqual(['redo']);
    expect((field as HTMLInputElement).value).toBe('');
  });

  test('every word counts, wherever it stands; what nothing matches says so', async () => {
    showPage('/projects/:projectId/causes', <FindOrDo projectId="" />);
    const field = screen.getByLabelText('find or do');
    await userEvent.type(field, 'list print');
    expect((await screen.findAllByRole('option')).map((o) => o.textContent)).toEqual([
      'Print the pull listOpen a project first.',
    ]);
    await userEvent.clear(field);
    await userEvent.type(field, 'qqqq');
    expect(await screen.findByText('Nothing and no command with “qqqq”.')).toBeTruthy();
  });

  test('what lies in places and in other projects is found as well, and shown where it is', async () => {
    const [here, there, place] = [uuid(1), uuid(2), uuid(20)];
    const things = [
      { what: 'project', projectId: there, projectName: 'Trailer of the kiln' },
      { what: 'document', projectId: here, projectName: 'Saltglass', documentId: uuid(3), name: 'kiln.edl' },
      { what: 'clip', projectId: there, projectName: 'Trailer', clipId: uuid(5), name: 'kiln', fileName: 'kiln.mov' },
      { what: 'place', placeId: place, name: 'KILN_A', path: '/mnt/kiln' },
      { what: 'file', placeId: place, placeName: 'KILN_A', folder: 'day 1', name: 'kiln door.mov' },
    ];
    const server = standInServer(({ url }) => (url.pathname.endsWith('/find') ? things : []));
    try {
      const { router } = showPage('/projects/:projectId/causes', <FindOrDo projectId={here} />);
      const field = screen.getByLabelText('find or do');
      await userEvent.type(field, 'kiln');
      const options = await waitFor(() => {
        const found = screen.getAllByRole('option');
        expect(found).toHaveLength(5);
        return found;
      });
      // Asked once, when nothing more was typed, and without the project at hand.
      expect(
        server.asked
          .filter((a) => a.url.pathname.endsWith('/find'))
          .map(({ url }) => [url.searchParams.get('text'), url.searchParams.get('beside')]),
      ).toEqual([['kiln', here]]);
      expect(options.map((o) => o.textContent)).toEqual([
        'Trailer of the kilnproject',
        'kiln.edldocument',
        'kiln.movclip of Trailer',
        'KILN_Aplace, /mnt/kiln',
        'kiln door.movin KILN_A/day 1',
      ]);
      await userEvent.click(options[4]!);
      const { pathname, search } = router.state.location;
      expect([pathname, search]).toEqual([`/projects/${here}/places/${place}/room`, '?folder=day+1']);
    } finally {
      server.giveBack();
    }
  });
});

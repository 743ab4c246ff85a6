import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { FoldersAt } from '@legame/core/contract';
import { defaultTemplate, folderFor, withFolder, type FolderTemplate } from '@legame/core/folders';
import type { PlaceId } from '@legame/core/model';
import { showPage, uuid } from '../../testing/page.tsx';
import { placeOf } from '../../testing/place.ts';
import { refused, standInServer } from '../../testing/server.ts';
import { FoldersPanel } from './FoldersPanel.tsx';

const home = { placeId: uuid(20) as PlaceId, folder: 'film' };
let template: FolderTemplate;
let at: FoldersAt;
let makes: unknown[];
let makeAnswer: () => unknown;
let server: ReturnType<typeof standInServer>;

beforeEach(() => {
  [template, makes] = [defaultTemplate, []];
  at = { folders: [{ path: 'picture', is: 'there' }, { path: 'sound', is: 'absent' }] }; // prettier-ignore
  makeAnswer = () => at;
  server = standInServer(({ method, url, body }) => {
    const path = url.pathname;
    if (path.endsWith('/places')) return [placeOf(20, 'BAY')];
    if (path.endsWith('/at')) return at;
    if (path.endsWith('/make')) {
      makes.push(JSON.parse(body));
      return makeAnswer();
    }
    if (method === 'PUT') {
      template = (JSON.parse(body) as { template: FolderTemplate | null }).template ?? defaultTemplate;
      return { id: 1, verb: 'set-folders', count: 0, madeAt: '2026-11-27T10:00:00.000Z', skipped: [] };
    }
    return { template, isOwn: template !== defaultTemplate, namePattern: null };
  });
  showPage('/projects/:projectId/health', <FoldersPanel projectId={uuid(1)} home={home} onClose={() => undefined} />);
});
afterEach(() => {
  cleanup();
  server.giveBack();
});

const folder = (name: string) => screen.findByRole('treeitem', { name: new RegExp(`^${name}`) });
const shown = () => screen.getAllByRole('treeitem').map((item) => item.querySelector('.truncate')?.textContent);
const paths = () => template.map((f) => f.path);

test('a folder is made in the one that is open, named in place, moved by the keys, and taken out with what lies in it', async () => {
  const user = userEvent.setup();
  await user.click(await folder('picture'));
  await user.type(await screen.findByLabelText('name of a new folder in picture'), 'day{Enter}');
  await waitFor(() => expect(paths()).toContain('picture/day'));
  await user.click(await folder('day'));
  fireEvent.keyDown(await folder('day'), { key: 'F2' });
  await user.keyboard('day 1{Enter}');
  await waitFor(() => expect(paths()).toContain('picture/day 1'));
  expect(shown().slice(0, 4)).toEqual(['Home of the project', 'picture', 'day 1', 'sound']);
  // Out of the folder it lies in, and into the one above it in the list.
  fireEvent.keyDown(await folder('day 1'), { key: 'ArrowLeft', altKey: true });
  await waitFor(() => expect(paths()).toContain('day 1'));
  await user.click(await folder('day 1'));
  fireEvent.keyDown(await folder('day 1'), { key: 'ArrowRight', altKey: true });
  await waitFor(() => expect(paths()).toContain('picture/day 1'));
  await user.click(await folder('picture'));
  fireEvent.keyDown(await folder('picture'), { key: 'Delete' });
  await waitFor(() => expect(paths()).toEqual(defaultTemplate.map((f) => f.path).filter((p) => p !== 'picture')));
});

test('what cannot be is said, and not asked for', async () => {
  const user = userEvent.setup();
  await user.click(await folder('music'));
  fireEvent.keyDown(await folder('music'), { key: 'F2' });
  await user.keyboard('Sound{Enter}');
  expect((await screen.findByRole('alert')).textContent).toMatch(/“sound” stands there already/i);
  fireEvent.keyDown(await folder('music'), { key: 'F2' });
  await user.keyboard('what?{Enter}');
  await waitFor(() => expect(screen.getByRole('alert').textContent).toMatch(/not every system takes/));
  expect(template).toBe(defaultTemplate);
  // What was written stays in the field.
  await user.click(await folder('Home'));
  const field = await screen.findByLabelText('name of a new folder in Home of the project');
  await user.type(field, 'Music{Enter}');
  await waitFor(() => expect(screen.getByRole('alert').textContent).toMatch(/stands there already/));
  expect((field as HTMLInputElement).value).toBe('Music');
});

test('a kind of media goes to one folder, and its line says so', async () => {
  template = withFolder(defaultTemplate, 'stills', 'scans');
  cleanup();
  showPage('/projects/:projectId/health', <FoldersPanel projectId={uuid(1)} home={home} onClose={() => undefined} />);
  const goes = within(await screen.findByRole('region', { name: 'what goes where' }));
  await userEvent.selectOptions(goes.getByLabelText('stills'), 'stills/scans');
  await waitFor(() => expect(folderFor(template, 'still')).toBe('stills/scans'));
  await waitFor(async () => expect((await folder('scans')).textContent).toContain('stills'));
  await userEvent.selectOptions(goes.getByLabelText('stills'), '');
  await waitFor(() => expect(folderFor(template, 'still')).toBe(''));
  await userEvent.click(screen.getByRole('button', { name: 'As every project has them' }));
  await waitFor(() => expect(screen.queryByRole('button', { name: 'As every project has them' })).toBeNull());
});

test('they are made in a place after it was shown what is there; a file in the way is said first', async () => {
  const user = userEvent.setup();
  const making = within(await screen.findByRole('region', { name: 'make the folders' }));
  await user.click(await making.findByRole('button', { name: 'Look there' }));
  const list = within(await making.findByRole('list', { name: 'folders there' }));
  expect(list.getAllByRole('listitem').map((item) => item.textContent)).toEqual([
    'pictureis there',
    'soundwould be made',
  ]);
  makeAnswer = () => refused(409, 'home-read-only', 'BAY may not be written to.');
  await user.click(making.getByRole('button', { name: 'Make 1 folder' }));
  expect((await making.findByRole('alert')).textContent).toContain('BAY may not be written to.');
  expect(makes).toEqual([home]);
  await user.click(making.getByRole('button', { name: 'close' }));
  at = { folders: [{ path: 'picture', is: 'file-there' }, { path: 'sound', is: 'absent' }] }; // prettier-ignore
  await user.click(making.getByRole('button', { name: 'Look there' }));
  await making.findByText('a file has this name');
  expect(making.getByRole('button', { name: 'Make 1 folder' }).hasAttribute('disabled')).toBe(true);
});

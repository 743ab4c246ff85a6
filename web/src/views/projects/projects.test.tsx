import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ProjectStanding } from '@legame/core/contract';
import type { ProjectId } from '@legame/core/model';
import { showPage, uuid } from '../../testing/page.tsx';
import { projectOf } from '../../testing/project.ts';
import { standInServer } from '../../testing/server.ts';
import { ProjectsView } from './ProjectsView.tsx';

const at = '2026-11-20T10:00:00.000Z';
let server: ReturnType<typeof standInServer>;
let projects: { id: string; name: string; createdAt: string }[];
let deleted: object[];
let standing: ProjectStanding;
beforeEach(() => {
  projects = [];
  deleted = [];
  standing = { openChecks: 0, shares: [] };
  server = standInServer(({ method, url }) =>
    method === 'POST'
      ? { id: uuid(5), name: 'New', createdAt: at }
      : url.pathname === '/api/projects'
        ? projects
        : url.pathname === '/api/projects/deleted'
          ? deleted
          : url.pathname.endsWith('/standing')
            ? standing
            : projectOf({
                ...{ id: uuid(5) as ProjectId, createdAt: at, clips: 75, toDo: 46, darkSeconds: 79, cutSeconds: 110 },
                lastAct: { id: 3, verb: 'mend', count: 12, madeAt: at },
              }),
  );
});
afterEach(() => {
  cleanup();
  server.giveBack();
});

test('without a project there is a name to give one, and a blank name is none', async () => {
  const { router } = showPage('/', <ProjectsView />);
  expect(await screen.findByText('No project yet. Name one below to begin.')).toBeTruthy();
  const button = screen.getByRole('button', { name: 'Create project' }) as HTMLButtonElement;
  await userEvent.type(screen.getByLabelText('name of a new project'), '   ');
  expect(button.disabled).toBe(true);
  await userEvent.type(screen.getByLabelText('name of a new project'), 'New{Enter}');
  await waitFor(() => expect(router.state.location.pathname).toBe(`/projects/${uuid(5)}/intake`));
  const [post] = server.asked.filter((a) => a.method === 'POST');
  expect(post!.body).toBe(JSON.stringify({ name: 'New' }));
});

test('projects say how much of each is to do, and lead to it', async () => {
  projects = [{ id: uuid(5), name: 'Saltglass', createdAt: at }];
  showPage('/', <ProjectsView />);
  const link = await screen.findByRole('link', { name: /Saltglass/ });
  expect(link.getAttribute('href')).toMatch(new RegExp(`^/projects/${uuid(5)}`));
  await waitFor(() => expect(link.textContent).toMatch(/1:19 dark of 1:50/));
  expect(link.textContent).toMatch(/75 clips, 46 to do/);
  expect(link.textContent).toMatch(/Mended a cause: linked 12 clips, Nov 20, 2026/);
});

test('projects say what their health is, and which others use the same recordings', async () => {
  projects = [{ id: uuid(5), name: 'Saltglass', createdAt: at }];
  showPage('/', <ProjectsView />);
  const link = await screen.findByRole('link', { name: /Saltglass/ });
  await waitFor(() => expect(link.textContent).toContain('health: well'));
  expect(link.textContent).not.toContain('same recordings');
  cleanup();
  const share = (n: number) => ({ id: uuid(n) as ProjectId, name: `Cut ${n}`, files: n });
  standing = { openChecks: 2, shares: [share(9), share(8), share(7), share(6), share(4)] };
  showPage('/', <ProjectsView />);
  const other = await screen.findByRole('link', { name: /Saltglass/ });
  await waitFor(() => expect(other.textContent).toContain('health: 2 checks found something'));
  expect(other.textContent).toContain('same recordings as Cut 9 (9), Cut 8 (8), Cut 7 (7) and 2 other projects');
});

test('a name that the contract does not take says why, and nothing is asked of the server', async () => {
  showPage('/', <ProjectsView />);
  await userEvent.click(await screen.findByLabelText('name of a new project'));
  await userEvent.paste('x'.repeat(201));
  await userEvent.keyboard('{Enter}');
  expect((await screen.findByRole('alert')).textContent).toMatch(/200/);
  expect(server.asked.filter((a) => a.method === 'POST')).toEqual([]);
});

test('a project is deleted by one press, and comes back by another', async () => {
  projects = [{ id: uuid(5), name: 'Saltglass', createdAt: at }];
  deleted = [{ id: uuid(6), name: 'Trailer', createdAt: at, deletedAt: at, keptUntil: '2026-11-27T10:00:00.000Z' }];
  showPage('/', <ProjectsView />);
  await userEvent.click(await screen.findByRole('button', { name: 'delete Saltglass' }));
  await userEvent.click(await screen.findByRole('button', { name: 'Bring back' }));
  await waitFor(() =>
    expect(server.asked.filter((a) => a.method !== 'GET').map((a) => `${a.method} ${a.url.pathname}`)).toEqual([
      `DELETE /api/projects/${uuid(5)}`,
      `POST /api/projects/deleted/${uuid(6)}/restore`,
    ]),
  );
});

test('a project gets another name, and a second one is made of it', async () => {
  projects = [{ id: uuid(5), name: 'Saltglass', createdAt: at }];
  server.giveBack();
  server = standInServer(({ method, url }) =>
    method === 'GET' && url.pathname === '/api/projects'
      ? projects
      : url.pathname === '/api/projects/deleted'
        ? deleted
        : url.pathname.endsWith('/standing')
          ? standing
          : projectOf({ id: uuid(5) as ProjectId }),
  );
  showPage('/', <ProjectsView />);
  await userEvent.click(await screen.findByRole('button', { name: 'rename Saltglass' }));
  const name = screen.getByLabelText<HTMLInputElement>('new name of Saltglass');
  expect(name.value).toBe('Saltglass');
  await userEvent.clear(name);
  await userEvent.type(name, 'Saltglass, locked{Enter}');
  await waitFor(() => expect(server.asked.some((a) => a.method === 'PATCH')).toBe(true));
  expect(server.asked.find((a) => a.method === 'PATCH')!.body).toBe(JSON.stringify({ name: 'Saltglass, locked' }));
  await waitFor(() => expect(screen.queryByLabelText('new name of Saltglass')).toBeNull());
  await userEvent.click(screen.getByRole('button', { name: 'duplicate Saltglass' }));
  await userEvent.click(screen.getByRole('button', { name: 'Duplicate' }));
  await waitFor(() =>
    expect(server.asked.find((a) => a.url.pathname.endsWith('/duplicate'))?.body).toBe(
      JSON.stringify({ name: 'Saltglass 2' }),
    ),
  );
});

import { existsSync, mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import type { Folders } from '@legame/core/contract';
import { test } from './saltglass.ts';

test('the folders of a project are dragged into one another, undone, and made in a place', async ({
  page,
  saltglass,
}) => {
  const base = join(saltglass.legame.bay, 'FOLDERS');
  rmSync(base, { recursive: true, force: true });
  mkdirSync(base);
  await saltglass.tell('/places', { path: base, name: 'FOLDERS' });
  await saltglass.open('health');
  await page.getByRole('button', { name: 'Folders…' }).click();
  const tree = page.getByRole('tree', { name: 'folders' });
  const folder = (name: string) => tree.getByRole('treeitem', { name: new RegExp(`^\\W*${name}`) });
  const paths = async () =>
    (await saltglass.ask<Folders>(`/projects/${saltglass.id}/folder-template`)).template.map((f) => f.path);
  await folder('music').getByText('music').hover();
  await page.mouse.down();
  const box = (await folder('sound').boundingBox())!;
  await page.mouse.move(box.x + 60, box.y + box.height / 2, { steps: 8 });
  await expect(folder('sound')).toHaveClass(/outline-primary/);
  await page.mouse.up();
  await expect.poll(paths).toContain('sound/music');
  await page.getByLabel('name of a new folder in sound/music').fill('score');
  await page.keyboard.press('Enter');
  await expect.poll(paths).toContain('sound/music/score');
  const making = page.getByRole('region', { name: 'make the folders' });
  await making.getByLabel('place of the folders').selectOption('FOLDERS');
  await making.getByLabel('folder in it').fill('film');
  await making.getByRole('button', { name: 'Look there' }).click();
  await making.getByRole('button', { name: 'Make 9 folders' }).click();
  await expect(making.getByRole('button', { name: 'All are there' })).toBeVisible();
  expect(existsSync(join(base, 'film', 'sound', 'music', 'score'))).toBe(true);
  await page.getByRole('heading', { name: 'Folders of this project' }).click();
  await page.keyboard.press('u');
  await expect.poll(paths).not.toContain('sound/music/score');
  await page.keyboard.press('u');
  await expect.poll(paths).toContain('music');
  // What was made stays: it is on the drive, and might hold something by now.
  expect(existsSync(join(base, 'film', 'sound', 'music', 'score'))).toBe(true);
});
test.afterEach(({ saltglass }) => rmSync(join(saltglass.legame.bay, 'FOLDERS'), { recursive: true, force: true }));

test('what is this? is answered where a word stands, and nothing is pressed meanwhile', async ({ page, saltglass }) => {
  await saltglass.open('ledger');
  await expect(page.getByRole('navigation', { name: 'steps' })).toBeVisible();
  await page.keyboard.press('Shift+F1');
  const told = page.getByRole('region', { name: 'what this is' });
  await expect(told).toBeVisible();
  await page.getByRole('navigation', { name: 'steps' }).getByRole('link', { name: 'Handoff' }).hover();
  await expect(told).toContainText('handoff: a gathered set');
  await page.getByRole('navigation', { name: 'steps' }).getByRole('link', { name: 'Handoff' }).click();
  await expect(page.getByRole('dialog', { name: 'help' })).toBeVisible();
  await expect(page.getByLabel('look for help')).toHaveValue('handoff');
  expect(page.url()).toContain('/ledger');
});

test('preferences go with a name into another browser; they are seen at once', async ({ page, saltglass, browser }) => {
  await saltglass.open('ledger');
  await page.getByRole('button', { name: 'preferences' }).click();
  const box = page.getByRole('dialog', { name: 'preferences' });
  await box.getByLabel('name of somebody else').fill('Ines');
  await box.getByRole('button', { name: 'Be that' }).click();
  await box.getByLabel('theme').selectOption({ label: 'lamp, by night' });
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'lamp');
  await box.getByLabel('dates').selectOption({ label: '2026-11-27 19:30' });
  await box.getByLabel('Show keys beside what they do').uncheck();
  await box.getByRole('button', { name: 'Close', exact: true }).click();
  await expect(page.locator('.kbd-mark:visible')).toHaveCount(0);
  const other = await browser.newContext({ storageState: await page.context().storageState() });
  const second = await other.newPage();
  await second.addInitScript(() => {
    localStorage.clear();
    localStorage.setItem('legame.person', 'Ines');
  });
  await second.goto(saltglass.legame.url);
  await expect(second.locator('html')).toHaveAttribute('data-theme', 'lamp');
  await expect(second.getByText(/since \d{4}-\d\d-\d\d \d\d:\d\d/).first()).toBeVisible();
  await other.close();
});

test('a new project leads to its timeline, and away from there when it has one', async ({ page, saltglass }) => {
  await page.goto(saltglass.legame.url);
  await page.getByLabel('name of a new project').fill('Annealing');
  await page.keyboard.press('Enter');
  const steps = page.getByRole('region', { name: 'first steps' });
  await expect(steps).toContainText('Bring in the timelines of the edit');
  await expect(steps.getByRole('listitem').filter({ hasText: 'Timeline' })).toHaveAttribute('aria-current', 'step');
  await page.keyboard.press('g');
  await page.keyboard.press('l');
  await steps.getByRole('link', { name: 'Go there' }).click();
  await expect(steps).toContainText('Bring in the timelines of the edit');
  await page.getByLabel('documents to bring in').setInputFiles(saltglass.document('Saltglass reel 2.edl'));
  await page.getByRole('button', { name: /^Bring in/ }).click();
  // Places there are already.
  await expect(steps).toHaveCount(0);
  const id = /projects\/([^/]+)/.exec(page.url())![1]!;
  await fetch(`${saltglass.legame.url}/api/projects/${id}`, {
    method: 'DELETE',
    headers: { authorization: `Bearer ${saltglass.legame.token}` },
  });
});

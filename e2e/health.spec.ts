import { createHash } from 'node:crypto';
import { mkdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import type { BringingHome, Health } from '@legame/core/contract';
import { test } from './saltglass.ts';

/** What an assistant editor does so that it need not happen again: health of the media, accepted or mended. */
const sha256 = (path: string) => createHash('sha256').update(readFileSync(path)).digest('hex');

test('health: a home is found, what lies elsewhere is brought there, proven, and undone', async ({
  page,
  saltglass,
}) => {
  test.setTimeout(180_000);
  const health = () => saltglass.ask<Health>(`/projects/${saltglass.id}/health`);
  const outside = async () => (await health()).checks.find((c) => c.check === 'outside-home')!.open;
  // A drive of its own, that goes with the test.
  const base = join(saltglass.legame.bay, 'HOMEBASE');
  mkdirSync(base);
  await saltglass.tell('/places', { path: base, name: 'HOMEBASE' });
  await saltglass.quiet();
  await page.keyboard.press('g');
  await page.keyboard.press('e');
  const home = page.getByRole('region', { name: 'home folder' });
  await expect(home.getByText(/Most of what is used lies in/)).toBeVisible();
  await home.getByRole('button', { name: 'Another…' }).click();
  await home.getByLabel('place of the home folder').selectOption('HOMEBASE');
  await home.getByLabel('folder in it').fill('film');
  await home.getByRole('button', { name: 'Make it home' }).last().click();
  await expect(home.getByText('HOMEBASE/film')).toBeVisible();
  const preview = await saltglass.ask<BringingHome>(`/projects/${saltglass.id}/health/home?check=outside-home`);
  expect(preview.files.length).toBeGreaterThan(3);
  const at = (path: string) => join(saltglass.legame.bay, path);
  const before = preview.files.map(({ path }) => [path, sha256(at(path)), statSync(at(path)).mtimeMs] as const);

  await page.getByRole('button', { name: /lie outside the home folder/ }).click();
  await page.getByRole('button', { name: 'Bring them home…' }).click();
  const plan = page.getByRole('region', { name: 'bring home' });
  await expect(plan.getByRole('listitem')).toHaveCount(preview.files.length + preview.left.length);
  await plan.getByRole('button', { name: `Copy ${preview.files.length} files home` }).click();
  await expect(plan.getByText(/brought home, proven, and linked there/)).toBeVisible({ timeout: 90_000 });
  for (const { path, target } of preview.files) expect(sha256(at(target))).toBe(before.find(([p]) => p === path)![1]);
  for (const [path, hash, mtime] of before)
    expect([sha256(at(path)), statSync(at(path)).mtimeMs]).toEqual([hash, mtime]);
  await saltglass.quiet();
  expect(await outside()).toBe(preview.left.length);

  await page.keyboard.press('u');
  await expect.poll(outside, { timeout: 20_000 }).toBe(preview.files.length + preview.left.length);
  rmSync(base, { recursive: true });
});

test('health: accepted with a note, kept, and told on paper; taken back one by one', async ({ page, saltglass }) => {
  await saltglass.open('health');
  await page.getByRole('button', { name: /lie in one place alone/ }).click();
  const panel = page.getByRole('region', { name: 'Only copy' });
  await panel.getByLabel('why it stays so').fill('the vault has them');
  await panel.getByRole('button', { name: /^Accept all \d+/ }).click();
  await expect(panel.getByText(/Accepted .*: the vault has them/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Keep this state' }).click();
  await expect(page.getByText(/New and gone are told since/)).toBeVisible();
  await page.getByRole('link', { name: 'Print…' }).click();
  await expect(page.getByRole('heading', { name: 'Saltglass: health of its media' })).toBeVisible();
  await expect(page.getByText(/accepted .*: the vault has them/).first()).toBeVisible();
  await page.getByRole('link', { name: 'Back' }).click();
  await page.getByRole('button', { name: /lie in one place alone/ }).click();
  await panel.getByRole('button', { name: 'Take back' }).first().click();
  await expect(page.getByRole('button', { name: /1 file in use lies in one place alone/ })).toBeVisible();
});

test('pull list: asked of the archive and of the tape vault; what comes is linked by itself, what nobody has is said', async ({
  page,
  saltglass,
}) => {
  test.setTimeout(120_000);
  await page.keyboard.press('g');
  await page.keyboard.press('u');
  const table = page.getByRole('table', { name: 'pull list' });
  const row = (file: string) => table.getByRole('row', { name: new RegExp(file) });
  await expect(row('crucible-pour_02.mov')).toContainText('wanted');
  const panel = page.getByRole('region', { name: 'say what came of it' });
  await table.getByLabel('select crucible-pour_02.mov').check();
  await table.getByLabel('select annealing-wide.mov').check();
  await panel.getByLabel('of whom').fill('Tape vault');
  await panel.getByRole('button', { name: 'Asked for' }).click();
  await expect(row('annealing-wide.mov')).toContainText('not to be had');
  await expect(row('crucible-pour_02.mov')).toContainText('arrived', { timeout: 60_000 });
  expect(await saltglass.statusOf('crucible-pour_02.mov')).toEqual({ status: 'linked' });

  await page.getByRole('button', { name: /^notices/ }).click();
  await expect(page.getByRole('list', { name: 'what happened' })).toContainText('Fetch crucible-pour_02.mov: done.');
  await page.getByRole('button', { name: /^notices/ }).click();

  await row('annealing-wide.mov').getByRole('button').click();
  await panel.getByLabel('of whom').fill('The archive');
  await panel.getByRole('button', { name: 'Asked for' }).click();
  await expect(row('annealing-wide.mov')).toContainText('asked of The archive');
  await page.getByRole('list', { name: 'lists' }).getByRole('link', { name: 'to print' }).last().click();
  await expect(page.getByText(/Asked of The archive, handles included/)).toBeVisible();
  await expect(page.getByText('annealing-wide.mov')).toHaveCount(1);
  await expect(page.getByText('crucible-pour_02.mov')).toHaveCount(0);
  await page.getByRole('link', { name: 'Back' }).click();
  // Its keys are there when it is.
  await expect(row('annealing-wide.mov')).toContainText('asked of');
  await page.keyboard.press('u');
  await expect(row('annealing-wide.mov')).toContainText('not to be had');
});

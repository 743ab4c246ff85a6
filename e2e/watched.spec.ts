import { copyFileSync, mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import { barriers } from './axe.ts';
import { test } from './saltglass.ts';

test('a newer cut in the watched folder is told, compared, and comes in by one click', async ({ page, saltglass }) => {
  const cuts = join(saltglass.legame.bay, 'CUTROOM');
  mkdirSync(cuts);
  await saltglass.tell('/places', { path: cuts, name: 'CUTROOM' });
  await saltglass.act('/links/certain');
  await saltglass.step('Intake');
  const watched = page.getByRole('region', { name: 'watched folder' });
  await watched.getByRole('button', { name: 'Watch a folder…' }).click();
  await watched.getByLabel('place of the watched folder').selectOption('CUTROOM');
  await watched.getByRole('button', { name: 'Watch it' }).click();
  await expect(watched).toContainText('CUTROOM is watched for newer versions: 0 documents there, none newer.');

  copyFileSync(saltglass.document('Saltglass reel 2 of tuesday.edl'), join(cuts, 'Saltglass reel 2 of tuesday.edl'));
  // Told wherever one is, in its own time.
  await saltglass.step('Ledger');
  await expect(page.getByRole('navigation', { name: 'steps' }).getByRole('link', { name: /Intake/ })).toContainText(
    '1 newer',
    { timeout: 60_000 },
  );
  await saltglass.step('Intake');
  const newer = watched.getByRole('article', { name: 'newer: Saltglass reel 2 of tuesday.edl' });
  await expect(newer).toContainText('newer than Saltglass reel 2.edl');
  await expect(newer).toContainText(/events? added.*keep their links and decisions/);
  await newer.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page.getByRole('region', { name: 'what changed' })).toContainText('furnace-door_06.mxf added');
  await expect(watched).toContainText('1 document there, none newer.');

  // Both on the cut, one above the other; a line of the list leads to where it lies.
  await page.getByRole('link', { name: 'Both versions, one above the other' }).click();
  const both = page.getByRole('region', { name: 'two versions' });
  await expect(both.getByRole('img', { name: /SALTGLASS_REEL_2: two versions/ })).toBeVisible();
  await expect(both).toContainText(/1 kept.*2 added.*2 removed.*3 moved.*1 trimmed/);
  await both.getByRole('button', { name: 'nearer' }).click();
  const line = both.getByRole('listitem').filter({ hasText: 'co-op-talk_03.mxf added' });
  await line.getByRole('button').first().click();
  await expect(line).toHaveAttribute('aria-current', 'true');
  for (const theme of ['lamp', 'paper']) {
    expect(await barriers(page)).toEqual([]);
    await page.getByRole('button', { name: `change to ${theme} theme` }).click();
  }
  await both.getByRole('button', { name: 'The cut' }).click();
  await page.getByRole('button', { name: 'Two versions' }).click();
  await expect(both).toBeVisible();
  rmSync(cuts, { recursive: true });
});

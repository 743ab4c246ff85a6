import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import { test } from './saltglass.ts';

/** Files get other names by a pattern, and every clip keeps its file. */
test('names: the files of chosen clips are renamed by a pattern, stay tied, and undo renames them back', async ({
  page,
  saltglass,
}) => {
  const sha256 = (path: string) => createHash('sha256').update(readFileSync(path)).digest('hex');
  await saltglass.act('/links/certain');
  await saltglass.quiet();
  const chosen = (await saltglass.clips()).filter((c) => c.tied && /^furnace-door_0[23]\.mxf$/.test(c.tied.name));
  expect(new Set(chosen.map((c) => c.tied!.mediaFileId)).size).toBe(2);
  const placeOf = async () => new Map((await saltglass.places()).map((p) => [p.name, p.path]));
  const places = await placeOf();
  const pathOf = (c: (typeof chosen)[number], name: string) =>
    join(places.get(c.tied!.placeName)!, c.tied!.folder, name);
  const before = chosen.map((c) => [pathOf(c, c.tied!.name), sha256(pathOf(c, c.tied!.name))] as const);

  await saltglass.open('ledger?show=all');
  await page.getByLabel('filter clips').fill('furnace-door_0');
  for (const [i, name] of [...new Set(chosen.map((c) => c.name))].entries())
    await saltglass.rowOf(name).click(i === 0 ? {} : { modifiers: ['ControlOrMeta'] });
  await page.getByPlaceholder('find or do…').click();
  await page.getByPlaceholder('find or do…').fill('rename');
  await page.getByRole('option', { name: /Rename the files/ }).click();
  await page.getByRole('button', { name: 'pattern: {name}' }).click();
  await page.getByLabel('pattern', { exact: true }).fill('SG_{reel}_{n:2}');
  await page.keyboard.press('Escape');
  await expect(page.getByText('2 files of 2 would be called otherwise')).toBeVisible();
  await page.getByRole('button', { name: 'Rename 2 files' }).click();
  await expect(page.getByText(/All are called so already/)).toBeVisible({ timeout: 20_000 });
  await saltglass.quiet();
  const after = new Map((await saltglass.clips()).map((c) => [c.id, c]));
  for (const [i, c] of chosen.entries()) {
    const now = after.get(c.id)!;
    expect([now.status.status, now.tied!.name]).toEqual(['linked', expect.stringMatching(/^SG_.*_0[12]\.mxf$/)]);
    expect([existsSync(before[i]![0]), sha256(pathOf(c, now.tied!.name))]).toEqual([false, before[i]![1]]);
  }

  await page.keyboard.press('u');
  await expect(page.getByText('2 files of 2 would be called otherwise')).toBeVisible({ timeout: 20_000 });
  for (const [path, hash] of before) expect(sha256(path)).toBe(hash);
  await saltglass.quiet();
  const back = new Map((await saltglass.clips()).map((c) => [c.id, c]));
  for (const c of chosen) expect(back.get(c.id)!.tied!.name).toBe(c.tied!.name);
});

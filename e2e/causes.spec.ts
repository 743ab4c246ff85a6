import type { Page } from '@playwright/test';
import { expect } from '@playwright/test';
import { test } from './saltglass.ts';

/** The demo, mended by its causes: as many decisions as there are causes, each seen before it is made. */
const causes = (page: Page) => page.getByRole('list', { name: 'causes' });

test('eleven causes and one question account for every dark clip', async ({ page, saltglass }) => {
  await saltglass.step('Causes');
  await expect(page.getByRole('heading', { name: '10 causes account for 45 of 46 dark clips.' })).toBeVisible();
  await expect(causes(page).locator('> li')).toHaveCount(10);
  await expect(page.getByRole('list', { name: 'only you can say' })).toContainText('GB0007.mov');
  await expect(saltglass.cause('KILN_A/day2/cardA')).toContainText('12 of 12 agree in name, reel, timecode');
});

test('a preview says clip by clip what mending would do, and what would not fit', async ({ page, saltglass }) => {
  await saltglass.step('Causes');
  await saltglass.cause('KILN_A/day2/cardB').getByRole('button', { name: 'Preview' }).click();
  const preview = page.getByRole('region', { name: 'preview of mending' });
  await expect(preview).toContainText('What “Link 4” will do');
  await expect(preview.getByRole('list', { name: 'clips of this cause' }).locator('> li')).toHaveCount(4);
  await expect(preview).toContainText('SG_pipe-turn_01_day2.mov');
  await saltglass.toDo(46);
});

test('mends everything in as many decisions as there are causes', async ({ page, saltglass }) => {
  test.setTimeout(120_000);
  await saltglass.step('Causes');
  let left = 46;
  let decisions = 0;
  const mended = async (clipsBack: number) => {
    decisions += 1;
    left -= clipsBack;
    await saltglass.toDo(left);
  };
  await saltglass.mendAll(mended);
  expect(left).toBe(0);
  expect(decisions).toBe(12);
  await saltglass.step('Causes');
  await expect(page.getByRole('heading', { name: 'No clip is dark' })).toBeVisible();
  const read = (await saltglass.clips()).filter((c) => c.interpreted);
  expect(read.map((c) => [c.fileName, c.status.status])).toEqual(
    ['01', '02', '03'].map((n) => [`gather-hands_${n}.mov`, 'linked']),
  );
});

test('history tells every act; a checkpoint brings a state back, and that can be undone', async ({
  page,
  saltglass,
}) => {
  // Two causes mended, the second by counting from where the files begin.
  const displaced = (await saltglass.causes()).flatMap((c) =>
    c.kind.code === 'displaced' ? [{ ...c.kind, key: c.key, clips: c.clipIds.length }] : [],
  );
  const [moved, counted] = [displaced.find((c) => !c.timecode)!, displaced.find((c) => c.timecode)!];
  for (const cause of [moved, counted]) await saltglass.act(`/causes/${encodeURIComponent(cause.key)}/mend`);
  const left = 46 - moved.clips - counted.clips;
  await saltglass.step('History');
  const acts = page.getByRole('list', { name: 'acts' });
  await expect(acts.locator('> li')).toHaveCount(2);
  await acts.getByRole('button', { name: /Read the timecode|counts each clip from zero/ }).click();
  await expect(page.getByRole('region', { name: 'changes' })).toContainText('as the edit states it');
  await page.getByLabel('name of the checkpoint').fill('two mended');
  await page.getByRole('button', { name: 'Set a checkpoint' }).click();
  await page.getByRole('button', { name: 'Undo the last' }).click();
  await saltglass.toDo(left + counted.clips);
  await page.getByRole('button', { name: 'Undo the last' }).click();
  await saltglass.toDo(46);
  await expect(page.getByText('undone').first()).toBeVisible();
  await page.getByRole('button', { name: 'Do again' }).first().click();
  await expect(page.getByText('46 of 75 clips to do')).toBeHidden();
  await page.getByRole('button', { name: 'Compare' }).click();
  const compared = page.getByRole('region', { name: 'compared states' });
  await expect(compared).toContainText('from the one to the other');
  await expect(compared).toContainText('no link');
  await page.getByRole('button', { name: 'Return to it' }).click();
  await expect(compared).toContainText('Nothing is decided otherwise.');
  await saltglass.toDo(left);
  await expect(page.getByText(/Returned to a checkpoint: \d+ clips? changed/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Undo the last' }).click();
  await expect(page.getByText(`${left} of 75 clips to do`)).toBeHidden();
});

test('rules say what they would change before they are in force', async ({ page, saltglass }) => {
  await saltglass.step('Ledger');
  await page.getByRole('button', { name: 'Rules…' }).click();
  const rules = page.getByRole('region', { name: 'match rules' });
  const verdicts = rules.getByRole('status', { name: 'what the rules would decide' });
  await expect(verdicts).toContainText('under these rules');
  await rules.getByRole('radiogroup', { name: 'name', exact: true }).getByRole('radio', { name: 'ignored' }).click();
  await expect(verdicts).toContainText('would be decided otherwise');
  await rules.getByLabel('name of the set').fill('No names');
  await rules.getByRole('button', { name: 'Keep' }).click();
  await expect(rules.getByRole('button', { name: 'No names', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await rules.getByRole('button', { name: 'Match by these' }).click();
  await expect(verdicts).toContainText('under these rules');
  await rules.getByRole('button', { name: 'Usual' }).click();
  await rules.getByRole('button', { name: 'Match by these' }).click();
});

test('a selection is pinned, waived with a reason, and its recordings switched to another form', async ({
  page,
  saltglass,
}) => {
  await page.getByRole('button', { name: /^All \d+/ }).click();
  await page.getByLabel('filter clips').fill('bowl-gather');
  await page.locator('[data-clip="bowl-gather_01.mov"]').first().click();
  await page.keyboard.press('Shift+ArrowDown');
  // Filter and selection stand in the address, so a reload brings them back.
  await expect(page).toHaveURL(/find=bowl-gather.*clips=/);
  await page.reload();
  await expect(page.getByLabel('filter clips')).toHaveValue('bowl-gather');
  await expect(page.getByRole('row', { selected: true })).toHaveCount(2);
  await expect(page).toHaveTitle('Ledger · Saltglass · Legame');
  const selection = page.getByRole('toolbar', { name: 'selection' });
  await selection.getByRole('button', { name: 'Original or copy…' }).click();
  const forms = page.getByRole('region', { name: 'forms of recordings' });
  await expect(forms).toContainText('2 clips would be linked to the small copy');
  await forms.getByRole('button', { name: 'Switch 2' }).click();
  await expect(page.getByText('Switched 2 clips to another form')).toBeVisible();
  const small = (await saltglass.clips()).filter((c) => c.tied?.folder === 'small');
  expect(small.map((c) => c.status.status)).toEqual(['linked', 'linked']);
  await selection.getByRole('button', { name: 'Pin', exact: true }).click();
  await expect(page.getByText('Pinned 2 clips')).toBeVisible();
  await selection.getByRole('button', { name: 'Original or copy…' }).click();
  // What is pinned stays.
  await expect(forms.getByRole('button', { name: 'Switch 0' })).toBeDisabled();
  await forms.getByRole('button', { name: 'Close' }).click();
  await page.keyboard.press('w');
  await page.getByRole('region', { name: 'waive' }).getByRole('button', { name: 'a slate or leader' }).click();
  await page.getByRole('button', { name: 'Waive 2' }).click();
  await expect(page.getByText('Waived 2 clips')).toBeVisible();
});

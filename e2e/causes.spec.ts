import { renameSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { type ClipRow } from '@legame/core/contract';
import { startLegame, type Legame } from './legame.ts';

/** The demo, mended by its causes: as many decisions as there are causes, each seen before it is made. */
test.describe.configure({ mode: 'serial' });

let legame: Legame;
let page: Page;
test.beforeAll(async ({ browser }) => {
  test.setTimeout(240_000);
  legame = await startLegame();
  page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(legame.url);
  await page.getByRole('link', { name: /Saltglass/ }).click();
});
test.afterAll(() => legame.stop());

const step = (name: string) => page.getByRole('navigation', { name: 'steps' }).getByRole('link', { name }).click();
const toDo = (n: number) => expect(page.getByText(`${n} of 75 clips to do`)).toBeVisible({ timeout: 20_000 });
const causes = () => page.getByRole('list', { name: 'causes' });
const card = (text: string) => causes().locator('> li').filter({ hasText: text });
async function clips(): Promise<ClipRow[]> {
  const [project] = (await (await page.request.get(`${legame.url}/api/projects`)).json()) as { id: string }[];
  return (await (await page.request.get(`${legame.url}/api/projects/${project!.id}/clips`)).json()) as ClipRow[];
}

test('eleven causes and one question account for every dark clip', async () => {
  await step('Causes');
  await expect(page.getByRole('heading', { name: '10 causes account for 45 of 46 dark clips.' })).toBeVisible();
  await expect(causes().locator('> li')).toHaveCount(10);
  await expect(page.getByRole('list', { name: 'only you can say' })).toContainText('GB0007.mov');
  await expect(card('KILN_A/day2/cardA')).toContainText('12 of 12 agree in name, reel, timecode');
});

test('a preview says clip by clip what mending would do, and what would not fit', async () => {
  await card('KILN_A/day2/cardB').getByRole('button', { name: 'Preview' }).click();
  const preview = page.getByRole('region', { name: 'preview of mending' });
  await expect(preview).toContainText('What “Link 4” will do');
  await expect(preview.getByRole('list', { name: 'clips of this cause' }).locator('> li')).toHaveCount(4);
  await expect(preview).toContainText('SG_pipe-turn_01_day2.mov');
  await toDo(46);
});

test('mends everything in as many decisions as there are causes', async () => {
  test.setTimeout(120_000);
  let left = 46;
  let decisions = 0;
  const mended = async (clipsBack: number) => {
    decisions += 1;
    left -= clipsBack;
    await toDo(left);
  };
  for (const [text, button, count] of [
    ['KILN_A/day2/cardA', 'Link 12', 12],
    ['E:', 'Link 8', 8],
    ['BAY_SHARE/sound/roll2', 'Link 4', 4],
    ['names have “SG_” in front', 'Link 4', 4],
    ['files were named afresh', 'Link 3', 3],
    ['counts each clip from zero', 'Apply offset, link 3', 3],
    ['A drive has another name here', 'Link 3', 3],
  ] as const) {
    await card(text).first().getByRole('button', { name: button, exact: true }).click();
    await mended(count);
  }
  // Two stills, of which nothing but the names is known: nothing proves them, and a person says so for both.
  await card('S: → BAY_SHARE/archive').click();
  const preview = page.getByRole('region', { name: 'preview of mending' });
  await expect(preview).toContainText('Nothing proves these');
  await preview.getByRole('button', { name: 'Take those in BAY_SHARE/archive/scans' }).click();
  await mended(2);
  // The one question: two files, equally good.
  await page.getByRole('list', { name: 'only you can say' }).getByRole('button', { name: 'Choose' }).click();
  const panel = page.getByRole('region', { name: 'clip', exact: true });
  await panel.getByRole('button', { name: 'card_D1/GB0007.mov' }).click();
  await panel.getByRole('button', { name: 'Link', exact: true }).click();
  await mended(1);
  // A card is plugged in; what was archived, and what was cleared, is asked for: they come back by themselves.
  renameSync(join(legame.bay, '.unplugged/CARD_07'), join(legame.bay, 'CARD_07'));
  await mended(4);
  await step('Places');
  await page.getByRole('button', { name: 'Drive bay' }).click();
  await page.getByRole('list', { name: 'Tape vault' }).getByRole('button', { name: 'Ask for it' }).click();
  await mended(1);
  await page.getByRole('list', { name: 'Recycle shelf' }).getByRole('button', { name: 'Ask for it' }).click();
  await mended(1);
  expect(left).toBe(0);
  expect(decisions).toBe(12);
  await step('Causes');
  await expect(page.getByRole('heading', { name: 'No clip is dark' })).toBeVisible();
  const read = (await clips()).filter((c) => c.interpreted);
  expect(read.map((c) => [c.fileName, c.status.status])).toEqual(
    ['01', '02', '03'].map((n) => [`gather-hands_${n}.mov`, 'linked']),
  );
});

test('history tells every act; a checkpoint brings a state back, and that can be undone', async () => {
  await step('History');
  const acts = page.getByRole('list', { name: 'acts' });
  await expect(acts.locator('> li')).toHaveCount(9);
  await acts.getByRole('button', { name: /Read the timecode|counts each clip from zero/ }).click();
  await expect(page.getByRole('region', { name: 'changes' })).toContainText('as the edit states it');
  await page.getByLabel('name of the checkpoint').fill('all linked');
  await page.getByRole('button', { name: 'Set a checkpoint' }).click();
  await page.getByRole('button', { name: 'Undo the last' }).click();
  await toDo(1);
  await page.getByRole('button', { name: 'Undo the last' }).click();
  await expect(page.getByText('undone').first()).toBeVisible();
  await page.getByRole('button', { name: 'Do again' }).first().click();
  await toDo(1);
  await page.getByRole('button', { name: 'Return to it' }).click();
  await toDo(0);
  await expect(page.getByText('Returned to a checkpoint: 1 clip changed').first()).toBeVisible();
  await page.getByRole('button', { name: 'Undo the last' }).click();
  await toDo(1);
});

test('rules say what they would change before they are in force', async () => {
  await step('Ledger');
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

test('a selection is pinned, waived with a reason, and its recordings switched to another form', async () => {
  await page.getByRole('button', { name: 'Close' }).first().click();
  await page.getByRole('button', { name: /^All \d+/ }).click();
  await page.getByLabel('filter clips').fill('bowl-gather');
  await page.locator('[data-clip="bowl-gather_01.mov"]').first().click();
  await page.keyboard.press('Shift+ArrowDown');
  // Filter and selection stand in the address, so a reload brings them back.
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
  const small = (await clips()).filter((c) => c.tied?.folder === 'small');
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

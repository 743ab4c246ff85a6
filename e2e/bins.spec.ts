import { readFileSync } from 'node:fs';
import { expect, type Locator, type Page } from '@playwright/test';
import type { BinClips, ClipRow } from '@legame/core/contract';
import { test, type Saltglass } from './saltglass.ts';

/** Bins as an assistant editor uses them: filed by hand and by rule, written in, checked, and taken along. */
const tree = (page: Page) => page.getByRole('tree', { name: 'bins' });
const bin = (page: Page, name: string) => tree(page).getByRole('treeitem', { name: new RegExp(`^${name} \\d+`) });
const row = (page: Page, name: string) => page.locator(`[data-clip="${name}"]`).first();
/** Drags to a bin, and lets go when that shows that it would take it. */
async function drag(page: Page, from: Locator, to: Locator): Promise<void> {
  await from.hover();
  await page.mouse.down();
  const box = (await to.boundingBox())!;
  await page.mouse.move(box.x + 60, box.y + box.height / 2, { steps: 8 });
  await expect(to).toHaveClass(/outline-primary/);
  await page.mouse.up();
}
const binsOf = async (saltglass: Saltglass, ...names: string[]) =>
  (await saltglass.clips()).filter((c: ClipRow) => names.includes(c.name)).map((c) => c.bin.join('/'));

test('clips and bins are dragged; a bin is renamed; Undo brings each back', async ({ page, saltglass }) => {
  await saltglass.open('bins');
  await expect(bin(page, 'Day 1')).toBeVisible();
  await row(page, 'bowl-gather_01.mov').click();
  await row(page, 'bowl-gather_03.mov').click({ modifiers: ['Shift'] });
  await drag(page, row(page, 'bowl-gather_02.mov').locator('[data-column="name"]'), bin(page, 'Air'));
  await expect(page.getByText('Put 3 clips into bins')).toBeVisible();
  expect(await binsOf(saltglass, 'bowl-gather_01.mov', 'bowl-gather_03.mov')).toEqual(['Air', 'Air']);
  await drag(page, bin(page, 'Air').getByText('Air'), bin(page, 'Day 2'));
  await expect(page.getByText(/^Changed the bins, with \d+ clips/)).toBeVisible();
  expect(await binsOf(saltglass, 'bowl-gather_01.mov')).toEqual(['Day 2/Air']);
  await bin(page, 'Day 2').dblclick();
  await page.getByLabel('new name of Day 2').fill('Second day');
  await page.keyboard.press('Enter');
  await expect(bin(page, 'Second day')).toBeVisible();
  expect(await binsOf(saltglass, 'bowl-gather_01.mov')).toEqual(['Second day/Air']);
  for (const before of ['Day 2/Air', 'Air', 'Day 1/Card A']) {
    await page.keyboard.press('u');
    await expect.poll(() => binsOf(saltglass, 'bowl-gather_01.mov')).toEqual([before]);
  }
});

test('by keys alone: filed into a new bin, written, filled down, circled, copied and pasted', async ({
  page,
  saltglass,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await saltglass.open('bins');
  await expect(row(page, 'bowl-gather_01.mov')).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('b');
  await page.getByLabel('name of the bin').fill('Gathering');
  await page.keyboard.press('Enter');
  await expect(bin(page, 'Gathering')).toBeVisible();
  // The first cell that can be written in is in hand: the scene.
  await page.keyboard.press('Home');
  await page.keyboard.press('Enter');
  await page.keyboard.type('12A');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Wrote into columns of 1 clip')).toBeVisible();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Control+d');
  const scenes = async () =>
    (await saltglass.ask<BinClips>(`/projects/${saltglass.id}/bins/clips`)).clips
      .map((c) => c.values.scene ?? '')
      .slice(0, 3);
  await expect.poll(scenes).toEqual(['12A', '12A', '']);
  await page.keyboard.press('c');
  await expect(row(page, 'bowl-gather_02.mov').getByRole('img', { name: 'circled' })).toBeVisible();
  await page.keyboard.press('Control+c');
  await expect(page.getByText('2 rows copied.')).toBeVisible();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toContain('bowl-gather_02.mov\tA001\t09:12:26:00');
  // Back from a spreadsheet, from the cell in hand on.
  await page.evaluate(() => navigator.clipboard.writeText('13\t1\n14\t2\n15\t3'));
  await page.keyboard.press('Home');
  await page.keyboard.press('Control+v');
  await expect.poll(scenes).toEqual(['13', '14', '15']);
  // What is written travels with the project; the document is to the letter what it was.
  const download = page.waitForEvent('download');
  await page.evaluate((id) => {
    const link = document.createElement('a');
    link.href = `/api/projects/${id}/export`;
    link.download = '';
    link.click();
  }, saltglass.id);
  const exported = readFileSync(await (await download).path(), 'utf8');
  expect(exported).toContain('Gathering');
  expect(exported).toContain(readFileSync(saltglass.document('Saltglass.otio'), 'utf8').trim());
});

test('a log brought in is one row with its clip; bins come by card in one act; what is odd is told', async ({
  page,
  saltglass,
}) => {
  await saltglass.bringIn('Saltglass camera log.csv');
  await saltglass.quiet();
  await saltglass.open('bins');
  await expect(bin(page, 'Day 1')).toBeVisible();
  await page.getByLabel('put into bins by').selectOption('by-card');
  await expect(page.getByText(/^Put \d+ clips into bins/)).toBeVisible();
  await expect(bin(page, 'cardA')).toBeVisible();
  await page.getByRole('button', { name: /odd here/ }).click();
  await expect(page.getByText(/^1 clip without a reel/)).toBeVisible();
  // Sound by itself, arranged as a sound check, and from there to the ledger.
  await page.getByRole('button', { name: 'columns' }).click();
  await page.getByRole('button', { name: 'Sound check' }).click();
  await expect(page.getByRole('columnheader', { name: /Sample rate/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByLabel('find in this bin').fill('.wav');
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowDown');
  const name = await page.locator('[aria-selected=true][data-clip]').getAttribute('data-clip');
  await page.locator('[aria-selected=true][data-clip]').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Show in the ledger' }).click();
  await expect(saltglass.clipPanel().getByRole('heading', { name: name! })).toBeVisible();
  await page.locator('[aria-selected=true][data-clip]').first().click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Show in its bin' }).click();
  await expect(page.locator(`[aria-selected=true][data-clip="${name}"]`)).toBeVisible();
});

test('keys alone lead from a dark event of the cut to a link, and back to where it lies', async ({
  page,
  saltglass,
}) => {
  await saltglass.open('cut');
  // Its keys are there when it is.
  await expect(
    page.getByRole('list', { name: 'recordings under the events' }).getByRole('listitem').first(),
  ).toBeVisible();
  await page.keyboard.press('n');
  await page.keyboard.press('g');
  await page.keyboard.press('l');
  const heading = saltglass.clipPanel().getByRole('heading').first();
  await expect(heading).toBeVisible();
  const name = (await heading.textContent())!;
  expect((await saltglass.statusOf(name))?.status).not.toBe('linked');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await saltglass.statusOf(name))?.status).toBe('linked');
});

test('of a stretch that is marked on the cut there is a pull list, to the frame', async ({ page, saltglass }) => {
  await saltglass.open('cut');
  await expect(
    page.getByRole('list', { name: 'recordings under the events' }).getByRole('listitem').first(),
  ).toBeVisible();
  // From the first dark event on, two seconds.
  await page.keyboard.press('n');
  await page.keyboard.press('i');
  const playhead = page.getByLabel('timecode of the playhead');
  const [hours, minutes, seconds, frames] = (await playhead.inputValue()).split(':').map(Number) as number[];
  const two = [hours, minutes, seconds! + 2, frames].map((n) => String(n).padStart(2, '0')).join(':');
  await playhead.fill(two);
  await playhead.press('Enter');
  await page.keyboard.press('o');
  await expect(page.getByText('51 frames')).toBeVisible();
  await page.getByRole('button', { name: 'Pull list of this stretch' }).click();
  await expect(page.getByText(/Of a stretch alone: .* to /)).toBeVisible();
  const rows = page.getByRole('table', { name: 'pull list' }).getByRole('row');
  const few = await rows.count();
  await page.getByRole('button', { name: 'The whole project' }).click();
  await expect.poll(() => rows.count()).toBeGreaterThan(few);
});

test('what is noted in the document stands on the cut: by a key, by its flag, in words', async ({
  page,
  saltglass,
}) => {
  await saltglass.open('cut');
  const flags = page.getByRole('list', { name: 'markers' }).getByRole('button');
  await expect(flags.first()).toBeVisible();
  await page.keyboard.press('m');
  const playhead = page.getByLabel('timecode of the playhead');
  await expect(playhead).toHaveValue('10:00:22:10');
  const said = page.getByRole('figure', { name: 'at the playhead' });
  await expect(said).toContainText('the door: Ines: a wider one, if there is any');
  await page.keyboard.press('m');
  await expect(said).toContainText('song ends: fade under the talk');
  await page.keyboard.press('Shift+M');
  await expect(playhead).toHaveValue('10:00:22:10');
  await page.getByRole('button', { name: /^marker at 10:00:22:10: the door/ }).click();
  await expect(said).toContainText('a wider one');
});

test('the cut plays what is linked, to the end of the marked stretch, and stops when it is told to', async ({
  page,
  saltglass,
}) => {
  await saltglass.open('cut');
  const playhead = page.getByLabel('timecode of the playhead');
  const at = async () => Number((await playhead.inputValue()).split(':').slice(2).join('.'));
  const goTo = async (timecode: string) => {
    await playhead.fill(timecode);
    await playhead.press('Enter');
    await playhead.blur();
  };
  const figure = page.getByRole('figure', { name: 'at the playhead' });
  await goTo('10:00:03:12');
  await page.keyboard.press('o');
  await goTo('10:00:02:12');
  await page.keyboard.press('i');
  await page.keyboard.press(' ');
  await expect(figure.getByRole('button', { name: 'Stop' })).toBeVisible();
  // It plays once it is made: a second of a film, with its sound beside it.
  await expect(figure.locator('video').first()).toHaveJSProperty('paused', false, { timeout: 30_000 });
  await expect(figure.getByRole('button', { name: 'Play' })).toBeVisible({ timeout: 30_000 });
  await expect(playhead).toHaveValue('10:00:03:12');

  // From there on to the end, until somebody has enough.
  await page.keyboard.press('Shift+X');
  await figure.getByRole('button', { name: 'Play' }).click();
  await expect.poll(at, { timeout: 30_000 }).toBeGreaterThan(3.2);
  await figure.getByRole('button', { name: 'Stop' }).click();
  const stopped = await at();
  await expect(figure.locator('video')).toHaveCount(0);
  expect(await at()).toBe(stopped);
});

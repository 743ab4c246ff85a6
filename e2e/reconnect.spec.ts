import { copyFileSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, utimesSync, statSync } from 'node:fs';
import { basename, join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import type { ClipDetail } from '@legame/core/contract';
import { test } from './saltglass.ts';

const filesIn = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? filesIn(join(folder, entry.name)) : [join(folder, entry.name)],
  );
const panelOf = (page: Page) => page.getByRole('region', { name: 'files in hand' });

test('files of the computer find their clips by what they are, also under another name; only that is linked', async ({
  page,
  saltglass,
}) => {
  await saltglass.open('ledger');
  await saltglass.toDo(46);
  const day = join(saltglass.legame.bay, 'KILN_B', 'rushes', 'day3');
  const files = filesIn(day).filter((path) => /\.mov$/.test(path));
  await page.getByLabel('files to find clips for').setInputFiles(files);
  const panel = panelOf(page);
  await expect(panel).toContainText(`${files.length} of them lie in a place. They are for 3 dark clips`);
  // They were named afresh: their headers tell whose they are.
  await expect(panel.getByRole('listitem').filter({ hasText: 'reheat_01.mov' })).toContainText('SG3-k81.mov');
  await panel.getByRole('button', { name: 'Link 3' }).click();
  await expect(panel).toBeHidden();
  await saltglass.toDo(43);
  expect((await saltglass.clips()).filter((c) => c.tied?.by === 'hand').map((c) => c.tied!.folder)).toEqual(
    Array.from({ length: 3 }, () => 'rushes/day3/card_C'),
  );
  await page.keyboard.press('u');
  await saltglass.toDo(46);
});

test('dropped by hand from a folder that is no place, that folder is offered, added, and then linked from', async ({
  page,
  saltglass,
}) => {
  const rolls = join(saltglass.legame.bay, 'NEW_DRIVE', 'rolls');
  mkdirSync(rolls, { recursive: true });
  const shelved = filesIn(join(saltglass.legame.bay, '.shelves', 'vault')).find((path) => path.endsWith('.mov'))!;
  const film = join(rolls, basename(shelved));
  copyFileSync(shelved, film);
  const { mtime } = statSync(shelved);
  utimesSync(film, mtime, mtime);
  try {
    await saltglass.open('causes');
    await expect(page.getByRole('list', { name: 'causes' })).toBeVisible();
    // A drop as the browser itself makes it: onto the screen, with its files.
    const content = readFileSync(film).toString('base64');
    const transfer = await page.evaluateHandle(
      ({ name, base64, modified }) => {
        const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
        const dropped = new DataTransfer();
        dropped.items.add(new File([bytes], name, { lastModified: modified }));
        return dropped;
      },
      { name: basename(film), base64: content, modified: mtime.getTime() },
    );
    await page.dispatchEvent('#screen ul', 'dragenter', { dataTransfer: transfer });
    await expect(page.getByText('Drop media here to find the clips they are for')).toBeVisible();
    await page.dispatchEvent('#screen ul', 'drop', { dataTransfer: transfer });
    const panel = panelOf(page);
    await expect(panel).toContainText('Fits 1 dark clip, and lies in no place.');
    await panel.getByRole('button', { name: `Add ${rolls} as a place` }).click();
    await expect
      .poll(async () => (await saltglass.places()).some((p) => p.path === rolls && p.unread === 0))
      .toBe(true);
    await saltglass.quiet();
    await panel.getByRole('button', { name: 'Look again' }).click();
    await panel.getByRole('button', { name: 'Link 1' }).click();
    await expect(panel).toBeHidden();
    await saltglass.toDo(45);
    expect((await saltglass.statusOf(basename(film)))?.status).toBe('linked');
  } finally {
    rmSync(join(saltglass.legame.bay, 'NEW_DRIVE'), { recursive: true });
  }
});

test('a document of a name that is here already is asked about before it takes the place of any', async ({
  page,
  saltglass,
}) => {
  const cuts = join(saltglass.legame.bay, 'TRIMS');
  mkdirSync(cuts);
  copyFileSync(saltglass.document('Saltglass reel 2 of tuesday.edl'), join(cuts, 'Saltglass reel 2.edl'));
  try {
    await saltglass.tell('/places', { path: cuts, name: 'TRIMS' });
    const before = (await saltglass.ask<{ name: string }[]>(`/projects/${saltglass.id}/documents`)).length;
    await saltglass.open('intake');
    await page.getByRole('button', { name: 'From a place…' }).click();
    const chooser = page.getByRole('region', { name: 'bring in from a place' });
    await chooser.getByLabel('place', { exact: true }).selectOption({ label: 'TRIMS' });
    await chooser.getByTitle('Bring in Saltglass reel 2.edl').click();
    const asks = chooser.getByRole('group', { name: 'same name' });
    await expect(asks).toContainText('is in this project already');
    await asks.getByRole('button', { name: 'Another document' }).click();
    await chooser.getByRole('button', { name: 'Bring in at this rate' }).click();
    await expect
      .poll(async () => (await saltglass.ask<{ name: string }[]>(`/projects/${saltglass.id}/documents`)).length)
      .toBe(before + 1);
  } finally {
    rmSync(cuts, { recursive: true });
  }
});

test('a clip that goes dark is seen as it was, beside what is found and in the cut', async ({ page, saltglass }) => {
  const { bay } = saltglass.legame;
  const name = 'bowl-gather_01.mov';
  const [lay, lies] = [join(bay, 'KILN_A/day1/cardA', name), join(bay, 'KILN_A/sorted', name)];
  const detail = async () => {
    const { id } = (await saltglass.clips()).find((clip) => clip.fileName === name)!;
    return saltglass.ask<ClipDetail>(`/clips/${id}`);
  };
  // Nobody asks for it: once nothing else is to be done, a picture of every linked clip is taken.
  await expect.poll(async () => (await detail()).kept?.isOfTied, { timeout: 50_000 }).toBe(true);
  mkdirSync(join(bay, 'KILN_A/sorted'));
  renameSync(lay, lies);
  // Another take under its name: it differs in all but that.
  copyFileSync(join(bay, 'KILN_A/day1/cardA/bowl-gather_02.mov'), lay);
  try {
    const kiln = (await saltglass.places()).find((place) => place.name === 'KILN_A')!;
    await saltglass.tell(`/places/${kiln.id}/index`, { folder: '' });
    await saltglass.quiet();
    await saltglass.open('ledger?show=all');
    await saltglass.focusOn(name);
    const panel = saltglass.clipPanel();
    const asItWas = panel.getByRole('figure', { name: 'as it was' });
    await expect(asItWas.getByRole('img')).toHaveJSProperty('naturalWidth', 320);
    await expect(panel.locator('tr[data-attribute="look"]')).toHaveAttribute('data-verdict', 'differs');
    await panel.getByRole('button', { name: 'Other candidates' }).click();
    await expect(panel.locator('tr[data-attribute="look"]')).toContainText('looks as it did');
    await saltglass.open('cut');
    const figure = page.getByRole('figure', { name: 'at the playhead' });
    await page.getByRole('button', { name: 'next dark event' }).click();
    await expect(figure).toContainText(name);
    await expect(figure.getByRole('img', { name: `${name} as it was` })).toHaveJSProperty('naturalWidth', 320);
  } finally {
    renameSync(lies, lay);
    rmSync(join(bay, 'KILN_A/sorted'), { recursive: true });
  }
});

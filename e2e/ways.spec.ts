import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import type { ClipRow } from '@legame/core/contract';
import { test, type Saltglass } from './saltglass.ts';

/** Every way in and out: dropped files are shown before they come in, and go out with their references changed only. */
const incoming = (page: Page, name: string) => page.getByRole('article', { name: `incoming ${name}` });
const documents = (page: Page) => page.getByRole('list', { name: 'documents', exact: true });
const card = (page: Page, name: string) => documents(page).getByRole('article', { name, exact: true });
const remarks = (page: Page) => page.getByRole('region', { name: 'remarks' });
const list = `${[
  'TITLE: KILN PICKUPS',
  'FCM: NON-DROP FRAME',
  '',
  '001  A001     V     C        09:12:01:00 09:12:03:00 01:00:00:00 01:00:02:00',
  '* FROM CLIP NAME: bowl-gather_01.mov',
  'SMOKE DRIFTS LEFT, KEEP',
  '002  A002     V     C        11:05:38:00 11:05:38:00 01:00:02:00 01:00:02:00',
  '002  A002     V     D    012 11:05:07:00 11:05:09:00 01:00:02:00 01:00:04:00',
  '* FROM CLIP NAME: marver-roll_06.mov',
  '* TO CLIP NAME: marver-roll_05.mov',
  '* SOURCE FILE: /Volumes/KILN_A/day2/cardA/marver-roll_06.mov',
  '* SOURCE FILE: /Volumes/KILN_A/day2/cardA/marver-roll_05.mov',
  'M2   A002       050.0       11:05:07:00',
].join('\r\n')}\r\n`;

/** A nested timeline, a log and a list, dropped on the intake. */
async function dropThree(saltglass: Saltglass): Promise<void> {
  await saltglass.step('Intake');
  await saltglass.page
    .getByLabel('documents to bring in')
    .setInputFiles(['Saltglass memory.otio', 'Saltglass camera log.csv'].map(saltglass.document));
  await saltglass.page
    .getByLabel('documents to bring in')
    .setInputFiles({ name: 'kiln pickups.edl', mimeType: 'text/plain', buffer: Buffer.from(list) });
}
/** The same three, brought in. */
async function bringInThree(saltglass: Saltglass): Promise<void> {
  for (const name of ['Saltglass memory.otio', 'Saltglass camera log.csv']) await saltglass.bringIn(name);
  await saltglass.bringIn('kiln pickups.edl', Buffer.from(list));
  await saltglass.quiet();
}

test('a list, a nested timeline and a log are read where they are dropped, remarks and all', async ({
  page,
  saltglass,
}) => {
  await dropThree(saltglass);
  await expect(incoming(page, 'Saltglass memory.otio')).toContainText(
    '4 clips, 6 events in 1 timeline and 2 nests · 1 remark',
  );
  await expect(incoming(page, 'Saltglass camera log.csv')).toContainText('42 clips · 2 remarks');
  await expect(incoming(page, 'kiln pickups.edl')).toContainText('3 clips, 3 events in 1 timeline');
  await incoming(page, 'kiln pickups.edl')
    .getByRole('button', { name: /Not brought in yet/ })
    .click();
  await expect(remarks(page)).toContainText('Not understood, kept for the export: SMOKE DRIFTS LEFT, KEEP');
  await expect(page.getByLabel('frame rate of kiln pickups.edl')).toContainText(
    '25 – as the project’s other timelines',
  );
  // Nothing has come in by that.
  await expect(documents(page).getByRole('article')).toHaveCount(2);
  expect(await saltglass.clips()).toHaveLength(75);

  const log = incoming(page, 'Saltglass camera log.csv');
  await log.getByRole('button', { name: /Not brought in yet/ }).click();
  await expect(remarks(page)).toContainText('in column “TC in”, 12:71:00:00 has minutes that do not exist');
  await log.getByLabel('meaning of Camera roll').selectOption({ label: 'kept under its header' });
  await expect(log.getByRole('table', { name: 'first clips' })).toContainText('Camera roll: A001');
  await log.getByLabel('meaning of Camera roll').selectOption({ label: 'reel' });
  await expect(log.getByRole('table', { name: 'first clips' })).not.toContainText('Camera roll');
});

test('they come in by one word, and every use is told through its nests', async ({ page, saltglass }) => {
  await dropThree(saltglass);
  await page.getByRole('button', { name: 'Bring in all 3' }).click();
  await expect(documents(page).getByRole('article')).toHaveCount(5);
  await expect(page.getByRole('region', { name: 'not brought in yet' })).toBeHidden();
  await expect(card(page, 'Saltglass camera log.csv')).toContainText('42 clips, 10 bins · 2 remarks');
  const inner = (await saltglass.clips()).filter((c) => c.fileName === 'bowl-gather_03.mov' && c.uses > 0);
  expect(inner).toHaveLength(1);
  await saltglass.step('Ledger');
  await page.getByRole('button', { name: /^All \d+/ }).click();
  await page.getByLabel('filter clips').fill('bowl-gather_03');
  await page.locator('[data-clip="bowl-gather_03.mov"]').filter({ hasText: /1$/ }).click();
  await expect(page.getByRole('region', { name: 'uses' })).toContainText(
    'Saltglass memory V1·2 › memory V1·2 › dream V1·1',
  );
  await expect(page.getByRole('region', { name: 'uses' })).toContainText('at 50 %');
  await page.getByLabel('filter clips').fill('');
});

async function exported(page: Page, name: string): Promise<string> {
  const of = card(page, name);
  await of.getByRole('button', { name: 'Export…' }).click();
  const waiting = page.waitForEvent('download');
  await of.getByRole('button', { name: 'Export relinked' }).click();
  const download = await waiting;
  expect(download.suggestedFilename()).toBe(name);
  await expect(of.getByRole('status')).toContainText('refer to their files');
  await of.getByRole('button', { name: 'Export…' }).click();
  return readFileSync(await download.path(), 'utf8');
}

/** Every JSON pointer under which two values differ. */
function differences(a: unknown, b: unknown, at = ''): string[] {
  if (Object.is(a, b)) return [];
  if (typeof a !== 'object' || typeof b !== 'object' || !a || !b) return [at];
  const [left, right] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const keys = new Set([...Object.keys(left), ...Object.keys(right)]);
  return [...keys].flatMap((key) => differences(left[key], right[key], `${at}/${key}`));
}

test('linked and exported, each differs from its original in its references and in nothing else', async ({
  page,
  saltglass,
}) => {
  await bringInThree(saltglass);
  await page.getByRole('button', { name: /^Link \d+ certain…/ }).click();
  await page
    .getByRole('region', { name: 'preview of linking' })
    .getByRole('button', { name: /^Link \d+$/ })
    .click();
  await expect(page.getByText('Nothing certain to link')).toBeVisible();
  await saltglass.step('Intake');

  const original = readFileSync(saltglass.document('Saltglass memory.otio'), 'utf8');
  const otio = await exported(page, 'Saltglass memory.otio');
  const changed = differences(JSON.parse(original), JSON.parse(otio));
  expect(changed).toHaveLength(4);
  for (const pointer of changed) expect(pointer).toMatch(/media_references\/DEFAULT_MEDIA\/target_url$/);
  // To the letter: with its URLs put back it is the original, 25.0 and all.
  const urls = (text: string) => [...text.matchAll(/"target_url": "([^"]*)"/g)].map((m) => m[1]!);
  const putBack = urls(otio).reduce((text, url, i) => text.replace(`"${url}"`, `"${urls(original)[i]!}"`), otio);
  expect(putBack).toBe(original);
  for (const url of urls(otio)) expect(decodeURI(url)).toContain(saltglass.legame.bay);

  const edl = await exported(page, 'kiln pickups.edl');
  const isReference = (line: string) => line.startsWith('* SOURCE FILE');
  expect(edl.split('\r\n').filter((l) => !isReference(l))).toEqual(list.split('\r\n').filter((l) => !isReference(l)));
  expect(edl.split('\r\n').filter(isReference)).toEqual([
    `* SOURCE FILE: ${saltglass.legame.bay}/KILN_A/day1/cardA/bowl-gather_01.mov`,
    `* SOURCE FILE: ${saltglass.legame.bay}/KILN_B/rushes/day2/card_A/marver-roll_06.mov`,
    `* SOURCE FILE: ${saltglass.legame.bay}/KILN_B/rushes/day2/card_A/marver-roll_05.mov`,
  ]);

  const log = readFileSync(saltglass.document('Saltglass camera log.csv'), 'utf8').split('\r\n');
  const back = (await exported(page, 'Saltglass camera log.csv')).split('\r\n');
  expect(back[0]).toBe(`${log[0]!},File`);
  back.slice(1).forEach((line, i) => expect(line.startsWith(log[i + 1]!)).toBe(true));
  expect(back.filter((line) => line.includes(saltglass.legame.bay)).length).toBeGreaterThan(20);
});

test('a newer version keeps its links and says what changed and what is dark', async ({ page, saltglass }) => {
  await saltglass.act('/links/certain');
  await saltglass.step('Intake');
  const before = new Map((await saltglass.clips()).map((c) => [`${c.documentId} ${c.name}`, c]));
  await page.getByLabel('documents to bring in').setInputFiles(saltglass.document('Saltglass reel 2 of tuesday.edl'));
  const newer = incoming(page, 'Saltglass reel 2 of tuesday.edl');
  await expect(newer.getByLabel('what Saltglass reel 2 of tuesday.edl is')).toContainText(
    'a newer version of Saltglass reel 2.edl',
  );
  await newer.getByRole('button', { name: 'Bring in the newer version at 25 fps' }).click();
  const changes = page.getByRole('region', { name: 'what changed' });
  await expect(changes).toContainText('furnace-door_06.mxf added');
  await expect(changes).toContainText('furnace-door_05.mxf trimmed: −8 frames at its start, −12 frames at its end');
  await expect(changes).toContainText('marver-roll_07.mov removed');
  const after = (await saltglass.clips()).filter(
    (c) =>
      c.documentId ===
      [...before.values()].find((b) => b.name === 'furnace-door_03.mxf' && b.folder.startsWith('E:/Saltglass'))
        ?.documentId,
  );
  const kept = after.find((c) => c.name === 'furnace-door_05.mxf')!;
  expect(kept).toMatchObject({
    id: before.get(`${kept.documentId} ${kept.name}`)!.id,
    tied: { by: 'rule' },
    status: { status: 'linked' },
  });
});

test('the page stays quick while fifty megabytes are read', async ({ page, saltglass }) => {
  await saltglass.step('Intake');
  await expect(page.getByLabel('documents to bring in')).toBeAttached();
  const pad = 'x'.repeat(2500);
  const clip = (i: number) => ({
    OTIO_SCHEMA: 'Clip.2',
    name: `take ${i}`,
    metadata: { pad },
    source_range: {
      OTIO_SCHEMA: 'TimeRange.1',
      start_time: { OTIO_SCHEMA: 'RationalTime.1', rate: 25, value: 0 },
      duration: { OTIO_SCHEMA: 'RationalTime.1', rate: 25, value: 10 },
    },
    media_references: { DEFAULT_MEDIA: { OTIO_SCHEMA: 'ExternalReference.1', target_url: `take_${i}.mov` } },
    active_media_reference_key: 'DEFAULT_MEDIA',
  });
  const head =
    '{"OTIO_SCHEMA":"Timeline.1","name":"big","tracks":{"OTIO_SCHEMA":"Stack.1","children":[{"OTIO_SCHEMA":"Track.1","kind":"Video","children":[';
  // Made in the page, for a file of this size does not go in by the wire.
  await page.evaluate(
    ({ head: start, one }) => {
      const parts = [start];
      for (let i = 0; i < 17_000; i += 1)
        parts.push(i ? ',' : '', one.replaceAll('"take 0"', `"take ${i}"`).replaceAll('take_0.mov', `take_${i}.mov`));
      parts.push(']}]}}');
      const transfer = new DataTransfer();
      transfer.items.add(new File(parts, 'big.otio'));
      const input = document.querySelector<HTMLInputElement>('input[aria-label="documents to bring in"]')!;
      const counter = window as unknown as { frames: number };
      counter.frames = 0;
      const beat = () => {
        // Only what is drawn while the file is being read counts.
        if (document.querySelector('article[aria-label="incoming big.otio"]')?.textContent.includes('Reading '))
          counter.frames += 1;
        requestAnimationFrame(beat);
      };
      requestAnimationFrame(beat);
      input.files = transfer.files;
      input.dispatchEvent(new Event('change', { bubbles: true }));
    },
    { head, one: JSON.stringify(clip(0)) },
  );
  const card = incoming(page, 'big.otio');
  await page.getByLabel('find or do').fill('bowl-gather');
  await expect(page.getByRole('listbox', { name: 'found' })).toContainText('bowl-gather_01.mov');
  await page.getByLabel('find or do').fill('');
  await expect(card).toContainText('17\u202f000 clips', { timeout: 60_000 });
  expect(await page.evaluate(() => (window as unknown as { frames: number }).frames)).toBeGreaterThan(10);
  await card.getByRole('button', { name: 'leave big.otio' }).click();
});

test('what cannot be read says why, and a bundle folder in a place comes in with its media', async ({
  page,
  saltglass,
}) => {
  await saltglass.act('/links/certain');
  await saltglass.step('Intake');
  await page.getByLabel('documents to bring in').setInputFiles([
    { name: 'cut off.otio', mimeType: 'text/plain', buffer: Buffer.from('{"OTIO_SCHEMA": "Timeline.1",\n"tracks":') },
    { name: 'half.otioz', mimeType: 'application/zip', buffer: Buffer.from('PK\u0003\u0004 and no more') },
  ]);
  await expect(incoming(page, 'cut off.otio')).toContainText('broken JSON at line 2');
  await expect(incoming(page, 'half.otioz')).toContainText('no whole bundle');
  await page.getByRole('button', { name: 'leave cut off.otio' }).click();
  await page.getByRole('button', { name: 'leave half.otioz' }).click();

  await saltglass.step('Handoff');
  await saltglass.say('form of the set', /bundle folder/);
  await saltglass.handOver('for sound');

  await page.goto(saltglass.legame.url);
  await page.getByLabel('name of a new project').fill('Sound');
  await page.getByRole('button', { name: 'Create project' }).click();
  await page.waitForURL(/\/projects\//);
  const other = new URL(page.url()).pathname.split('/')[2]!;
  await saltglass.step('Places');
  await page.getByRole('button', { name: 'Add a place…' }).click();
  await page.getByLabel('folder path').fill(join(saltglass.legame.bay, 'DELIVERY'));
  await page.getByRole('button', { name: 'Add this place' }).click();
  await expect(page.getByText('still to be read')).toBeHidden({ timeout: 30_000 });
  await saltglass.step('Intake');
  await page.getByRole('button', { name: 'From a place…' }).click();
  const chooser = page.getByRole('region', { name: 'bring in from a place' });
  await chooser.getByLabel('place', { exact: true }).selectOption({ label: 'DELIVERY' });
  await chooser.getByRole('button', { name: /for sound\.otiod/ }).click();
  await expect(documents(page)).toContainText('Saltglass cut 7');
  const opened = async () => (await saltglass.clips(other)).filter((c) => c.uses > 0 && c.status.status === 'linked');
  await expect.poll(async () => (await opened()).length).toBeGreaterThan(40);
  expect(new Set((await opened()).map((c) => c.tied!.placeName))).toEqual(new Set(['DELIVERY']));
});

test('the report, the pull list and the whole project go out; the project opens as it was', async ({
  page,
  saltglass,
}) => {
  await saltglass.act('/links/certain');
  await saltglass.step('Handoff');
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Whole project, OTIO' }).click(),
  ]);
  const path = await file.path();
  await page.getByRole('link', { name: 'Status report, to print' }).click();
  await expect(page.getByRole('heading', { name: 'Saltglass: state of its media' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'why' })).toContainText('CARD_07 is not plugged in');
  await expect(page.locator('main img').first()).toHaveJSProperty('complete', true);
  const [html] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as HTML' }).click(),
  ]);
  const report = readFileSync(await html.path(), 'utf8');
  expect(report).toContain('src="data:image/jpeg;base64,');
  expect(report).not.toMatch(/<script|<link|src="\/|href=/);
  await page.getByRole('link', { name: 'Back' }).click();
  await saltglass.step('Handoff');
  await page.getByLabel('handles in frames').fill('10');
  await page.getByRole('link', { name: 'to print', exact: true }).click();
  await expect(page.getByText('What is dark, with 10 frames of handles.')).toBeVisible();
  await expect(page.getByRole('heading', { level: 2 }).first()).toBeVisible();

  const before = await saltglass.clips();
  await page.goto(saltglass.legame.url);
  await page.getByLabel('exported project to open').setInputFiles({
    name: 'Saltglass.otio',
    mimeType: 'application/json',
    buffer: readFileSync(path),
  });
  await page.waitForURL(/\/projects\//);
  const opened = new URL(page.url()).pathname.split('/')[2]!;
  await expect(page.getByRole('button', { name: /^To do \d+/ })).toBeVisible();
  const told = (rows: readonly ClipRow[]) => rows.map((c) => [c.name, c.status, c.tied?.mediaFileId, c.uses]);
  await expect.poll(async () => told(await saltglass.clips(opened))).toEqual(told(before));
});

test('the cut shows what is dark, what hangs under it, and lets a thread be hung on another recording', async ({
  page,
  saltglass,
}) => {
  await saltglass.step('Cut');
  const rows = page.getByRole('list', { name: 'recordings under the events' }).getByRole('listitem');
  await expect(rows.first()).toBeVisible();
  const playhead = page.getByLabel('timecode of the playhead');
  await playhead.fill('10:00:03:00');
  await playhead.press('Enter');
  const picture = page.getByRole('figure', { name: 'at the playhead' });
  await expect(picture).toContainText('bowl-gather_01.mov');
  await expect(picture).toContainText(/frame \d+ of 150/);
  await expect(picture.getByRole('img')).toHaveJSProperty('complete', true);
  const before = (await picture.textContent())!;
  await page.locator('body').press('ArrowRight');
  await expect(playhead).toHaveValue('10:00:03:01');
  await expect(picture).not.toHaveText(before);

  await page.locator('body').press('i');
  await playhead.fill('10:00:05:00');
  await playhead.press('Enter');
  await page.locator('body').press('o');
  await expect(page.getByRole('status')).toContainText('10:00:03:01 – 10:00:05:01, 50 frames');
  await page.getByRole('button', { name: 'Hand this stretch off…' }).click();
  await expect(page.getByRole('button', { name: 'timelines: a stretch of Saltglass cut 7' })).toBeVisible();
  await expect(page.getByRole('table', { name: 'what goes' })).toContainText('bowl-gather_01.mov');
  await expect(page.getByRole('table', { name: 'what goes' })).not.toContainText('co-op-talk_01.mxf');
  await saltglass.step('Cut');

  await page.locator('body').press('n');
  const dark = rows.first();
  await expect(dark).toHaveAttribute('aria-label', 'marver-roll_01.mov: Missing');
  const from = (await dark.locator('rect.cursor-grab').boundingBox())!;
  const other = page.getByRole('listitem', { name: 'marver-roll_01.mov: could be it' });
  const to = (await other.boundingBox())!;
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2, to.y + 30, { steps: 5 });
  await page.mouse.up();
  const asked = page.getByRole('region', { name: 'point by hand' });
  await expect(asked).toContainText('folder: ');
  expect(await saltglass.statusOf('marver-roll_01.mov')).toMatchObject({ status: 'missing' });
  await asked.getByRole('button', { name: 'Link' }).click();
  await expect.poll(() => saltglass.statusOf('marver-roll_01.mov')).toMatchObject({ status: 'linked' });
  await expect(rows.first()).toHaveAttribute('aria-label', 'marver-roll_01.mov: Linked');

  // A nested timeline opens, with what it reads, and leads back.
  await playhead.fill('10:00:54:00');
  await playhead.press('Enter');
  await page.locator('body').press('Enter');
  await page.getByRole('button', { name: '‹ Saltglass cut 7' }).click();
  await expect(page.getByLabel('timeline', { exact: true })).toBeVisible();
  await page.locator('body').press('n');

  // What is in hand here is in hand there, and the other way.
  const name = (await rows.first().getAttribute('aria-label'))!.split(':')[0]!;
  await page.getByRole('button', { name: 'Open in the Ledger' }).click();
  await expect(saltglass.clipPanel().getByRole('heading', { name })).toBeVisible();
  await page.getByRole('button', { name: 'In the cut' }).click();
  await expect(rows.first()).toHaveAttribute('aria-label', new RegExp(`^${name}: `));
});

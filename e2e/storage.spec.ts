import { existsSync, readFileSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { test } from './saltglass.ts';

/** Storage as it is: drives that come and go, shares that stall, files that lie, and the edit through all of it. */
const drive = (page: Page, name: string) =>
  page
    .getByRole('list', { name: 'drives' })
    .locator('> li')
    .filter({ has: page.locator(`b:text-is("${name}")`) });
const openBay = (page: Page) => page.getByRole('button', { name: 'Drive bay' }).click();

test('an unplugged drive takes its clips along, with the cause, and brings them back', async ({ page, saltglass }) => {
  await saltglass.step('Places');
  // The simulated drives belong to the demo, and are folded away until they are asked for.
  await expect(page.getByRole('list', { name: 'drives' })).toBeHidden();
  await openBay(page);
  await expect(saltglass.place('KILN_A')).toContainText('there');
  await drive(page, 'KILN_A').getByRole('button', { name: 'Unplug' }).click();
  await expect(saltglass.place('KILN_A')).toContainText('not plugged in');
  await expect
    .poll(() => saltglass.statusOf('bowl-gather_01.mov'))
    .toMatchObject({ status: 'missing', because: 'place-away' });
  await saltglass.step('Ledger');
  await page.getByRole('button', { name: /^All \d+/ }).click();
  await page.locator('[data-clip="bowl-gather_01.mov"]').first().click();
  await expect(page.getByRole('region', { name: 'clip' })).toContainText('KILN_A is not plugged in');
  await saltglass.step('Places');
  await drive(page, 'KILN_A').getByRole('button', { name: 'Plug in' }).click();
  await expect.poll(() => saltglass.statusOf('bowl-gather_01.mov')).toMatchObject({ status: 'linked' });
});

test('a drive that comes back under another path is recognised, and all its clips return', async ({
  page,
  saltglass,
}) => {
  await saltglass.step('Places');
  await openBay(page);
  const rename = async (from: string, to: string) => {
    await drive(page, from).getByRole('button', { name: 'Rename…' }).click();
    await page.getByLabel(`new name of ${from}`).fill(to);
    await page.getByRole('button', { name: 'Rename', exact: true }).click();
    await expect(drive(page, to)).toBeVisible();
  };
  await rename('KILN_A', 'USB DISK 4');
  await expect(saltglass.place('KILN_A')).toContainText('Recognised: it lay at');
  await expect(saltglass.place('KILN_A')).toContainText(join(saltglass.legame.bay, 'USB DISK 4'));
  await expect.poll(() => saltglass.statusOf('bowl-gather_01.mov')).toMatchObject({ status: 'linked' });
  expect((await saltglass.places()).filter((p) => p.name === 'KILN_A')).toHaveLength(1);
  await rename('USB DISK 4', 'KILN_A');
  await expect(saltglass.place('KILN_A')).toContainText(join(saltglass.legame.bay, 'KILN_A'));
});

test('a stalled share does not hold up the rest', async ({ page, saltglass }) => {
  await saltglass.step('Places');
  await openBay(page);
  await drive(page, 'BAY_SHARE').getByLabel('stalling').check();
  await expect(saltglass.place('BAY_SHARE')).toContainText('does not answer');
  await saltglass.place('KILN_B').getByRole('button', { name: 'Index again' }).click();
  const before = (await saltglass.places()).find((p) => p.name === 'KILN_B')!.indexedAt;
  await expect
    .poll(async () => (await saltglass.places()).find((p) => p.name === 'KILN_B')!.indexedAt)
    .not.toBe(before);
  await expect.poll(() => saltglass.statusOf('bowl-gather_01.mov')).toMatchObject({ status: 'linked' });
  expect(await saltglass.statusOf('SND01_T01.wav')).toMatchObject({ status: 'missing', because: 'place-away' });
  await drive(page, 'BAY_SHARE').getByLabel('stalling').uncheck();
  await expect.poll(() => saltglass.statusOf('SND01_T01.wav'), { timeout: 30_000 }).toMatchObject({ status: 'linked' });
});

test('what cannot be used says why, and split recordings are one', async ({ page, saltglass }) => {
  await saltglass.step('Places');
  await saltglass.place('KILN_B').getByRole('button', { name: 'KILN_B' }).click();
  const panel = page.getByRole('region', { name: 'place in full' });
  await expect(panel).toContainText('ember-wide_cut-short.mov');
  await expect(panel).toContainText(/its header is broken: its index was never written|It is cut off/i);
  await expect(panel).toContainText('1 recording of several files');
  await expect(panel).toContainText('3 parts, 22:10:00:00–22:10:15:15, without a gap');
  await panel.getByRole('button', { name: 'Set the index aside' }).click();
  await expect(panel.getByRole('list', { name: 'indexes set aside' })).toContainText('23 files');
  await panel.getByRole('button', { name: 'Bring back' }).click();
  await expect(panel).toContainText('Brought back for 23 files');
  await saltglass.place('BAY_SHARE').getByRole('button', { name: 'BAY_SHARE', exact: false }).first().click();
  await expect(panel).toContainText('SND02_T09.wav');
  await expect(panel).toContainText(/It is cut off: [\d\u202f]+ of 384\u202f000 samples are there/i);
  await expect(panel).toContainText('it is no media, whatever its name says: it is text.');
});

test('the culprit hidden in a nested timeline is found and named with its path', async ({ page, saltglass }) => {
  await saltglass.step('Intake');
  await page.getByLabel('documents to bring in').setInputFiles(saltglass.document('Saltglass memory.otio'));
  await page
    .getByRole('article', { name: 'incoming Saltglass memory.otio' })
    .getByRole('button', { name: 'Bring in' })
    .click();
  await expect(page.getByRole('list', { name: 'documents', exact: true })).toContainText('Saltglass memory');

  const path = join(saltglass.legame.bay, 'KILN_A/day1/cardA/bowl-gather_03.mov');
  const [whole, times] = [readFileSync(path), statSync(path)];
  const damaged = Buffer.from(whole);
  // Its header stays as it was: only decoding finds that.
  damaged.fill(0xa5, Math.floor(whole.length * 0.3), Math.floor(whole.length * 0.34));
  try {
    writeFileSync(path, damaged);
    await expect
      .poll(async () => (await saltglass.places()).find((p) => p.name === 'KILN_A'), { timeout: 20_000 })
      .toMatchObject({ unread: 0 });
    await saltglass.step('Read log');
    await page.getByRole('button', { name: 'Find the culprit' }).click();
    const found = page.getByRole('list', { name: 'files that fail' });
    await expect(found).toContainText('bowl-gather_03.mov', { timeout: 60_000 });
    await expect(found).toContainText(/it opens, but stops at frame \d+ of 224/);
    await expect(found).toContainText('Saltglass memory V1·2 › memory V1·2 › dream V1·1');
    await expect(page.getByText('1 file fails')).toBeVisible();
    await expect.poll(() => saltglass.statusOf('bowl-gather_03.mov')).toMatchObject({ status: 'unreadable' });
    await page.getByRole('button', { name: 'With trouble' }).click();
    await expect(page.getByRole('list', { name: 'read log', exact: true })).toContainText('bowl-gather_03.mov');
    await found.getByRole('link').first().click();
    await expect(page.getByRole('region', { name: 'clip' })).toContainText('it opens, but stops at frame');
  } finally {
    writeFileSync(path, whole);
    utimesSync(path, times.atime, times.mtime);
  }
  // Noticed by itself, or when it is read again.
  await page.getByRole('button', { name: 'Read again' }).click();
  await expect
    .poll(() => saltglass.statusOf('bowl-gather_03.mov'), { timeout: 20_000 })
    .toMatchObject({ status: 'linked' });
});

test('a picture strip and a preview that plays', async ({ page, saltglass }) => {
  await page.getByRole('button', { name: /^All \d+/ }).click();
  await saltglass.focusOn('bowl-gather_01.mov');
  const clip = page.getByRole('region', { name: 'clip' });
  await clip.getByRole('button', { name: 'strip' }).click();
  await expect(clip.getByLabel('strip of frames').locator('img')).toHaveCount(6);
  await clip.getByRole('button', { name: 'play' }).click();
  const video = clip.locator('video');
  await expect
    .poll(() => video.evaluate((v: HTMLVideoElement) => v.readyState), { timeout: 30_000 })
    .toBeGreaterThan(1);
  expect(await video.evaluate((v: HTMLVideoElement) => v.videoWidth)).toBe(480);
});

test('the vault gives back what is asked for, and its clip returns', async ({ page, saltglass }) => {
  await saltglass.step('Places');
  await openBay(page);
  expect(await saltglass.statusOf('crucible-pour_02.mov')).toMatchObject({ status: 'missing' });
  await page.getByRole('list', { name: 'Tape vault' }).getByRole('button', { name: 'Ask for it' }).click();
  await expect(page.getByRole('list', { name: 'Tape vault' })).toContainText('On its way…');
  await expect
    .poll(() => saltglass.statusOf('crucible-pour_02.mov'), { timeout: 40_000 })
    .toMatchObject({ status: 'linked' });
});

test('the room map leads to what is not used; cleared files are moved, and come back', async ({ page, saltglass }) => {
  await saltglass.step('Places');
  await saltglass.place('KILN_B').getByRole('link', { name: 'Room map' }).click();
  await expect(page.getByRole('group', { name: 'room map' })).toContainText('night/');
  await page
    .getByRole('group', { name: 'room map' })
    .getByRole('button', { name: /^night/ })
    .click();
  await expect(page.getByRole('navigation', { name: 'folder shown' })).toContainText('rushes / night');
  await page.getByLabel('choose kiln-night_P03.mov').check();
  await page.getByRole('button', { name: /^Clear 1 file/ }).click();
  await expect(page.getByText('Moved 1 file into the holding folder.')).toBeVisible();
  const original = join(saltglass.legame.bay, 'KILN_B/rushes/night/kiln-night_P03.mov');
  expect(existsSync(original)).toBe(false);
  await page.getByRole('button', { name: /^Holding folder 1/ }).click();
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByText('Back at')).toBeVisible();
  expect(existsSync(original)).toBe(true);
});

test('what the project does not accept says so, and an accepted copy takes its place', async ({ page, saltglass }) => {
  await saltglass.step('Places');
  await page.getByRole('button', { name: 'Add a place…' }).click();
  await page.getByLabel('folder path').fill(join(saltglass.legame.bay, 'DELIVERY'));
  await page.getByRole('button', { name: 'Add this place' }).click();
  await expect(saltglass.place('DELIVERY')).toContainText('indexed');
  await saltglass.step('Ledger');
  await page.getByRole('button', { name: 'Codecs…' }).click();
  const accepts = page.getByRole('region', { name: 'what the project accepts' });
  await accepts.getByRole('checkbox', { name: 'h264' }).check();
  await accepts.getByRole('checkbox', { name: 'mjpeg' }).check();
  await accepts.getByRole('button', { name: 'Accept only this' }).click();
  await expect
    .poll(() => saltglass.statusOf('co-op-talk_01.mxf'))
    .toMatchObject({ status: 'unreadable', reason: { code: 'not-accepted' } });
  await page.getByRole('button', { name: /^All \d+/ }).click();
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByLabel('filter clips').fill('co-op-talk_01');
  await page.locator('[data-clip="co-op-talk_01.mxf"]').first().click();
  const clip = page.getByRole('region', { name: 'clip' });
  await expect(clip).toContainText('the project does not take its codec: mpeg2video; accepted is h264, mjpeg');
  await clip.getByRole('button', { name: 'Make an accepted copy…' }).click();
  const copy = page.getByRole('region', { name: 'make an accepted copy' });
  await copy.getByLabel(/H\.264 in MOV/).check();
  await copy.getByRole('button', { name: 'DELIVERY' }).click();
  await copy.getByRole('button', { name: 'Make it here' }).click();
  await expect(copy).toContainText('Made, proven, and linked.', { timeout: 60_000 });
  const linked = (await saltglass.clips()).find((c) => c.fileName === 'co-op-talk_01.mxf')!;
  expect(linked).toMatchObject({
    status: { status: 'linked' },
    tied: { placeName: 'DELIVERY', name: 'co-op-talk_01.mov', by: 'hand' },
  });
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => saltglass.statusOf('co-op-talk_01.mxf')).toMatchObject({ status: 'unreadable' });
});

import { gzipSync } from 'node:zlib';
import { expect } from '@playwright/test';
import { barriers } from './axe.ts';
import { test, type Saltglass } from './saltglass.ts';

/** Every screen can be read by everybody: checked by rule in both themes, and with less room. */

/** The addresses of every screen. */
async function screens({ id, places }: Saltglass): Promise<string[]> {
  const room = (await places()).find((p) => p.name === 'KILN_A')!;
  const of = `/projects/${id}`;
  const views = [
    'intake',
    'places',
    'causes',
    'ledger',
    'cut',
    'handoff',
    'bins',
    'timecode',
    'pulls',
    'naming',
    'health',
    'history',
    'read-log',
  ];
  return [
    '/',
    ...views.map((view) => `${of}/${view}`),
    `${of}/places/${room.id}/room`,
    `${of}/report`,
    `${of}/pull-list`,
    `${of}/health-report`,
    '/received',
  ];
}

/** Goes there, and waits until nothing is on its way any more. */
async function goTo({ page, legame }: Saltglass, path: string): Promise<void> {
  await page.goto(`${legame.url}${path}`);
  await expect(page.locator('main')).toHaveCount(1);
  await expect(page.locator('h1')).not.toHaveCount(0);
  await expect(page.getByText(/^Loading /)).toHaveCount(0);
}

for (const theme of ['paper', 'lamp'] as const)
  test(`no screen keeps anybody out, ${theme}`, async ({ page, saltglass }) => {
    test.setTimeout(180_000);
    await saltglass.quiet();
    const found: string[] = [];
    await saltglass.put(`/people/${theme}/preferences`, { theme });
    await page.addInitScript((person) => localStorage.setItem('legame.person', person), theme);
    for (const screen of await screens(saltglass)) {
      await goTo(saltglass, screen);
      expect(await page.locator('html').getAttribute('data-theme')).toContain(theme);
      for (const barrier of await barriers(page)) found.push(`${screen} ${barrier}`);
      if (!screen.endsWith('/ledger')) continue;
      // With a clip in hand, and over it the keys.
      await page.keyboard.press('n');
      await expect(saltglass.clipPanel().getByRole('heading').first()).toBeVisible();
      for (const barrier of await barriers(page)) found.push(`a clip in hand: ${barrier}`);
      await page.keyboard.press('?');
      await expect(page.getByRole('dialog')).toBeVisible();
      for (const barrier of await barriers(page)) found.push(`the keys: ${barrier}`);
    }
    expect(found).toEqual([]);
  });

test('with half the room, as when all is drawn twice as large, nothing is lost and nothing lies outside', async ({
  page,
  saltglass,
}) => {
  test.setTimeout(180_000);
  await saltglass.quiet();
  const found: string[] = [];
  for (const [width, height] of [
    [1024, 768],
    [640, 400],
  ] as const) {
    await page.setViewportSize({ width, height });
    for (const screen of await screens(saltglass)) {
      await goTo(saltglass, screen);
      // What lies outside of the window, and no box around it can be scrolled to it.
      const outside = await page.evaluate(() => {
        const canScroll = (element: Element): boolean => {
          for (let at: Element | null = element; at; at = at.parentElement) {
            const { overflowX, overflowY } = getComputedStyle(at);
            if (/auto|scroll/.test(overflowX + overflowY)) return true;
          }
          return document.documentElement.scrollWidth > innerWidth;
        };
        return [...document.querySelectorAll('button, a[href], input, select')]
          .filter((element) => {
            const box = element.getBoundingClientRect();
            if (box.width === 0 || box.height === 0 || element.closest('.sr-only, [hidden]')) return false;
            return (box.left >= innerWidth || box.top >= innerHeight || box.right <= 0) && !canScroll(element);
          })
          .map((element) => element.outerHTML.slice(0, 100));
      });
      for (const one of outside) found.push(`${width} ${screen} ${one}`);
    }
  }
  expect(found).toEqual([]);
});

test('the first load is small: what is asked for seldom comes when it is asked for', async ({ saltglass }) => {
  const { url } = saltglass.legame;
  const index = await (await fetch(url)).text();
  const assets = [...new Set([...index.matchAll(/assets\/[^"]+\.(?:js|css)/g)].map(([path]) => path))];
  expect(assets.length).toBeGreaterThan(5);
  const sizes = await Promise.all(
    assets.map(async (path) => gzipSync(Buffer.from(await (await fetch(`${url}/${path}`)).arrayBuffer())).length),
  );
  expect(sizes.reduce((sum, size) => sum + size)).toBeLessThan(350_000);
});

import { chromium, type Page } from '@playwright/test';
import { ms, say } from './measure.ts';

/** The screens of a large project in headless Chromium, as a hand meets them. */
export async function measurePage(url: string, projectId: string, screens: 'all' | 'ledger' = 'all'): Promise<void> {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--enable-precise-memory-info'],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    say('\n| the page | |');
    say('|---|---|');
    const told = async (what: string, measured: Promise<number>) => say(`| ${what} | ${ms(await measured)} |`);
    const toldOf = (what: string, { slow, worst }: Frames) =>
      say(`| ${what}: frames over 50 ms of 300 | ${slow}, the worst ${ms(worst)} ms |`);
    // Looked for at each frame: locators look again after up to half a second.
    const shows = (selector: string) => () => page.evaluate<void>(shown(selector));
    const rows = shows('[data-clip]');
    const goes = async (what: string, act: () => Promise<unknown>, isThere: () => Promise<unknown>) => {
      const begun = performance.now();
      await act();
      await isThere();
      await told(what, Promise.resolve(performance.now() - begun));
      await page.waitForTimeout(6000);
    };
    const step = (name: string) => () => page.getByRole('link', { name, exact: false }).first().click();
    const ledger = () => page.goto(`${url}/projects/${projectId}/ledger?show=all`);
    await goes('ledger: first rows, ms', ledger, rows);
    await goes('ledger: first rows after a reload, ms', ledger, rows);
    say(`| ledger: keystroke to drawn rows, ms | ${(await keystrokes(page, 'filter clips')).map(ms).join(', ')} |`);
    toldOf('ledger: scrolled by 120 dots each', await scroll(page));
    await page.locator('[data-clip]').nth(3).click();
    await page.waitForTimeout(500);
    await goes(
      'ledger: five arrow keys, ms',
      () => fiveTimes(page, 'ArrowDown'),
      () => Promise.resolve(),
    );
    if (screens === 'ledger') return;
    await goes('bins: first rows after navigation, ms', step('Bins'), rows);
    say(`| bins: keystroke to drawn rows, ms | ${(await keystrokes(page, 'find in this bin')).map(ms).join(', ')} |`);
    toldOf('bins: scrolled by 120 dots each', await scroll(page));
    await goes('causes: shown after navigation, ms', step('Causes'), shows('[aria-label="causes"]'));
    await goes('cut: shown after navigation, ms', step('Cut'), shows('canvas[aria-label]'));
    for (const [what, wheel] of [
      ['half a minute in sight, panned', { deltaY: 120 }],
      ['zoomed out to all', { deltaY: 40, ctrlKey: true }],
      ['all in sight, panned', { deltaY: 120 }],
      ['zoomed in', { deltaY: -40, ctrlKey: true }],
    ] as const)
      toldOf(`cut: ${what}`, await wheeled(page, wheel));
    const heap = await page.evaluate<number>('performance.memory.usedJSHeapSize');
    say(`| memory of its scripts after all these, MB | ${Math.round(heap / 1e6)} |`);
  } finally {
    await browser.close();
  }
}

const shown = (selector: string): string => `new Promise((resolve) => {
  const look = () => (document.querySelector('${selector}') ? resolve() : requestAnimationFrame(look));
  look();
})`;

async function fiveTimes(page: Page, key: string): Promise<void> {
  for (let i = 0; i < 5; i += 1) await page.keyboard.press(key);
}

/** Five letters into the filter, each until the second frame after it. */
async function keystrokes(page: Page, field: string): Promise<number[]> {
  const times: number[] = [];
  for (const letter of 'T0123') {
    times.push(await page.evaluate<number>(typed(field, letter)));
    await page.waitForTimeout(300);
  }
  await page.getByLabel(field).fill('');
  await page.waitForTimeout(1000);
  return times;
}

/** Run in the page, as text: what is measured there is no code of the server's. React hears a field by its own setter. */
const typed = (field: string, letter: string): string => `new Promise((resolve) => {
  const field = document.querySelector('input[aria-label="${field}"]');
  const begun = performance.now();
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(field, field.value + '${letter}');
  field.dispatchEvent(new Event('input', { bubbles: true }));
  requestAnimationFrame(() => requestAnimationFrame(() => resolve(performance.now() - begun)));
})`;

type Frames = { readonly slow: number; readonly worst: number };

const scroll = (page: Page): Promise<Frames> =>
  frames(page, `const list = document.querySelector('[role=rowgroup]');`, 'list.scrollTop += 120;');

/** A turn of the wheel over the tracks at each frame. */
const wheeled = (page: Page, wheel: { deltaY: number; ctrlKey?: boolean }): Promise<Frames> =>
  frames(
    page,
    `const tracks = document.querySelector('canvas[aria-label]');
     const box = tracks.getBoundingClientRect();
     const at = { clientX: box.left + box.width / 2, clientY: box.top + 10, bubbles: true, cancelable: true };`,
    `tracks.dispatchEvent(new WheelEvent('wheel', { ...at, ...${JSON.stringify(wheel)} }));`,
  );

/** Does something at each of 300 frames, and says how many of them came late. */
const frames = (page: Page, before: string, each: string): Promise<Frames> =>
  page.evaluate<Frames>(`new Promise((resolve) => {
    ${before}
    let [frames, slow, worst, last] = [0, 0, 0, performance.now()];
    const step = () => {
      const now = performance.now();
      if (frames > 0) {
        worst = Math.max(worst, now - last);
        if (now - last > 50) slow += 1;
      }
      last = now;
      ${each}
      frames += 1;
      if (frames < 300) requestAnimationFrame(step);
      else resolve({ slow, worst });
    };
    requestAnimationFrame(step);
  })`);

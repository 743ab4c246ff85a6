import { chromium, type Page } from '@playwright/test';
import { ms, say } from './measure.ts';

/** The Ledger of a large project in headless Chromium, as a hand meets it. */
export async function measurePage(url: string, projectId: string): Promise<void> {
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const ledger = `${url}/projects/${projectId}/ledger?show=all`;
    say('\n| the page | |');
    say('|---|---|');
    for (const what of ['first rows, ms', 'first rows after a reload, ms']) {
      const begun = performance.now();
      await page.goto(ledger);
      await page.locator('[data-clip]').first().waitFor();
      say(`| ${what} | ${ms(performance.now() - begun)} |`);
      await page.waitForTimeout(6000);
    }
    say(`| keystroke to drawn rows, ms | ${(await keystrokes(page)).map((n) => ms(n)).join(', ')} |`);
    const { slow, worst } = await scroll(page);
    say(`| frames over 50 ms of 300, 120 dots each | ${slow}, the worst ${ms(worst)} ms |`);
    await page.locator('[data-clip]').nth(3).click();
    await page.waitForTimeout(500);
    const begun = performance.now();
    for (let i = 0; i < 5; i += 1) await page.keyboard.press('ArrowDown');
    say(`| five arrow keys, ms | ${ms(performance.now() - begun)} |`);
    const heap = await page.evaluate<number>('performance.memory.usedJSHeapSize');
    say(`| memory of its scripts, MB | ${Math.round(heap / 1e6)} |`);
  } finally {
    await browser.close();
  }
}

/** Five letters into the filter, each until the second frame after it. */
async function keystrokes(page: Page): Promise<number[]> {
  const times: number[] = [];
  for (const letter of 'T0123') {
    times.push(await page.evaluate<number>(typed(letter)));
    await page.waitForTimeout(300);
  }
  await page.getByLabel('filter clips').fill('');
  await page.waitForTimeout(1000);
  return times;
}

/** Run in the page, as text: what is measured there is no code of the server's. React hears a field by its own setter. */
const typed = (letter: string): string => `new Promise((resolve) => {
  const field = document.querySelector('input[aria-label="filter clips"]');
  const begun = performance.now();
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(field, field.value + '${letter}');
  field.dispatchEvent(new Event('input', { bubbles: true }));
  requestAnimationFrame(() => requestAnimationFrame(() => resolve(performance.now() - begun)));
})`;

const scroll = (page: Page): Promise<{ slow: number; worst: number }> =>
  page.evaluate<{ slow: number; worst: number }>(`new Promise((resolve) => {
    const list = document.querySelector('[role=rowgroup]');
    let [frames, slow, worst, last] = [0, 0, 0, performance.now()];
    const step = () => {
      const now = performance.now();
      if (frames > 0) {
        worst = Math.max(worst, now - last);
        if (now - last > 50) slow += 1;
      }
      last = now;
      list.scrollTop += 120;
      frames += 1;
      if (frames < 300) requestAnimationFrame(step);
      else resolve({ slow, worst });
    };
    requestAnimationFrame(step);
  })`);

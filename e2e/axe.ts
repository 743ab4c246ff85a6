import { createRequire } from 'node:module';
import { readFileSync } from 'node:fs';
import type { AxeResults } from 'axe-core';
import type { Page } from '@playwright/test';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** What a check finds that keeps somebody out: the rule, and where it is broken. */
export async function barriers(page: Page): Promise<string[]> {
  await page.evaluate(axe);
  const { violations } = await page.evaluate(() =>
    (globalThis as unknown as { axe: { run: () => Promise<AxeResults> } }).axe.run(),
  );
  return violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .flatMap((v) => v.nodes.map((node) => `${v.id}: ${node.target.join(' ')} ${node.html.slice(0, 120)}`));
}

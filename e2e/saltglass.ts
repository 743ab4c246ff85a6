import { readdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { expect, test as base, type Page } from '@playwright/test';
import type { Causes, ClipRow, DriveBay, Job, PlaceView } from '@legame/core/contract';
import { demoDocuments, makeDemo } from '../demo/make.ts';
import { driveAway, drives } from '../demo/spec.ts';
import { startLegame, type Legame } from './legame.ts';

/** How other machines know the drives, as the demo says it. */
const knownAs: Partial<Record<string, string[]>> = {
  KILN_A: ['/Volumes/KILN_A'],
  BAY_SHARE: ['//KILNHOUSE/BAY_SHARE'],
};
const delivery = 'DELIVERY';

/**
 * The production as one test has it: a project of its own, with drives and places as they are in the beginning, brought
 * there through the API. So every test stands alone, and they can run in any order.
 */
export class Saltglass {
  readonly page: Page;
  readonly legame: Legame;
  readonly id: string;

  constructor(page: Page, legame: Legame, id: string) {
    this.page = page;
    this.legame = legame;
    this.id = id;
  }

  ask = <T>(path: string): Promise<T> => ask<T>(this.legame, path);
  patch = (path: string, body: object): Promise<unknown> => tell(this.legame, 'PATCH', path, body);
  put = (path: string, body: object): Promise<unknown> => tell(this.legame, 'PUT', path, body);
  tell = <T>(path: string, body: object): Promise<T> => tell<T>(this.legame, 'POST', path, body);
  act = <T>(path: string, body: object = {}): Promise<T> => this.tell<T>(`/projects/${this.id}${path}`, body);
  clips = (project = this.id): Promise<ClipRow[]> => this.ask<ClipRow[]>(`/projects/${project}/clips`);
  places = (): Promise<PlaceView[]> => this.ask<PlaceView[]>('/places');
  statusOf = async (fileName: string) => (await this.clips()).find((c) => c.fileName === fileName)?.status;
  causes = async () => (await this.ask<Causes>(`/projects/${this.id}/causes`)).causes;
  /** Where a document of the demo lies. */
  document = (name: string) => join(this.legame.documents, name);
  bringIn = (name: string, bytes = readFileSync(this.document(name))) => bringIn(this.legame, this.id, name, bytes);
  quiet = () => quiet(this.legame, this.id);

  open = (view = '') => this.page.goto(`${this.legame.url}/projects/${this.id}${view && `/${view}`}`);
  step = (name: string) => this.page.getByRole('navigation', { name: 'steps' }).getByRole('link', { name }).click();
  toDo = (n: number, of = 75) =>
    expect(this.page.getByText(`${n} of ${of} clips to do`)).toBeVisible({ timeout: 20_000 });
  clipPanel = () => this.page.getByRole('region', { name: 'clip', exact: true });
  rowOf = (name: string) => this.page.locator(`[data-clip="${name}"]`).first();
  /** Filters for a clip and chooses it. */
  async focusOn(name: string): Promise<void> {
    await this.page.getByLabel('filter clips').fill(name);
    await this.rowOf(name).click();
    await expect(this.clipPanel().getByRole('heading', { name })).toBeVisible();
  }
  /** Says a word of the handoff's sentence otherwise. */
  async say(word: string, otherwise: string | RegExp): Promise<void> {
    await this.page.getByRole('button', { name: new RegExp(`^${word}: `) }).click();
    await this.page
      .getByRole('dialog')
      .getByRole('button', { name: otherwise, exact: typeof otherwise === 'string' })
      .click();
  }
  /** Says the name of the new folder, and a drive that it is made on. */
  async aim(name: string, onto: string = delivery): Promise<void> {
    const { page } = this;
    await page.getByRole('button', { name: /^name of the new folder: / }).click();
    await page.getByRole('textbox', { name: 'name of the new folder' }).fill(name);
    await page.keyboard.press('Escape');
    await this.aimAt('target', onto, 'Put it here');
  }
  async aimAt(which: 'target' | 'second target', drive: string, verb: string): Promise<void> {
    const { page } = this;
    await page.getByRole('button', { name: new RegExp(`^${which}: `) }).click();
    await page.getByRole('dialog').getByRole('button', { name: drive, exact: true }).click();
    await expect(page.getByLabel('folder path')).toHaveValue(new RegExp(`${drive}$`));
    await page.getByRole('button', { name: verb, exact: true }).click();
  }
  write = () => this.page.getByRole('button', { name: /^Write \d+ files/ });
  /** Writes what the sentence says into a new folder of the delivery drive, and waits until it is proven. */
  async handOver(name: string): Promise<string> {
    await this.aim(name);
    await this.write().click();
    await expect(this.page.getByText('Done and verified.')).toBeVisible({ timeout: 420_000 });
    return join(this.legame.bay, delivery, name);
  }
  cause = (text: string) => this.page.getByRole('list', { name: 'causes' }).locator('> li').filter({ hasText: text });
  /** Mends everything that is dark in the beginning, in as many decisions as there are causes; tells after each how many came back. */
  async mendAll(mended: (clipsBack: number) => Promise<void>): Promise<void> {
    const { page } = this;
    for (const [text, button, count] of [
      ['KILN_A/day2/cardA', 'Link 12', 12],
      ['E:', 'Link 8', 8],
      ['BAY_SHARE/sound/roll2', 'Link 4', 4],
      ['names have “SG_” in front', 'Link 4', 4],
      ['files were named afresh', 'Link 3', 3],
      ['counts each clip from zero', 'Apply offset, link 3', 3],
      ['A drive has another name here', 'Link 3', 3],
    ] as const) {
      await this.cause(text).first().getByRole('button', { name: button, exact: true }).click();
      await mended(count);
    }
    // Two stills, of which nothing but the names is known: nothing proves them, and a person says so for both.
    await this.cause('S: → BAY_SHARE/archive').click();
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
    plugInCard(this.legame);
    await mended(4);
    await this.step('Places');
    await page.getByRole('button', { name: 'Drive bay' }).click();
    await page.getByRole('list', { name: 'Tape vault' }).getByRole('button', { name: 'Ask for it' }).click();
    await mended(1);
    await page.getByRole('list', { name: 'Recycle shelf' }).getByRole('button', { name: 'Ask for it' }).click();
    await mended(1);
  }
  place = (name: string) => this.page.getByRole('list', { name: 'places' }).getByRole('article', { name, exact: true });
}

export const test = base.extend<{ saltglass: Saltglass }, { legame: Legame }>({
  legame: [
    // Playwright wants the braces.
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const legame = await startLegame();
      await use(legame);
      await legame.stop();
    },
    { scope: 'worker', timeout: 300_000 },
  ],
  saltglass: [
    async ({ legame, page }, use) => {
      await putInOrder(legame);
      const { id } = await tell<{ id: string }>(legame, 'POST', '/projects', { name: 'Saltglass' });
      for (const name of demoDocuments) await bringIn(legame, id, name, readFileSync(join(legame.documents, name)));
      await quiet(legame, id);
      const saltglass = new Saltglass(page, legame, id);
      await saltglass.open();
      await use(saltglass);
    },
    { timeout: 180_000 },
  ],
});

async function ask<T>({ url, token }: Legame, path: string): Promise<T> {
  const answer = await fetch(`${url}/api${path}`, { headers: { authorization: `Bearer ${token}` } });
  if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
  return (await answer.json()) as T;
}

async function tell<T>({ url, token }: Legame, method: string, path: string, body: object): Promise<T> {
  const answer = await fetch(`${url}/api${path}`, {
    method,
    headers: { 'content-type': 'application/json', authorization: `Bearer ${token}` },
    body: JSON.stringify(body),
  });
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`);
  return (answer.status === 204 ? undefined : await answer.json()) as T;
}

async function bringIn({ url, token }: Legame, project: string, name: string, bytes: Buffer): Promise<void> {
  const query = new URLSearchParams({ name });
  if (name.endsWith('.edl')) query.set('reading', JSON.stringify({ rate: { num: 25, den: 1 } }));
  const answer = await fetch(`${url}/api/projects/${project}/documents?${query}`, {
    method: 'POST',
    headers: { 'content-type': 'application/octet-stream', authorization: `Bearer ${token}` },
    body: new Uint8Array(bytes),
  });
  if (!answer.ok) throw new Error(`${name}: ${answer.status} ${await answer.text()}`);
}

/** Waits for all jobs but the matching of other projects, which takes its time on purpose. */
async function quiet(legame: Legame, project?: string): Promise<void> {
  const busy = async () =>
    (await ask<Job[]>(legame, '/jobs')).filter(
      (j) =>
        (j.state === 'queued' || j.state === 'running') &&
        (j.kind !== 'match-project' || j.payload.projectId === project),
    );
  await expect
    .poll(
      async () => (await busy()).map((j) => `${j.state} since ${j.startedAt ?? j.createdAt}: ${j.kind} ${j.about}`),
      {
        timeout: 60_000,
      },
    )
    .toEqual([]);
}

/** Whatever the test before did to drives, shelves and places is put back. */
async function putInOrder(legame: Legame): Promise<void> {
  const { bay } = legame;
  const unplugged = join(bay, '.unplugged');
  const standing: readonly string[] = [...drives, delivery];
  // Else those of all tests before would be matched anew at each change of the drives.
  for (const { id } of await ask<{ id: string }[]>(legame, '/projects'))
    await tell(legame, 'DELETE', `/projects/${id}`, {});
  for (const { id } of await ask<{ id: string }[]>(legame, '/set-checks'))
    await tell(legame, 'DELETE', `/set-checks/${id}`, {});
  await quiet(legame);
  for (const { name } of (await ask<DriveBay>(legame, '/drive-bay')).drives)
    await tell(legame, 'PATCH', `/drive-bay/drives/${encodeURIComponent(name)}`, {
      plugged: true,
      ...{ readOnly: false, slow: false, stalling: false, full: false },
    });
  for (const place of await ask<PlaceView[]>(legame, '/places'))
    if (!(drives as readonly string[]).includes(place.name)) await tell(legame, 'DELETE', `/places/${place.id}`, {});
  for (const left of readdirSync(join(bay, delivery))) rmSync(join(bay, delivery, left), { recursive: true });
  // A drive that was added or renamed by a test that failed.
  for (const left of readdirSync(bay))
    if (!left.startsWith('.') && !standing.includes(left)) rmSync(join(bay, left), { recursive: true });
  await mkdir(unplugged, { recursive: true });
  await makeDemo(bay, legame.documents, () => undefined);
  const known = await ask<PlaceView[]>(legame, '/places');
  for (const name of drives) {
    const place = known.find((p) => p.name === name);
    // What was learned of its names goes, too.
    if (place) {
      await tell(legame, 'PATCH', `/places/${place.id}`, { knownAs: knownAs[name] ?? [] });
      await tell(legame, 'POST', `/places/${place.id}/index`, { folder: '' });
    } else await tell(legame, 'POST', '/places', { path: join(bay, name), name, knownAs: knownAs[name] ?? [] });
  }
  await quiet(legame);
  await tell(legame, 'PATCH', `/drive-bay/drives/${driveAway}`, { plugged: false });
  await expect
    .poll(async () =>
      (await ask<PlaceView[]>(legame, '/places'))
        .filter((p) => p.there)
        .map((p) => basename(p.path))
        .sort(),
    )
    .toEqual(drives.filter((d) => d !== driveAway).sort());
  await quiet(legame);
}

/** Plugs the card in by hand, as a person would. */
export function plugInCard({ bay }: Legame): void {
  renameSync(join(bay, '.unplugged', driveAway), join(bay, driveAway));
}

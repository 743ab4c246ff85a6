import { copyFileSync, mkdirSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import type { ProjectSummary, SetCheck } from '@legame/core/contract';
import { test } from './saltglass.ts';

/** What an assistant editor does on a morning like this: three projects dark, a drive renamed, a newer cut, a card. */
test('an assistant’s morning: three projects are linked, the newer cut is in, and a handoff goes out', async ({
  page,
  saltglass,
}) => {
  test.setTimeout(400_000);
  const { legame } = saltglass;
  const troubles: string[] = [];
  page.on('pageerror', (error) => troubles.push(error.message));
  page.on('response', (answer) => {
    const { pathname } = new URL(answer.url());
    // A preview that is open asks once more about a cause that was mended just now.
    const isOver = answer.status() === 409 && /\/causes\/[0-9a-f]+$/.test(pathname);
    if (answer.status() >= 400 && !isOver) troubles.push(`${answer.status()} ${pathname}`);
  });
  let acts = 0;
  /** One decision of the person: a button that changes something. */
  const act = async (doing: Promise<unknown>) => {
    acts += 1;
    await doing;
  };
  let toDo = Infinity;
  const left = async (project: string) => (await saltglass.ask<ProjectSummary>(`/projects/${project}`)).toDo;
  const cuts = join(legame.bay, 'CUTROOM');
  mkdirSync(cuts);
  await saltglass.tell('/places', { path: cuts, name: 'CUTROOM' });

  // The night before, somebody gave a drive another name.
  renameSync(join(legame.bay, 'KILN_B'), join(legame.bay, 'KILN_B NEW'));
  try {
    await saltglass.step('Places');
    await expect(saltglass.place('KILN_B')).toContainText('Recognised: it lay at', { timeout: 60_000 });

    // The second project is the reel alone, and its newer cut is to turn up in a folder.
    await page.goto(legame.url);
    await page.getByLabel('name of a new project').fill('Reel 2');
    await act(page.getByRole('button', { name: 'Create project' }).click());
    await page.waitForURL(/\/projects\/.*intake/);
    const reel = new URL(page.url()).pathname.split('/')[2]!;
    await page.getByLabel('documents to bring in').setInputFiles(saltglass.document('Saltglass reel 2.edl'));
    await act(page.getByRole('button', { name: /^Bring in at 25/ }).click());
    const watched = page.getByRole('region', { name: 'watched folder' });
    await watched.getByRole('button', { name: 'Watch a folder…' }).click();
    await watched.getByLabel('place of the watched folder').selectOption('CUTROOM');
    await act(watched.getByRole('button', { name: 'Watch it' }).click());

    // The first is mended by its causes, the card and the shelves among them.
    await saltglass.open('causes');
    await saltglass.mendAll(async () => {
      acts += 1;
      const before = toDo;
      await expect.poll(() => left(saltglass.id), { timeout: 30_000 }).toBeLessThan(before);
      toDo = await left(saltglass.id);
    });
    expect(await left(saltglass.id)).toBe(0);

    // The third is a copy of it for colour: what was decided goes with it.
    await page.goto(legame.url);
    await page.getByRole('button', { name: 'duplicate Saltglass' }).click();
    await page.getByLabel('name of the second Saltglass').fill('Saltglass for colour');
    await act(page.getByRole('button', { name: 'Duplicate', exact: true }).click());
    await expect(page.getByRole('link', { name: /^Saltglass for colour since/ })).toBeVisible({ timeout: 30_000 });

    // The newer cut is here.
    copyFileSync(saltglass.document('Saltglass reel 2 of tuesday.edl'), join(cuts, 'Saltglass reel 2 of tuesday.edl'));
    await page.goto(`${legame.url}/projects/${reel}/intake`);
    const newer = watched.getByRole('article', { name: 'newer: Saltglass reel 2 of tuesday.edl' });
    await expect(newer).toBeVisible({ timeout: 60_000 });
    await act(newer.getByRole('button', { name: 'Bring it in' }).click());
    await expect(page.getByRole('region', { name: 'what changed' })).toContainText('furnace-door_06.mxf added');
    await saltglass.quiet();
    for (const project of await saltglass.ask<{ id: string; name: string }[]>('/projects')) {
      for (let before = await left(project.id); before > 0; before = await left(project.id)) {
        await page.goto(`${legame.url}/projects/${project.id}/causes`);
        // What is certain is mended by its main button; of what nothing proves, a person takes what was looked at.
        const main = page.getByRole('list', { name: 'causes' }).getByRole('button', { name: /link \d+$/i });
        const taken = page.getByRole('region', { name: 'preview of mending' }).getByRole('button', { name: /^Take / });
        const remedy = main.or(taken).first();
        await act(remedy.click());
        await expect.poll(() => left(project.id), { timeout: 30_000 }).toBeLessThan(before);
      }
    }
    const all = await saltglass.ask<{ id: string; name: string }[]>('/projects');
    expect(all.map((p) => p.name).sort()).toEqual(['Reel 2', 'Saltglass', 'Saltglass for colour']);
    for (const { id } of all) {
      const rows = await saltglass.clips(id);
      expect(rows.filter((r) => r.status.status !== 'linked').map((r) => [r.fileName, r.status.status])).toEqual([]);
    }

    // Out it goes, and the set proves itself.
    await saltglass.open('handoff');
    acts += 1;
    const folder = await saltglass.handOver('to sound');
    const { id } = await saltglass.tell<SetCheck>('/set-checks', { folder });
    await saltglass.quiet();
    const { counts } = await saltglass.ask<SetCheck>(`/set-checks/${id}`);
    expect([counts.changed.files, counts.missing.files, counts.new.files]).toEqual([0, 0, 0]);
    expect(counts.verified.files).toBeGreaterThan(40);
    expect(acts).toBeLessThan(40);
    expect(troubles).toEqual([]);
  } finally {
    renameSync(join(legame.bay, 'KILN_B NEW'), join(legame.bay, 'KILN_B'));
    rmSync(cuts, { recursive: true });
  }
});

import { existsSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import { makeBeside, makeEdit, makeFiles } from './production.ts';
import { memoryOf, say, tellTimes } from './measure.ts';
import { measurePage } from './page.ts';
import { startLegame, talkTo, type Running } from './running.ts';

/** After so long without work processes have handed back what they do not need. */
const restsInMs = 8000;

/**
 * A whole Legame with a large project, as its users meet it: from bringing in to the last row, through HTTP. `LEGAME_LIVE`
 * keeps the production between runs.
 */
export async function benchLive(count = 20_000): Promise<void> {
  const kept = process.env.LEGAME_LIVE;
  const root = kept ?? mkdtempSync(join(tmpdir(), 'legame-live-'));
  mkdirSync(root, { recursive: true });
  if (!existsSync(join(root, 'template.wav'))) makeFiles(root, count);
  // What a run before laid beside them is no part of what this one measures first.
  rmSync(join(root, 'KILN', 'beside'), { recursive: true, force: true });
  const legame = await startLegame(root);
  try {
    await measureAll(legame, root, count);
  } finally {
    await legame.stop();
    if (!kept) rmSync(root, { recursive: true, force: true });
  }
}

async function measureAll(legame: Running, root: string, count: number): Promise<void> {
  const { url, child } = legame;
  const { ask, get, post, quiet } = talkTo(legame);
  const told = tellTimes(`A project of ${count} clips and ${count} files, through HTTP`);
  const place = await post<{ id: string }>('/places', { path: join(root, 'KILN') });
  await told('index all files, facts included', quiet);
  await told('index again, nothing changed', async () => {
    await post(`/places/${place.id}/index`, { folder: '' });
    await quiet();
  });
  const { id } = await post<{ id: string }>('/projects', { name: 'Rolls' });
  const edit = makeEdit(count, '/Volumes/KILN');
  await told('bring in the edit', () =>
    ask(`/projects/${id}/documents?name=rolls.otio`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body: edit,
    }),
  );
  await told('and its first rows', () => ask(`/projects/${id}/clips/block?limit=400`));
  await told('matched', quiet);
  const rows = await told('all rows', () =>
    get<{ id: string; candidate: { mediaFileId: string } | null }[]>(`/projects/${id}/clips`),
  );
  await told('all rows again', () => ask(`/projects/${id}/clips`));
  const block = await told('first rows', () =>
    get<{ version: number; turned: number }>(`/projects/${id}/clips/block?limit=400`),
  );
  await told('what changed, nothing', () =>
    ask(`/projects/${id}/clips/since?version=${block.version}&turned=${block.turned}`),
  );
  await told('summary', () => ask(`/projects/${id}`));
  await told('cut', () => ask(`/projects/${id}/cut`));
  await told('darkness', () => ask(`/projects/${id}/darkness`));
  await told('causes', () => ask(`/projects/${id}/causes`));
  await told('timecode', () => ask(`/projects/${id}/timecode`));
  const dark = rows.filter((r) => r.candidate);
  if (dark[0])
    await told('link one', () =>
      post(`/projects/${id}/links`, {
        by: 'hand',
        links: [{ clipId: dark[0]!.id, mediaFileId: dark[0]!.candidate!.mediaFileId }],
      }),
    );
  const changed = await told('and the row shows it', () =>
    ask(`/projects/${id}/clips/since?version=${block.version}&turned=${block.turned}`),
  );
  say(`| bytes of that | ${changed.length} |`);
  await quiet();
  const clipIds = rows.map((r) => r.id);
  await told('park all', () => post(`/projects/${id}/set-aside`, { clipIds, as: 'parked', reason: '' }));
  await told('undo it', () => post(`/projects/${id}/undo`, {}));
  await quiet();
  const health = await told('health', () => ask(`/projects/${id}/health`));
  say(`| bytes of that | ${health.length} |`);
  await told('bins', () => ask(`/projects/${id}/bins`));
  const said = await told('all that is said of each clip', () => ask(`/projects/${id}/bins/clips`));
  say(`| bytes of that | ${said.length} |`);
  await told('all into bins by card', () => post(`/projects/${id}/bins/file-by`, { clipIds, rule: 'by-card' }));
  await told('undo it', () => post(`/projects/${id}/undo`, {}));
  const written = [{ clipIds, values: { scene: '12' } }];
  await told('write a column of all', () => post(`/projects/${id}/notes`, { written }));
  await quiet();
  say(`| memory with one project: ${memoryOf(child.pid!)} | |`);
  await after(restsInMs);
  say(`| and once it rested: ${memoryOf(child.pid!)} | |`);
  // The same edit, as a machine remembers it on which the drive had another name.
  const dark2 = (await post<{ id: string }>('/projects', { name: 'Rolls, elsewhere' })).id;
  await ask(`/projects/${dark2}/documents?name=rolls.otio`, {
    method: 'POST',
    headers: { 'content-type': 'application/octet-stream' },
    body: makeEdit(count, '/Volumes/SHED/audio'),
  });
  await quiet();
  const { causes } = await told('causes of 20,000 dark clips', () =>
    get<{ causes: { key: string; links: number; clipIds: string[] }[] }>(`/projects/${dark2}/causes`),
  );
  const [largest] = causes.toSorted((a, b) => b.links - a.links);
  say(`| causes, links of the largest | ${causes.length}, ${largest?.links ?? 0} |`);
  const [one] = largest?.clipIds ?? [];
  for (const as of ['waived', 'parked'] as const) {
    if (one) await post(`/projects/${dark2}/set-aside`, { clipIds: [one], as, reason: 'later' });
    await told(`causes after one clip is ${as}`, () => ask(`/projects/${dark2}/causes`));
  }
  if (largest) await told('mend the largest', () => post(`/projects/${dark2}/causes/${largest.key}/mend`, {}));
  await told('first rows after it', () => ask(`/projects/${dark2}/clips/block?limit=400`));
  await told('causes after it', () => ask(`/projects/${dark2}/causes`));
  await told('undo it', () => post(`/projects/${dark2}/undo`, {}));
  await told('redo it', () => post(`/projects/${dark2}/redo`, {}));
  await told('rows after it', () => ask(`/projects/${dark2}/clips/block?limit=400`));
  await told('all rows after it', quiet);
  say(`| memory with both: ${memoryOf(child.pid!)} | |`);
  await after(restsInMs);
  say(`| and once it rested: ${memoryOf(child.pid!)} | |`);
  await measurePage(url, id);
  // All else that lies on the drive.
  makeBeside(root, count * 4);
  await post(`/places/${place.id}/index`, { folder: '' });
  await quiet();
  await ask(`/projects/${id}/clips/block?limit=400`);
  await told(`health, ${count * 5} files`, () => ask(`/projects/${id}/health`));
  await told('health again', () => ask(`/projects/${id}/health`));
}

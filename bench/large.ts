import { mkdirSync, mkdtempSync, renameSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import { startCluster } from '../server/src/launch/cluster.ts';
import { openDatabase } from '../server/src/db/database.ts';
import { makeEdit, makeFiles } from './production.ts';
import { memoryOf, say, tellTimes } from './measure.ts';
import { measurePage } from './page.ts';
import { startLegame, talkTo } from './running.ts';

/**
 * A hundred thousand clips and a million files on two drives, half of the clips on each. One file is real; the records of
 * the others are written as its own, one after another in timecode: what is measured is everything but the disk.
 */
export async function benchLarge(clips = 100_000, files = 1_000_000): Promise<void> {
  const root = process.env.LEGAME_LIVE ?? mkdtempSync(join(tmpdir(), 'legame-large-'));
  rmSync(join(root, 'KILN'), { recursive: true, force: true });
  mkdirSync(root, { recursive: true });
  makeFiles(root, 1);
  mkdirSync(join(root, 'BARN'), { recursive: true });
  const legame = await startLegame(root);
  const { ask, get, post, quiet } = talkTo(legame);
  try {
    const told = tellTimes(`A project of ${clips} clips, ${files} files`);
    const kiln = await post<{ id: string }>('/places', { path: join(root, 'KILN') });
    const barn = await post<{ id: string }>('/places', { path: join(root, 'BARN') });
    await quiet();
    await fillPlaces(root, [kiln.id, barn.id], clips, files);
    const { id } = await post<{ id: string }>('/projects', { name: 'Rolls' });
    const edit = [makeEdit(clips / 2, '/Volumes/KILN'), makeEdit(clips / 2, '/Volumes/BARN')];
    for (const [i, body] of edit.entries())
      await told('bring in half of the edit', () =>
        ask(`/projects/${id}/documents?name=rolls${i}.otio`, {
          method: 'POST',
          headers: { 'content-type': 'application/octet-stream' },
          body,
        }),
      );
    await told('and its first rows', () => ask(`/projects/${id}/clips/block?limit=400`));
    await told('matched', quiet);
    await told('first rows', () => ask(`/projects/${id}/clips/block?limit=400`));
    await told('summary', () => ask(`/projects/${id}`));
    await told('causes', () => ask(`/projects/${id}/causes`));
    const { rows, ...known } = await get<{
      rows: { id: string; tied: { mediaFileId: string } | null }[];
      version: number;
      turned: number;
    }>(`/projects/${id}/clips/block?limit=400`);
    const [one, other] = rows.filter((r) => r.tied);
    if (!one || !other) throw new Error('Nothing was tied.');
    const links = [{ clipId: one.id, mediaFileId: other.tied!.mediaFileId }];
    await told('link one', () => post(`/projects/${id}/links`, { by: 'hand', links }));
    await told('and the row shows it', () =>
      ask(`/projects/${id}/clips/since?version=${known.version}&turned=${known.turned}`),
    );
    await told('matched', quiet);
    await told('the drive of half of the files is unplugged, and shown so', async () => {
      renameSync(join(root, 'BARN'), join(root, 'BARN away'));
      const isGone = async () =>
        (await get<{ id: string; there: boolean }[]>('/places')).find((p) => p.id === barn.id)?.there === false;
      while (!(await isGone())) await after(20);
      await ask(`/projects/${id}/clips/block?limit=400`);
    });
    await quiet();
    say(`| memory: ${memoryOf(legame.child.pid!)} | |`);
    await measurePage(legame.url, id, 'ledger');
  } finally {
    await legame.stop();
    if (!process.env.LEGAME_LIVE) rmSync(root, { recursive: true, force: true });
  }
}

/** Writes records as that of the one real file: those that the edit names, and as many more as there are to be. */
async function fillPlaces(root: string, placeIds: readonly string[], clips: number, files: number): Promise<void> {
  const cluster = await startCluster(join(root, 'data', 'postgres'));
  const db = openDatabase(cluster.urlOf('legame'));
  try {
    for (const placeId of placeIds)
      await db.raw(
        `insert into media_files (place_id, folder, name, size_in_bytes, modified_ms, facts, fingerprint, read_at)
         select ?::uuid,
           case when i < ? then '' else 'beside/' end || 'roll' || lpad((i / 100)::text, 4, '0'),
           case when i < ? then '' else 'b' end || 'T' || lpad(i::text, 6, '0') || '.wav',
           size_in_bytes, modified_ms, jsonb_set(facts, '{start}', to_jsonb(i::bigint * 2 * 48000)),
           fingerprint || i || left(?::text, 8), read_at
         from (select * from media_files where facts is not null order by folder limit 1) as real,
           generate_series(0, ? - 1) as i
         on conflict do nothing`,
        [placeId, clips / 2, clips / 2, placeId, files / placeIds.length],
      );
    await db.raw('analyze media_files');
  } finally {
    await db.destroy();
  }
}

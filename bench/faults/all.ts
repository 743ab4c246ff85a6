import getPort from 'get-port';
import { appendFileSync, existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ClipRow, Handoff } from '@legame/core/contract';
import { makeFilm } from '../../server/src/testing/media.ts';
import { makeList } from '../../server/src/testing/edits.ts';
import { say } from '../measure.ts';
import { failDrives } from './drives.ts';
import { harmed, holdsCanary, inventory } from './inventory.ts';
import { MistreatedLegame } from './house.ts';
import { killAtRandom } from './kills.ts';
import { films, marker, padding, spares, targetOf, trimming, type World } from './world.ts';

/** `npm run faults -- 200`: so many kills at random moments, then drives that fail in every way; figures at the end. */
export async function benchFaults(kills = Number(process.argv[3] ?? 200)): Promise<void> {
  const root = mkdtempSync(join(tmpdir(), 'legame-faults-'));
  const drives = join(root, 'drives');
  for (const name of ['KILN', 'OUT', 'SHUTTLE', 'outside'])
    mkdirSync(join(name === 'outside' ? root : drives, name), { recursive: true });
  writeFileSync(join(root, 'outside/canary.mov'), marker);
  const list: Parameters<typeof makeList>[0][number][] = [];
  for (let n = 1; n <= films; n += 1) {
    const path = join(drives, `KILN/day${1 + (n % 2)}/take${n}.mov`);
    makeFilm(path, { timecode: `0${n}:00:00:00` });
    // Bytes behind the last box are no part of the film, and have to be copied like all others.
    appendFileSync(path, Buffer.concat([sized('free', padding), Buffer.alloc(padding - 8, n)]));
    list.push({
      reel: 'A001',
      from: `0${n}:00:00:00`,
      to: `0${n}:00:01:00`,
      name: `take${n}.mov`,
      file: `/V/take${n}.mov`,
    });
  }
  mkdirSync(join(drives, 'KILN/spare'));
  for (const [n, name] of spares.entries()) makeFilm(join(drives, 'KILN/spare', name), { timecode: `1${n}:00:00:00` });
  const before = inventory(join(drives, 'KILN'));
  const legame = new MistreatedLegame(await getPort({ host: '127.0.0.1' }), join(root, 'data'), drives);
  try {
    await legame.start();
    const world = await makeWorld(legame, root, makeList(list));
    await killAtRandom(world, kills);
    await failDrives(world);
    world.problems.push(...harmed(before, inventory(join(drives, 'KILN'))));
    world.problems.push(...holdsCanary(drives, marker).map((path) => `the canary was copied to ${path}`));
    const cache = join(root, 'data/cache');
    if (existsSync(cache)) world.problems.push(...holdsCanary(cache, marker).map((path) => `the canary is in ${path}`));
    for (const problem of world.problems) say(`  ✗ ${problem}`);
    say(world.problems.length === 0 ? '0 problems' : `${world.problems.length} problems`);
    if (world.problems.length > 0) process.exitCode = 1;
  } finally {
    await legame.stop();
    rmSync(root, { recursive: true, force: true });
  }
}

function sized(type: string, size: number): Buffer {
  const head = Buffer.alloc(8);
  head.writeUInt32BE(size, 0);
  head.write(type, 4);
  return head;
}

async function makeWorld(legame: MistreatedLegame, root: string, list: string): Promise<World> {
  const project = (await legame.ask('POST', '/projects', { name: 'Saltglass' })).body as { id: string };
  const place = (await legame.ask('POST', '/places', { path: join(root, 'drives/KILN') })).body as { id: string };
  const query = `name=cut.edl&reading=${encodeURIComponent(JSON.stringify({ rate: { num: 25, den: 1 } }))}`;
  await legame.ask('POST', `/projects/${project.id}/documents?${query}`, Buffer.from(list));
  await legame.idle();
  await linkAll(legame, project.id, place.id);
  const trimmed = await undisturbed(legame, project.id);
  return { legame, root, projectId: project.id, placeId: place.id, problems: [], trimmed };
}

async function undisturbed(legame: MistreatedLegame, projectId: string): Promise<Map<string, string>> {
  const asked = { targetFolder: targetOf(legame), name: 'undisturbed', choices: trimming };
  const { id } = (await legame.ask('POST', `/projects/${projectId}/handoffs`, asked)).body as Handoff;
  await legame.ask('POST', `/handoffs/${id}/run`);
  await legame.idle();
  const { state, folder, plan } = await legame.get<Handoff>(`/handoffs/${id}`);
  if (state !== 'done' || plan.sizeInBytes * 2 > plan.wholeInBytes)
    throw new Error(
      `Undisturbed, a trimmed handoff is ${state} with ${plan.sizeInBytes} of ${plan.wholeInBytes} bytes.`,
    );
  const found = inventory(join(folder, 'media'));
  rmSync(folder, { recursive: true });
  return found;
}

async function linkAll(legame: MistreatedLegame, projectId: string, placeId: string): Promise<void> {
  const files = new Map<string, string>();
  for (const folder of ['day1', 'day2'])
    for (const file of (
      await legame.get<{ files: { id: string; name: string }[] }>(`/places/${placeId}/files?folder=${folder}`)
    ).files)
      files.set(file.name, file.id);
  const links = (await legame.get<ClipRow[]>(`/projects/${projectId}/clips`)).flatMap(({ id, fileName }) =>
    files.has(fileName) ? [{ clipId: id, mediaFileId: files.get(fileName) }] : [],
  );
  await legame.ask('POST', `/projects/${projectId}/links`, { by: 'hand', links });
  await legame.idle();
}

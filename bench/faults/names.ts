import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import type { ClipRow, History, NamedFile, NamingPreview } from '@legame/core/contract';
import { harmed, inventory, litterIn } from './inventory.ts';
import type { World } from './world.ts';

/** What the drive holds, and which file each clip is tied to, before anything is renamed. */
export type NamesBefore = { readonly lies: ReadonlyMap<string, string>; readonly tied: readonly string[] };

const drive = ({ root }: World) => join(root, 'drives/KILN');
const tiedTo = async ({ legame, projectId }: World): Promise<string[]> =>
  (await legame.get<ClipRow[]>(`/projects/${projectId}/clips`))
    .map((r) => `${r.name}: ${r.status.status} ${r.tied?.folder ?? ''}/${r.tied?.name ?? 'dark'}`)
    .sort();

export const namesBefore = async (world: World): Promise<NamesBefore> => ({
  lies: inventory(drive(world)),
  tied: await tiedTo(world),
});

/** Gives the names of each folder's films to one another, round and round, and takes it back in between. */
export async function renameOnAndOn({ legame, projectId }: World): Promise<void> {
  const clips = (await legame.get<ClipRow[]>(`/projects/${projectId}/clips`)).filter((r) => r.tied).map((r) => r.id);
  for (let turns = 0; turns < 60; turns += 1) {
    const { body } = await legame.ask('POST', `/projects/${projectId}/renames/preview`, { clips, pattern: '{name}' });
    const byFolder = new Map<string, NamedFile[]>();
    for (const file of (body as NamingPreview).files)
      byFolder.set(file.folder, [...(byFolder.get(file.folder) ?? []), file]);
    const files = [...byFolder.values()].flatMap((all) =>
      all.map(({ mediaFileId, from }, i) => ({ mediaFileId, from, to: all[(i + 1) % all.length]!.from })),
    );
    const wanted = files.filter((f) => f.to !== f.from);
    await legame.ask('POST', `/projects/${projectId}/renames`, { files: wanted, alsoOfOthers: true });
    if (turns % 3 === 1) await legame.ask('POST', `/projects/${projectId}/undo`, {});
  }
}

/** Takes back whatever was renamed; then every file lies where it lay, and every clip has the file that it had. */
export async function finishRenames(world: World, before: NamesBefore): Promise<string[]> {
  const { legame, projectId } = world;
  await legame.idle();
  // Where the database went away, what was moved goes back within a second of its return.
  await after(1500);
  await legame.idle();
  const now = [...inventory(drive(world)).values()].sort();
  const problems = [...before.lies.values()].sort().join() === now.join() ? [] : ['other bytes lie on the drive'];
  for (;;) {
    const { entries } = await legame.get<History>(`/projects/${projectId}/history`);
    const last = entries.find((e) => e.state === 'done');
    if (last?.verb !== 'rename') break;
    const { status, body } = await legame.ask('POST', `/projects/${projectId}/undo`, { act: last.id });
    if (status === 200) continue;
    problems.push(`could not be undone: ${JSON.stringify(body)}`);
    break;
  }
  await legame.idle();
  const tied = await tiedTo(world);
  return [
    ...problems,
    ...harmed(before.lies, inventory(drive(world))),
    ...litterIn(drive(world)).map((path) => `litter: ${path}`),
    ...tied.filter((row) => !before.tied.includes(row)).map((row) => `tied otherwise: ${row}`),
  ];
}

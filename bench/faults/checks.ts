import {
  cpSync,
  existsSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import type { Handoff, SetCheck } from '@legame/core/contract';
import { harmed, inventory, litterIn } from './inventory.ts';
import { films, targetOf, type World } from './world.ts';

/** A set as it was handed over, kept beside those that are damaged and checked. */
const pristine = ({ legame }: World) => join(targetOf(legame), 'pristine');
/** What was done to it on the way here, and what a check has to find. */
const wanted = { changed: 1, missing: 1, moved: 1, new: 1 } as const;

export type Received = { readonly folder: string; readonly lies: ReadonlyMap<string, string>; readonly adds: boolean };

/** A set that came damaged: bytes turned over, a file lost, one laid elsewhere, one that nobody knows. */
export async function receive(world: World, n: number): Promise<Received> {
  const { legame, projectId } = world;
  if (!existsSync(pristine(world))) {
    const asked = { targetFolder: targetOf(legame), name: 'pristine' };
    const { id } = (await legame.ask('POST', `/projects/${projectId}/handoffs`, asked)).body as Handoff;
    await legame.ask('POST', `/handoffs/${id}/run`);
    await legame.idle();
  }
  const folder = join(targetOf(legame), `received-${n}`);
  cpSync(pristine(world), folder, { recursive: true, preserveTimestamps: true });
  const media = (name: string) => join(folder, 'media', name);
  const { mtime } = statSync(media('take1.mov'));
  const bytes = readFileSync(media('take1.mov'));
  bytes[bytes.length - 5]! ^= 1;
  writeFileSync(media('take1.mov'), bytes);
  utimesSync(media('take1.mov'), mtime, mtime);
  rmSync(media('take2.mov'));
  renameSync(media('take3.mov'), join(folder, 'take3 elsewhere.mov'));
  writeFileSync(join(folder, 'what is this.txt'), 'nobody knows');
  return { folder, lies: inventory(folder), adds: n % 2 === 1 };
}

export const beginCheck = ({ legame }: World, { folder, adds }: Received): Promise<unknown> =>
  legame.ask('POST', '/set-checks', { folder, addGeneration: adds });

/** Goes on with the checks that were begun, or begins one, until all is found; and again by one that nobody disturbs. */
export async function finishChecks(world: World, { folder, lies, adds }: Received): Promise<string[]> {
  const { legame } = world;
  const ofSet = async () => (await legame.get<SetCheck[]>('/set-checks')).filter((c) => c.folder === folder);
  if ((await ofSet()).length === 0) await legame.ask('POST', '/set-checks', { folder, addGeneration: adds });
  await legame.idle();
  for (let tries = 0; tries < 4; tries += 1) {
    const left = (await ofSet()).filter((c) => c.job?.state !== 'done');
    if (left.length === 0) break;
    for (const { id } of left) await legame.ask('POST', `/set-checks/${id}/run`);
    await legame.idle();
  }
  const [disturbed] = await ofSet();
  const problems = disturbed ? whatIsWrongWith(disturbed) : ['there is no check'];
  const generations = () => readdirSync(join(folder, 'ascmhl')).filter((name) => name.endsWith('.mhl')).length;
  if (adds !== ((disturbed?.generation ?? null) !== null)) problems.push('its generation is not what was asked for');
  if (generations() !== (adds ? 2 : 1)) problems.push(`${generations()} generations`);
  await legame.ask('POST', '/set-checks', { folder, addGeneration: false });
  await legame.idle();
  const again = (await ofSet()).find((c) => c.id !== disturbed?.id);
  if (!again?.lists?.every(({ chain, fault }) => chain === 'same' && fault === null))
    problems.push(`lists that nobody can believe: ${JSON.stringify(again?.lists)}`);
  // A generation tells of what was found: then nothing but what is lost differs from it.
  if (again && !adds) problems.push(...whatIsWrongWith(again).map((p) => `checked again: ${p}`));
  for (const { id } of await ofSet()) await legame.ask('DELETE', `/set-checks/${id}`);
  problems.push(
    ...harmed(lies, withoutChain(inventory(folder), lies)),
    ...litterIn(folder).map((path) => `litter: ${path}`),
  );
  rmSync(folder, { recursive: true });
  return problems;
}

/** The chain grows by a generation, which is no harm done to it. */
const withoutChain = (now: Map<string, string>, lies: ReadonlyMap<string, string>): Map<string, string> => {
  for (const [path, hash] of lies) if (path.endsWith('ascmhl_chain.xml') && now.has(path)) now.set(path, hash);
  return now;
};

function whatIsWrongWith({ job, counts }: SetCheck): string[] {
  const found = Object.entries(wanted).flatMap(([state, files]) => {
    const is = counts[state as keyof typeof wanted].files;
    return is === files ? [] : [`${is} ${state} instead of ${files}`];
  });
  const rest = counts.waiting.files + counts.unreadable.files + counts.unproven.files;
  return [
    ...(job?.state === 'done' ? [] : [`the check is ${job?.state}: ${JSON.stringify(job?.problem)}`]),
    ...found,
    ...(rest > 0 ? [`${rest} are not told`] : []),
    ...(counts.verified.files >= films - 3 ? [] : [`${counts.verified.files} verified`]),
  ];
}

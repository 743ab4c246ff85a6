import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import type { Handoff } from '@legame/core/contract';
import { inventory, litterIn } from './inventory.ts';
import type { MistreatedLegame } from './house.ts';

/** How many films there are, and about how large each is: copying takes long enough to be killed in. */
export const films = 8;
export const padding = 12_000_000;
export const marker = Buffer.from('canary-that-nobody-may-read-or-copy');

/** Files that no edit uses, for clearing and putting back. */
export const spares = ['spare1.mov', 'spare2.mov', 'spare3.mov', 'spare4.mov', 'spare5.mov', 'spare6.mov'];

export type World = {
  readonly legame: MistreatedLegame;
  readonly root: string;
  readonly projectId: string;
  readonly placeId: string;
  readonly problems: string[];
  /** The media of an undisturbed trimmed handoff, by hash. */
  readonly trimmed: ReadonlyMap<string, string>;
};

/** Everything that can be trimmed is, to what the edit shows. */
export const trimming = { picture: 'trim', sound: 'trim', handlesInFrames: 0 } as const;

export const targetOf = (legame: MistreatedLegame) => join(legame.roots, 'OUT');
export const secondOf = (legame: MistreatedLegame) => join(legame.roots, 'SHUTTLE');

/** Goes on with a handoff until it is done, and holds what is there against what it should be; it is thrown away then. */
export async function finish(world: World, id: string): Promise<string[]> {
  const { legame, root } = world;
  let handoff = await legame.get<Handoff>(`/handoffs/${id}`);
  for (let tries = 0; tries < 4 && handoff.state !== 'done'; tries += 1) {
    if (handoff.state !== 'running') await legame.ask('POST', `/handoffs/${id}/run`);
    await legame.idle();
    handoff = await legame.get<Handoff>(`/handoffs/${id}`);
  }
  if (handoff.state !== 'done') return [`the handoff is ${handoff.state}: ${JSON.stringify(handoff.problem)}`];
  const wanted = handoff.plan.choices.picture === 'trim' ? world.trimmed : filmsOf(root);
  return handoff.plan.targets.flatMap(({ folder }) => {
    const found = whatIsWrongIn(folder, wanted);
    rmSync(folder, { recursive: true });
    return found;
  });
}

function whatIsWrongIn(folder: string, wanted: ReadonlyMap<string, string>): string[] {
  const found: string[] = litterIn(folder).map((path) => `litter: ${path}`);
  const copies = inventory(join(folder, 'media'));
  for (const [name, hash] of wanted)
    if (copies.get(name) !== hash)
      found.push(`${name} ${copies.has(name) ? 'is not what it should be' : 'is missing'}`);
  if (copies.size !== films) found.push(`${copies.size} of ${films} copies`);
  if (!existsSync(join(folder, 'ascmhl'))) found.push('no hash list');
  return found;
}

/** The films that the edit uses, by name; a handoff lays them flat. */
const filmsOf = (root: string): ReadonlyMap<string, string> =>
  new Map(
    [...inventory(join(root, 'drives/KILN'))].flatMap(([path, hash]) => {
      const name = path.split('/').at(-1)!;
      return name.startsWith('take') ? [[name, hash]] : [];
    }),
  );

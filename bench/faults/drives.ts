import { execFileSync } from 'node:child_process';
import {
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  unlinkSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import type { Handoff, PlaceView } from '@legame/core/contract';
import { say } from '../measure.ts';
import { holdsCanary } from './inventory.ts';
import { films, finish, marker, padding, targetOf, type World } from './world.ts';

/** Drives that are full, read-only, unmounted, swapped and hung. Mounting takes root; without it those are left out. */
export async function failDrives(world: World): Promise<void> {
  const tried: string[] = [];
  const isRoot = process.getuid?.() === 0;
  for (const [name, fault] of Object.entries(faults)) {
    if (fault.mounts && !isRoot) continue;
    const problems = await fault.run(world).catch((error: unknown) => [String(error)]);
    world.problems.push(...problems.map((p) => `${name}: ${p}`));
    tried.push(name);
  }
  say(`drives and sources: ${tried.join(', ')}`);
}

const mount = (...args: string[]) => execFileSync('mount', args, { stdio: 'pipe' });
const unmount = (...args: string[]) => execFileSync('umount', args, { stdio: 'pipe' });

async function runPlan({ legame, projectId }: World, targetFolder: string, name: string, between?: () => void) {
  const planned = await legame.ask('POST', `/projects/${projectId}/handoffs`, { targetFolder, name });
  if (planned.status !== 201) return { refused: planned.body as { code: string }, handoff: null };
  between?.();
  const { id } = planned.body as Handoff;
  await legame.ask('POST', `/handoffs/${id}/run`);
  await legame.idle();
  return { refused: null, handoff: await legame.get<Handoff>(`/handoffs/${id}`) };
}

const expectState = (handoff: Handoff | null, state: Handoff['state']): string[] =>
  handoff?.state === state ? [] : [`is ${handoff?.state} instead of ${state}: ${JSON.stringify(handoff?.problem)}`];

const faults: Readonly<Record<string, { mounts: boolean; run: (world: World) => Promise<string[]> }>> = {
  'a full disk': {
    mounts: true,
    run: async (world) => {
      const target = join(world.legame.roots, 'FULL');
      mkdirSync(target);
      mount('-t', 'tmpfs', '-o', `size=${Math.round(films * padding * 2)}`, 'tmpfs', target);
      try {
        const { handoff } = await runPlan(world, target, 'full', () =>
          writeFileSync(join(target, 'theirs'), Buffer.alloc(Math.round(films * padding * 1.45))),
        );
        const first = handoff?.state === 'done' ? ['it was done on a full disk'] : [];
        const theirs = statSync(join(target, 'theirs')).size;
        rmSync(join(target, 'theirs'));
        return [
          ...first,
          ...(theirs > 0 ? [] : ['a file of the user’s was touched']),
          ...(await finish(world, handoff!.id)),
        ];
      } finally {
        unmount('-l', target);
      }
    },
  },
  'a disk that is read-only': {
    mounts: true,
    run: async (world) => {
      const target = join(world.legame.roots, 'RO');
      mkdirSync(target);
      mount('-t', 'tmpfs', '-o', `size=${films * padding * 3}`, 'tmpfs', target);
      try {
        const { handoff } = await runPlan(world, target, 'ro', () => mount('-o', 'remount,ro', target));
        mount('-o', 'remount,rw', target);
        return [...expectState(handoff, 'failed'), ...(await finish(world, handoff!.id))];
      } finally {
        unmount('-l', target);
      }
    },
  },
  'a target that is unmounted': {
    mounts: true,
    run: async (world) => {
      const target = join(world.legame.roots, 'GONE');
      mkdirSync(target);
      mount('-t', 'tmpfs', '-o', `size=${films * padding * 3}`, 'tmpfs', target);
      const { handoff } = await runPlan(world, target, 'gone', () => unmount('-l', target));
      const under = readdirSync(target);
      return [...expectState(handoff, 'failed'), ...under.map((name) => `${name} was written under the mount point`)];
    },
  },
  'a source that was replaced': {
    mounts: false,
    run: async (world) => {
      const source = join(world.legame.roots, 'KILN/day1/take2.mov');
      const bytes = readFileSync(source);
      const { mtime } = statSync(source);
      const { handoff } = await runPlan(world, targetOf(world.legame), 'replaced', () => {
        writeFileSync(source, Buffer.alloc(bytes.length, 1));
        execFileSync('touch', ['-d', mtime.toISOString(), source]);
      });
      writeFileSync(source, bytes);
      execFileSync('touch', ['-d', mtime.toISOString(), source]);
      return [...expectState(handoff, 'failed'), ...(await finish(world, handoff!.id))];
    },
  },
  'a source that is a pipe': {
    mounts: false,
    run: async (world) => {
      const source = join(world.legame.roots, 'KILN/day1/take2.mov');
      const begun = performance.now();
      const { handoff } = await runPlan(world, targetOf(world.legame), 'pipe', () => {
        renameSync(source, `${source}.aside`);
        execFileSync('mkfifo', [source]);
      });
      unlinkSync(source);
      renameSync(`${source}.aside`, source);
      const took = performance.now() - begun;
      const held = took > 60_000 ? [`it held everything up for ${Math.round(took)} ms`] : [];
      return [...expectState(handoff, 'failed'), ...held, ...(await finish(world, handoff!.id))];
    },
  },
  'folders that turn into links and back all the time': {
    mounts: false,
    run: async (world) => {
      const { legame, root, placeId } = world;
      const day = join(legame.roots, 'KILN/day1');
      let isOver = false;
      const swapping = (async () => {
        while (!isOver) {
          renameSync(day, `${day}.real`);
          symlinkSync(join(root, 'outside'), day);
          await after(Math.random() * 6);
          unlinkSync(day);
          renameSync(`${day}.real`, day);
          await after(Math.random() * 6);
        }
      })();
      const found: string[] = [];
      for (let n = 0; n < 12; n += 1) {
        await legame.ask('POST', `/places/${placeId}/index`, { folder: n % 2 ? '' : 'day1' });
        const { handoff } = await runPlan(world, targetOf(legame), `swap${n}`);
        if (handoff) {
          found.push(...holdsCanary(handoff.folder, marker).map((path) => `the canary was copied: ${path}`));
          rmSync(handoff.folder, { recursive: true, force: true });
        }
      }
      isOver = true;
      await swapping;
      await legame.ask('POST', `/places/${placeId}/index`, { folder: '' });
      await legame.idle();
      const listed = await legame.get<{ files: { name: string }[] }>(`/places/${placeId}/files?folder=day1`);
      if (listed.files.some((f) => f.name === 'canary.mov')) found.push('a file outside was listed');
      const places = await legame.get<PlaceView[]>('/places');
      return places.every((p) => p.there) ? found : [...found, 'the place is away'];
    },
  },
};

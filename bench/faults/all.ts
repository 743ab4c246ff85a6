import getPort from 'get-port';
import { execFileSync } from 'node:child_process';
import {
  appendFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  unlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import type { ClipRow, Handoff, PlaceView } from '@legame/core/contract';
import { makeFilm } from '../../server/src/testing/media.ts';
import { makeList } from '../../server/src/testing/edits.ts';
import { say } from '../measure.ts';
import { harmed, holdsCanary, inventory, litterIn } from './inventory.ts';
import { MistreatedLegame, victims } from './house.ts';

/** How many films there are, and about how large each is: copying takes long enough to be killed in. */
const films = 8;
const padding = 12_000_000;
const marker = Buffer.from('canary-that-nobody-may-read-or-copy');

type World = {
  readonly legame: MistreatedLegame;
  readonly root: string;
  readonly projectId: string;
  readonly placeId: string;
  readonly problems: string[];
};

/** `npm run faults -- 200`: so many kills at random moments, then drives that fail in every way; figures at the end. */
export async function benchFaults(kills = Number(process.argv[3] ?? 200)): Promise<void> {
  const root = mkdtempSync(join(tmpdir(), 'legame-faults-'));
  const drives = join(root, 'drives');
  for (const name of ['KILN', 'OUT', 'outside'])
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
  return { legame, root, projectId: project.id, placeId: place.id, problems: [] };
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

/** `LEGAME_VICTIMS=postmaster,web` kills only those. */
const chosen = victims.filter((v) => process.env.LEGAME_VICTIMS?.split(',').includes(v) ?? true);

/** What is under way when something is killed. */
const activities = ['handoff', 'handoff', 'handoff', 'index', 'match', 'clear', 'bring-in'] as const;

async function killAtRandom(world: World, kills: number): Promise<void> {
  const { legame, problems } = world;
  const ups: number[] = [];
  const counts = new Map<string, number>();
  let handoffs = 0;
  for (let n = 0; n < kills; n += 1) {
    const victim = chosen[n % chosen.length]!;
    const activity = activities[Math.floor(Math.random() * activities.length)]!;
    const what = `kill ${n}: ${victim} during ${activity}`;
    const begun = await begin(world, activity, n).catch((error: unknown) => {
      problems.push(`${what}: could not begin, ${String(error)}`);
      return null;
    });
    // It may fail by what is killed, which is looked at afterwards.
    begun?.request.catch(() => null);
    await after(Math.random() * 900);
    if (!legame.kill(victim)) continue;
    counts.set(victim, (counts.get(victim) ?? 0) + 1);
    await after(30);
    const up = await legame.untilUp();
    ups.push(up);
    if (up > 10_000) problems.push(`${what}: up again only after ${Math.round(up)} ms`);
    await begun?.request.catch(() => null);
    await legame.idle().catch((error: unknown) => void problems.push(`${what}: ${String(error)}`));
    if (begun?.handoffId) {
      handoffs += 1;
      problems.push(...(await finish(world, begun.handoffId)).map((p) => `${what}: ${p}`));
    }
  }
  ups.sort((a, b) => a - b);
  const at = (share: number) => Math.round(ups[Math.min(ups.length - 1, Math.floor(ups.length * share))] ?? 0);
  say(`${ups.length} kills (${[...counts].map(([who, times]) => `${times} ${who}`).join(', ')}), ${handoffs} handoffs`);
  say(`  answers again after ${at(0.5)} ms (half), ${at(0.95)} ms (19 of 20), ${at(1)} ms (all)`);
}

type Begun = { readonly request: Promise<unknown>; readonly handoffId: string | null };

async function begin(
  { legame, projectId, placeId }: World,
  activity: (typeof activities)[number],
  n: number,
): Promise<Begun> {
  switch (activity) {
    case 'handoff': {
      const planned = await legame.ask('POST', `/projects/${projectId}/handoffs`, {
        targetFolder: targetOf(legame),
        name: `h${n}`,
      });
      if (planned.status !== 201) throw new Error(`no plan: ${JSON.stringify(planned.body)}`);
      const { id } = planned.body as Handoff;
      return { request: legame.ask('POST', `/handoffs/${id}/run`), handoffId: id };
    }
    case 'index':
      return { request: legame.ask('POST', `/places/${placeId}/index`, { folder: '' }), handoffId: null };
    case 'match':
      return { request: legame.ask('POST', `/projects/${projectId}/match`), handoffId: null };
    case 'clear': {
      const { files } = await legame.get<{ files: { id: string }[] }>(`/places/${placeId}/files?folder=day1`);
      // All of them are used, so nothing may move, whatever ends in between.
      return {
        request: legame.ask('POST', `/places/${placeId}/clear`, { mediaFileIds: files.map((f) => f.id) }),
        handoffId: null,
      };
    }
    case 'bring-in': {
      const text = `TITLE: ${n}\n\n001  R${n}  V  C  01:00:00:00 01:00:01:00 00:00:00:00 00:00:01:00\n`;
      const query = `name=extra${n}.edl&reading=${encodeURIComponent(JSON.stringify({ rate: { num: 25, den: 1 } }))}`;
      return {
        request: legame.ask('POST', `/projects/${projectId}/documents?${query}`, Buffer.from(text)),
        handoffId: null,
      };
    }
  }
}

const targetOf = (legame: MistreatedLegame) => join(legame.roots, 'OUT');

/** Goes on with a handoff until it is done, and holds what is there against its sources; it is thrown away then. */
async function finish({ legame, root }: World, id: string): Promise<string[]> {
  let handoff = await legame.get<Handoff>(`/handoffs/${id}`);
  for (let tries = 0; tries < 4 && handoff.state !== 'done'; tries += 1) {
    if (handoff.state !== 'running') await legame.ask('POST', `/handoffs/${id}/run`);
    await legame.idle();
    handoff = await legame.get<Handoff>(`/handoffs/${id}`);
  }
  if (handoff.state !== 'done') return [`the handoff is ${handoff.state}: ${JSON.stringify(handoff.problem)}`];
  const found: string[] = litterIn(handoff.folder).map((path) => `litter: ${path}`);
  const [sources, copies] = [inventory(join(root, 'drives/KILN')), inventory(join(handoff.folder, 'media'))];
  for (const [path, hash] of sources) {
    const name = path.split('/').at(-1)!;
    if (name.startsWith('take') && copies.get(name) !== hash) found.push(`${name} is not its source`);
  }
  if (copies.size !== films) found.push(`${copies.size} of ${films} copies`);
  if (!existsSync(join(handoff.folder, 'ascmhl'))) found.push('no hash list');
  rmSync(handoff.folder, { recursive: true });
  return found;
}

/** Drives that are full, read-only, unmounted, swapped and hung. Mounting takes root; without it those are left out. */
async function failDrives(world: World): Promise<void> {
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

import { setTimeout as after } from 'node:timers/promises';
import { join } from 'node:path';
import type { Handoff } from '@legame/core/contract';
import { say } from '../measure.ts';
import { victims, type MistreatedLegame } from './house.ts';
import { beginCheck, finishChecks, receive, type Received } from './checks.ts';
import { beginHome, finishHome, placesOfClips } from './home.ts';
import { inventory } from './inventory.ts';
import { finishRenames, namesBefore, renameOnAndOn } from './names.ts';
import { finish, secondOf, spares, targetOf, trimming, type World } from './world.ts';

/** `LEGAME_DURING=bring-home` kills only during that; `LEGAME_VICTIMS=postmaster,web` kills only those. */
const chosen = victims.filter((v) => process.env.LEGAME_VICTIMS?.split(',').includes(v) ?? true);

/** What is under way when something is killed. */
const activities = [
  'handoff',
  'handoff',
  'trimmed',
  'trimmed',
  'index',
  'match',
  'clear',
  'put-back',
  'bring-in',
  'bring-home',
  'rename',
  'check',
] as const;
const during = activities.filter((a) => process.env.LEGAME_DURING?.split(',').includes(a) ?? true);

export async function killAtRandom(world: World, kills: number): Promise<void> {
  const { legame, problems } = world;
  const ups: number[] = [];
  const counts = new Map<string, number>();
  const done = { handoff: 0, trimmed: 0, 'put-back': 0, 'bring-home': 0, rename: 0, check: 0 };
  for (let n = 0; n < kills; n += 1) {
    const victim = chosen[n % chosen.length]!;
    const activity = during[Math.floor(Math.random() * during.length)]!;
    const what = `kill ${n}: ${victim} during ${activity}`;
    const before = activity === 'bring-home' ? await placesOfClips(world) : null;
    const named = activity === 'rename' ? await namesBefore(world) : null;
    const received = activity === 'check' ? await receive(world, n) : null;
    const begun = await (
      received ? checking(world, received) : begin(world, activity as Exclude<typeof activity, 'check'>, n)
    ).catch((error: unknown) => {
      problems.push(`${what}: could not begin, ${String(error)}`);
      return null;
    });
    // It may fail by what is killed, which is looked at afterwards.
    begun?.request.catch(() => null);
    await after(Math.random() * 900);
    if (!(await legame.kill(victim))) continue;
    counts.set(victim, (counts.get(victim) ?? 0) + 1);
    await after(30);
    if (n % 20 === 19) say(`  ${n + 1} kills, ${problems.length} problems so far`);
    const up = await legame.untilUp().catch((error: unknown) => {
      throw new Error(`${what}: ${String(error)}`, { cause: error });
    });
    ups.push(up);
    if (up > 10_000) problems.push(`${what}: up again only after ${Math.round(up)} ms`);
    await begun?.request.catch(() => null);
    await legame.idle().catch((error: unknown) => void problems.push(`${what}: ${String(error)}`));
    if (begun?.handoffId) problems.push(...(await finish(world, begun.handoffId)).map((p) => `${what}: ${p}`));
    if (named) problems.push(...(await finishRenames(world, named)).map((p) => `${what}: ${p}`));
    if (received) problems.push(...(await finishChecks(world, received)).map((p) => `${what}: ${p}`));
    if (before) problems.push(...(await finishHome(world, before)).map((p) => `${what}: ${p}`));
    if (activity === 'put-back') problems.push(...(await putAllBack(world)).map((p) => `${what}: ${p}`));
    if (activity in done) done[activity as keyof typeof done] += 1;
  }
  ups.sort((a, b) => a - b);
  const at = (share: number) => Math.round(ups[Math.min(ups.length - 1, Math.floor(ups.length * share))] ?? 0);
  say(`${ups.length} kills (${[...counts].map(([who, times]) => `${times} ${who}`).join(', ')})`);
  say(
    `  during ${done.handoff} handoffs, ${done.trimmed} trimmed ones, ${done['put-back']} times putting back, ${done['bring-home']} times bringing home, ${done.rename} times renaming, ${done.check} checks of sets`,
  );
  say(`  answers again after ${at(0.5)} ms (half), ${at(0.95)} ms (19 of 20), ${at(1)} ms (all)`);
}

type Begun = { readonly request: Promise<unknown>; readonly handoffId: string | null };

const checking = (world: World, received: Received): Promise<Begun> =>
  Promise.resolve({ request: beginCheck(world, received), handoffId: null });

async function begin(world: World, activity: Exclude<(typeof activities)[number], 'check'>, n: number): Promise<Begun> {
  const { legame, projectId, placeId } = world;
  switch (activity) {
    case 'rename':
      return { request: renameOnAndOn(world), handoffId: null };
    case 'bring-home':
      return { ...(await beginHome(world)), handoffId: null };
    case 'handoff':
    case 'trimmed': {
      const planned = await legame.ask('POST', `/projects/${projectId}/handoffs`, {
        targetFolder: targetOf(legame),
        // Every other one goes onto two drives at once.
        ...(n % 2 ? { secondFolder: secondOf(legame) } : {}),
        name: `h${n}`,
        ...(activity === 'trimmed' ? { choices: trimming } : {}),
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
    case 'put-back': {
      const { files } = await legame.get<{ files: { id: string }[] }>(`/places/${placeId}/files?folder=spare`);
      const clear = () => legame.ask('POST', `/places/${placeId}/clear`, { mediaFileIds: files.map((f) => f.id) });
      // Half of the kills come while they are cleared, half while they are put back.
      if (n % 2) return { request: clear(), handoffId: null };
      await clear();
      return { request: restoreAll(legame, placeId), handoffId: null };
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

async function restoreAll(legame: MistreatedLegame, placeId: string): Promise<void> {
  for (const { id } of await legame.get<{ id: string }[]>(`/places/${placeId}/cleared`))
    await legame.ask('POST', `/cleared/${id}/restore`);
}

/** Puts back what is still cleared: every spare file has to lie where it lay then, once, and in no other place. */
async function putAllBack({ legame, root, placeId }: World): Promise<string[]> {
  await restoreAll(legame, placeId);
  await legame.idle();
  const left = await legame.get<{ original: string }[]>(`/places/${placeId}/cleared`);
  const lies = [...inventory(join(root, 'drives/KILN')).keys()].filter((path) => path.includes('spare'));
  const wanted = spares.map((name) => `spare/${name}`);
  return [
    ...left.map(({ original }) => `${original} is still held`),
    ...wanted.filter((path) => !lies.includes(path)).map((path) => `${path} is not back`),
    ...lies.filter((path) => !wanted.includes(path)).map((path) => `${path} lies where nothing should`),
  ];
}

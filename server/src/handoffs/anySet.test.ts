import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { basename, join } from 'node:path';
import { chanceOf, seeded, type Chance } from '@legame/core/testing';
import type { Handoff, HandoffChoices, PlaceView } from '@legame/core/contract';
import {
  bytesPerSample,
  clipsIn,
  cutAnyhow,
  layOut,
  makePool,
  picturesOf,
  samplesOf,
  type Lying,
  type ReadingClip,
} from '../testing/anyCut.ts';
import { clientOf } from '../testing/client.ts';
import { openHouse, type House } from '../testing/house.ts';

/**
 * Whatever is cut of whatever media, and however it is handed off: opened by somebody who has nothing but the set, every
 * frame and every sample that the cut reads is the one that it read.
 */
const firstSeed = Number(process.env.LEGAME_SETS_SEED ?? Math.floor(Date.now() / 86_400_000) * 10);
const howMany = Number(process.env.LEGAME_SETS ?? 4);

let house: House;
let pool: ReturnType<typeof makePool>;
const client = clientOf(() => house);
const at = (...parts: string[]) => join(house.folder, ...parts);
beforeAll(async () => {
  house = await openHouse();
  pool = makePool(at('.pool'));
}, 120_000);
afterAll(() => house.close());

const anyChoices = (chance: Chance): Partial<HandoffChoices> => ({
  picture: chance.pick(['whole', 'trim', 'trim', 'transcode']),
  sound: chance.pick(['whole', 'trim', 'trim', 'transcode']),
  handlesInFrames: chance.pick([0, 1, 5, 24, 100]),
  division: chance.pick(['span', 'source', 'use']),
  gapInFrames: chance.pick([0, 20]),
  foldering: chance.pick(['flat', 'as-source', 'by-reel', 'by-kind', 'by-timeline', 'by-bin']),
  levels: chance.pick([null, 0, 1]),
  pattern: chance.pick(['{name}', '{n}', '{timeline}_{name}', '{name}_{start}']),
});

/** Only this folder is a place. */
async function stand(folder: string): Promise<void> {
  for (const { id } of await client.get<PlaceView[]>('/places')) await client.send('delete', `/places/${id}`, {});
  await client.post('/places', { path: folder }).expect(201);
  await house.idle();
}

/** Where a reference leads, in a folder that its document lies in. */
function fileOf(reference: ReadingClip['media_references']['DEFAULT_MEDIA'], folder: string): string {
  const { target_url: url, target_url_base: base = '', name_prefix = '', name_suffix = '' } = reference;
  if (url !== undefined) return join(folder, decodeURIComponent(url));
  const pattern = `${decodeURIComponent(name_prefix)}%0${reference.frame_zero_padding}d${name_suffix}`;
  return join(folder, decodeURIComponent(base), pattern);
}

/** What a clip reads of the file that serves it, frame by frame or as bytes of sound. */
function readBy(clip: ReadingClip, { kind }: Lying['medium'], path: string): unknown {
  const { start_time: first, duration } = clip.source_range;
  const { available_range: held, start_frame } = clip.media_references.DEFAULT_MEDIA;
  const from = first.value - held.start_time.value;
  if (kind === 'sound') {
    const inFrame = (48_000 / 25) * bytesPerSample;
    return samplesOf(path).subarray(from * inFrame, (from + duration.value) * inFrame);
  }
  const pictures = picturesOf(path, kind === 'sequence' ? start_frame : undefined);
  return pictures.slice(from, from + duration.value);
}

test.each(Array.from({ length: howMany }, (_, i) => firstSeed + i))(
  'set %i opens elsewhere, frame for frame and sample for sample',
  async (seed) => {
    const chance = chanceOf(seeded(seed));
    const root = at(`WORLD ${seed}`);
    mkdirSync(root);
    const lying = layOut(pool, at('.pool'), root, chance);
    const cut = cutAnyhow(lying, chance);
    const project = await client.newProject(`World ${seed}`);
    await stand(root);
    await client.bring(project, JSON.stringify(cut), 'cut.otio').expect(201);
    await house.idle();
    await client.post(`/projects/${project}/links/certain`);
    const dark = async (id: string) =>
      (await client.rows(id)).filter((r) => r.status.status !== 'linked').map((r) => [r.fileName, r.status]);
    expect(await dark(project)).toEqual([]);

    const [choices, layout] = [anyChoices(chance), chance.pick(['folder', 'folder', 'otiod'] as const)];
    const wanted = { targetFolder: house.folder, name: `SET ${seed}`, choices, layout };
    const planned = (await client.post(`/projects/${project}/handoffs`, wanted).expect(201)).body as Handoff;
    await client.post(`/handoffs/${planned.id}/run`).expect(202);
    await house.idle();
    const done = await client.get<Handoff>(`/handoffs/${planned.id}`);
    expect([choices, done.state, done.problem, done.plan.leftOut]).toEqual([choices, 'done', null, []]);

    // Moved, and nothing else is there.
    const moved = at(`MOVED ${seed}`);
    mkdirSync(moved);
    renameSync(done.folder, join(moved, basename(done.folder)));
    const set = join(moved, basename(done.folder));
    renameSync(root, at(`.AWAY ${seed}`));
    await stand(set);
    const document = readFileSync(join(set, layout === 'folder' ? 'cut.otio' : 'content.otio'));
    const elsewhere = await client.newProject(`Elsewhere ${seed}`);
    await client.bring(elsewhere, document, 'cut.otio').expect(201);
    await house.idle();
    expect([choices, await dark(elsewhere)]).toEqual([choices, []]);

    const [before, after] = [clipsIn(cut), clipsIn(JSON.parse(document.toString('utf8')) as object)];
    expect(after.map((c) => c.source_range)).toEqual(before.map((c) => c.source_range));
    for (const [i, clip] of before.entries()) {
      const { target_url, target_url_base } = clip.media_references.DEFAULT_MEDIA;
      const { path, medium } = lying.find((l) => l.url === (target_url ?? target_url_base))!;
      const served = fileOf(after[i]!.media_references.DEFAULT_MEDIA, set);
      if (medium.kind !== 'sequence') expect([served, existsSync(served)]).toEqual([served, true]);
      const reads = { choices, of: medium.name, reads: readBy(after[i]!, medium, served) };
      expect(reads).toEqual({
        choices,
        of: medium.name,
        reads: readBy(clip, medium, path.replace(root, at(`.AWAY ${seed}`))),
      });
    }
    rmSync(moved, { recursive: true });
  },
  180_000,
);

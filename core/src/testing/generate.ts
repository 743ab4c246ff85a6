import type { MatchInput } from '../match/match.ts';
import { defaultRules } from '../match/rules.ts';
import type { MediaFile } from '../model/media.ts';
import { buildClip, buildFile, buildPlace, clipId, fileId } from './build.ts';

/** A small repeatable source of numbers (mulberry32), for a clock and chance have no place in core. */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

const subjects = [
  'bowl',
  'pipe',
  'door',
  'marver',
  'kiln',
  'yard',
  'talk',
  'salt',
  'ember',
  'punty',
  'neck',
  'lip',
  'foot',
  'hand',
  'wide',
  'close',
];

/**
 * A production of `clips` clips and `files` file records in six places, repeatable by its seed. About half of the
 * clips' media lies moved, a sixth renamed with something added, a sixth under a wholly other name, some is gone,
 * some stands twice; the rest of the files are of other shoots, with clashing names.
 */
export function generateProduction(clips: number, files: number, seed = 1): MatchInput {
  const random = seeded(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const places = ['KILN_A', 'KILN_B', 'KILN_C', 'SHARE_1', 'SHARE_2', 'SHARE_3'].map((name) => buildPlace(name));
  const made: MediaFile[] = [];
  const edits: MatchInput['clips'][number][] = [];
  const add = (path: string, facts: Parameters<typeof buildFile>[1]) =>
    made.push({ ...buildFile(path, facts), id: fileId(`f${made.length}`) });
  for (let i = 0; i < clips; i += 1) {
    const card = `card_${Math.floor(i / 200)}`;
    const reel = `R${String(Math.floor(i / 200)).padStart(4, '0')}`;
    const stem = `${pick(subjects)}-${pick(subjects)}_${String(i % 200).padStart(3, '0')}`;
    const start = 90_000 + (i % 200) * 400;
    const length = 150 + Math.floor(random() * 200);
    const facts = { start, length, reel };
    const home = `day${Math.floor(i / 2000)}/${card}`;
    const fate = random();
    if (fate < 0.5) add(`${pick(places).name}/moved/${home}/${stem}.mov`, facts);
    else if (fate < 0.66) add(`KILN_B/renamed/${card}/SG_${stem}_ok.mov`, facts);
    else if (fate < 0.82) add(`KILN_C/other/${card}/X${String(i).padStart(6, '0')}.mov`, facts);
    else if (fate < 0.92) {
      add(`SHARE_1/${home}/${stem}.mov`, facts);
      add(`SHARE_2/copy/${home}/${stem}.mov`, facts);
    }
    edits.push({
      ...buildClip(`/Volumes/GONE/${home}/${stem}.mov`, {
        reel,
        available: { start, end: start + length },
        used: [{ start: start + 10, end: start + length - 20 }],
      }),
      id: clipId(`c${i}`),
      key: `c${i}`,
      linkedTo: null,
      declined: [],
    });
  }
  for (let i = made.length; i < files; i += 1) {
    const stem = `${pick(subjects)}-${pick(subjects)}_${String(Math.floor(random() * 400)).padStart(3, '0')}`;
    add(`${pick(places).name}/older/shoot_${Math.floor(i / 500)}/${stem}.mov`, {
      start: Math.floor(random() * 2_000_000),
      length: 100 + Math.floor(random() * 400),
      reel: `O${Math.floor(i / 500)}`,
    });
  }
  return { clips: edits, files: made, places, rules: defaultRules };
}

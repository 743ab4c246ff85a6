import type { MatchInput } from '../match/match.ts';
import { defaultRules } from '../match/rules.ts';
import type { ClipId, MediaFileId } from '../model/ids.ts';
import type { Facts, MediaFile } from '../model/media.ts';
import type { Place } from '../model/place.ts';
import { buildClip, buildFile, buildPlace, clipId, fileId } from './build.ts';
import { seeded } from './generate.ts';

/** What was done to the media of one batch of clips. Each is one cause; `ambiguous` is a question for each clip. */
export const fates = [
  'moved',
  'drive-renamed',
  'moved-and-folder-renamed',
  'added-to-name',
  'word-replaced',
  'moved-and-renamed',
  'other-extension',
  'an-hour-apart',
  'shifted',
  'from-zero',
  'other-rate',
  'small-copies',
  'untimed-sound-moved',
  'copied-twice',
  'false-friends',
  'away',
  'gone',
  'ambiguous',
] as const;
export type Fate = (typeof fates)[number];

/** A production of which it is known what became of every file. */
export type Truth = {
  readonly input: MatchInput;
  /** The files that are right for a clip; none where its media cannot be linked. */
  readonly right: ReadonlyMap<ClipId, ReadonlySet<MediaFileId>>;
  /** The injected causes, with the clips of each. */
  readonly causes: readonly { readonly fate: Fate; readonly clipIds: readonly ClipId[] }[];
  readonly ambiguous: number;
};

type Shares = Readonly<Record<Fate, number>>;

/** Of a hundred batches. Ambiguous ones are cut to two clips, since a person decides each. */
export const usualShares: Shares = {
  moved: 22,
  'drive-renamed': 10,
  'moved-and-folder-renamed': 6,
  'added-to-name': 6,
  'word-replaced': 5,
  'moved-and-renamed': 5,
  'other-extension': 4,
  'an-hour-apart': 4,
  shifted: 4,
  'from-zero': 4,
  'other-rate': 3,
  'small-copies': 5,
  'untimed-sound-moved': 6,
  'copied-twice': 5,
  'false-friends': 2,
  away: 3,
  gone: 2,
  ambiguous: 4,
};

const subjects = ['bowl', 'pipe', 'door', 'marver', 'kiln', 'yard', 'salt', 'ember', 'punty', 'neck', 'lip', 'foot'];

type Take = {
  readonly home: string;
  readonly stem: string;
  readonly facts: Partial<Facts> & { start: number; length: number };
  readonly bytes: string;
};

/**
 * Batches of clips, each with a fate of its own, among files of other shoots with clashing names; repeatable by seed.
 * `clips` is about how many there will be, `files` how many records there are in all.
 */
export function generateTruth(
  clips: number,
  files: number,
  batches: number,
  seed = 1,
  shares: Shares = usualShares,
): Truth {
  const random = seeded(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const places: Place[] = ['KILN_A', 'KILN_B', 'SHARE'].map((name) => buildPlace(name));
  const made: MediaFile[] = [];
  const edits: MatchInput['clips'][number][] = [];
  const right = new Map<ClipId, Set<MediaFileId>>();
  const causes: { fate: Fate; clipIds: ClipId[] }[] = [];
  const perBatch = Math.max(2, Math.round(clips / batches));
  let ambiguous = 0;
  let friends: ClipId[] | null = null;

  const add = (path: string, facts: Partial<Facts>, bytes: string): MediaFileId => {
    const id = fileId(`f${made.length}`);
    made.push({ ...buildFile(path, facts), id, fingerprint: bytes });
    return id;
  };
  const deck = dealFates(batches, shares);
  deck.forEach((fate, b) => {
    const clipIds: ClipId[] = [];
    const volume = `VOL_${b}`;
    const size = fate === 'ambiguous' ? 2 : perBatch;
    if (fate === 'drive-renamed') places.push(buildPlace(`NEW_${b}`));
    if (fate === 'away') places.push(buildPlace(volume, { there: false }));
    for (let i = 0; i < size; i += 1) {
      const card = Math.floor(i / 40);
      const isSound = fate === 'untimed-sound-moved';
      const ambiguousOne = fate === 'ambiguous';
      const number = String(i % 40).padStart(3, '0');
      // Cards restart their numbering, as cameras do, so that names clash between batches.
      const stem = isSound ? `vo-${pick(subjects)}_${b}_${i}` : `GH_${pick(subjects)}-${pick(subjects)}_${number}`;
      // Within a day, and on whole seconds, so that a list read at another rate keeps its addresses.
      const start = 90_000 + (((b % 15) * 120_000 + i * 500) % 1_900_000);
      const length = 150 + Math.floor(random() * 250);
      const take: Take = {
        home: `day${b}/card_${card}`,
        stem,
        facts: {
          start,
          length,
          reel:
            isSound || ambiguousOne ? null : `R${b}${String.fromCharCode(65 + (card % 26))}${Math.floor(card / 26)}`,
          ...(isSound ? soundFacts(length) : {}),
        },
        bytes: `b${b}-${i}`,
      };
      const id = clipId(`c${edits.length}`);
      const stated = statedStart(fate, start);
      edits.push({
        ...buildClip(`/Volumes/${volume}/${take.home}/${stem}.${isSound ? 'wav' : 'mov'}`, {
          reel: take.facts.reel ?? null,
          kind: isSound ? 'sound' : 'picture',
          raster: isSound ? null : { width: 1280, height: 720 },
          available: { start: stated, end: stated + length },
          used: [{ start: stated + 10, end: stated + length - 20 }],
          ...(fate === 'other-rate' ? readAt24(start, length) : {}),
        }),
        id,
        key: id,
        linkedTo: null,
        declined: [],
      });
      clipIds.push(id);
      right.set(id, new Set(lay(fate, take, b, add)));
      // Every tenth name stands on another card as well, as another recording.
      if (i % 10 === 3 && !ambiguousOne)
        add(
          `KILN_B/older/shoot_${b}/${stem}.mov`,
          { start: 5_000_000 + i * 700, length: length + 31, reel: `O${b}` },
          `o${b}-${i}`,
        );
    }
    if (fate === 'ambiguous') ambiguous += clipIds.length;
    else if (fate === 'false-friends') {
      // All false friends are one explanation: other recordings lie under these names.
      if (friends) friends.push(...clipIds);
      else causes.push({ fate, clipIds: (friends = clipIds) });
    } else causes.push({ fate, clipIds });
  });
  for (let i = made.length; i < files; i += 1) {
    const stem = `GH_${pick(subjects)}-${pick(subjects)}_${String(Math.floor(random() * 400)).padStart(3, '0')}`;
    const facts = {
      start: 30_000_000 + Math.floor(random() * 2_000_000),
      length: 600 + Math.floor(random() * 400),
      reel: `X${Math.floor(i / 500)}`,
    };
    add(`${pick(['KILN_A', 'KILN_B', 'SHARE'])}/elsewhere/shoot_${Math.floor(i / 500)}/${stem}.mov`, facts, `x${i}`);
  }
  return { input: { clips: edits, files: made, places, rules: defaultRules }, right, causes, ambiguous };
}

function dealFates(batches: number, shares: Shares): Fate[] {
  const all = fates.flatMap((fate) =>
    Array.from({ length: shares[fate] }, (_, i) => ({ fate, at: (i + 0.5) / shares[fate] })),
  );
  // Evenly through the production, so that any number of batches holds all fates in proportion.
  all.sort((a, b) => a.at - b.at || fates.indexOf(a.fate) - fates.indexOf(b.fate));
  return Array.from({ length: batches }, (_, i) => all[Math.floor((i * all.length) / batches)]!.fate);
}

const soundFacts = (length: number): Partial<Facts> & { start: number; length: number } => ({
  kind: 'sound',
  container: 'wav',
  codec: 'pcm_s24le',
  rate: null,
  raster: null,
  timecodeSource: 'none',
  start: 0,
  length: length * 1920,
});

const anHour = 90_000;
function statedStart(fate: Fate, start: number): number {
  if (fate === 'from-zero' || fate === 'untimed-sound-moved') return 0;
  return fate === 'an-hour-apart' ? start + anHour : fate === 'shifted' ? start + 1234 : start;
}

/** A list of 25 frames a second that was read at 24: the same addresses, counted otherwise. */
function readAt24(start: number, length: number): Partial<MatchInput['clips'][number]> {
  const at24 = (frame: number) => Math.floor(frame / 25) * 24 + Math.min(frame % 25, 23);
  const [from, to] = [at24(start), at24(start + length)];
  return { rate: { num: 24, den: 1 }, available: { start: from, end: to }, used: [{ start: from + 10, end: to - 10 }] };
}

/** Lays the media of one take where its fate puts it; the ids of the files that are right. */
function lay(
  fate: Fate,
  { home, stem, facts, bytes }: Take,
  b: number,
  add: (path: string, facts: Partial<Facts>, bytes: string) => MediaFileId,
): MediaFileId[] {
  switch (fate) {
    case 'moved':
    case 'an-hour-apart':
    case 'shifted':
    case 'from-zero':
      return [add(`KILN_A/moved_${b}/${home}/${stem}.mov`, facts, bytes)];
    case 'other-rate':
      // Takes of whole seconds, so that no address falls on the frame that 24 does not have.
      return [add(`KILN_A/moved_${b}/${home}/${stem}.mov`, facts, bytes)];
    case 'untimed-sound-moved':
      return [add(`SHARE/moved_${b}/${home}/${stem}.wav`, facts, bytes)];
    case 'drive-renamed':
      return [add(`NEW_${b}/${home}/${stem}.mov`, facts, bytes)];
    case 'moved-and-folder-renamed':
      return [add(`KILN_B/rushes/day_${b}_all/${stem}.mov`, facts, bytes)];
    case 'added-to-name':
      return [add(`KILN_B/named_${b}/${home}/SG_${stem}_v2.mov`, facts, bytes)];
    case 'word-replaced':
      return [add(`KILN_B/named_${b}/${home}/${stem.replace('GH', 'SALT')}.mov`, facts, bytes)];
    case 'moved-and-renamed':
      return [add(`SHARE/both_${b}/${home}/${stem}-master.mov`, facts, bytes)];
    case 'other-extension':
      return [add(`SHARE/mxf_${b}/${home}/${stem}.mxf`, facts, bytes)];
    case 'small-copies':
      return [add(`SHARE/small_${b}/${home}/${stem}.mov`, { ...facts, raster: { width: 640, height: 360 } }, bytes)];
    case 'copied-twice':
      return [
        add(`KILN_A/copy_${b}/${home}/${stem}.mov`, facts, bytes),
        add(`SHARE/second/copy_${b}/${stem}.mov`, facts, bytes),
      ];
    case 'ambiguous':
      return [
        add(`KILN_B/twins/${b}_one/${stem}.mov`, facts, `${bytes}-one`),
        add(`KILN_B/twins/${b}_two_${bytes}/${stem}.mov`, facts, `${bytes}-two`),
      ];
    case 'false-friends':
      add(
        `KILN_A/other_${b}/${stem}.mov`,
        { ...facts, start: facts.start + 777_000, length: facts.length + 40, reel: `F${b}` },
        `${bytes}-friend`,
      );
      return [];
    case 'away':
    case 'gone':
      return [];
  }
}

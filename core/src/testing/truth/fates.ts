import type { Facts } from '../../model/media.ts';
import type { MediaFileId } from '../../model/ids.ts';
import type { Card, Chance, Recording } from './shoot.ts';

/**
 * What became of the media of one card. `link`: by rule or cause, all of it. `ask`: only a person can say.
 * `none`: there is nothing to link.
 */
export type Expected = 'link' | 'ask' | 'none';

export type Laid = {
  readonly expected: Expected;
  /** The files that are right for each recording, in the order of the card; empty where a link would be wrong. */
  readonly right: readonly (readonly MediaFileId[])[];
};
export type Ground = {
  /** A number of its own for each batch, so that no two fates share a folder. */
  readonly batch: number;
  readonly chance: Chance;
  readonly add: (path: string, facts: Partial<Facts>, bytes: string) => MediaFileId;
  readonly addPlace: (name: string, there: boolean) => void;
};

type Lay = (card: Card, ground: Ground) => Laid;

const fileName = ({ stem, extension }: Recording, change: (stem: string) => string = (s) => s): string =>
  `${change(stem)}.${extension}`;
/** In facts, picture counts in frames and sound in samples. */
const unit = ({ facts }: Recording): number => (facts.kind === 'sound' ? 1920 : 1);
const subfolders = ({ home }: Card): string => home;

/** Every file of the card at a path made of its folders and name. */
const each =
  (
    path: (card: Card, recording: Recording, batch: number) => string,
    facts: (recording: Recording, chance: Chance) => Partial<Facts> = () => ({}),
    expected: Expected = 'link',
  ): Lay =>
  (card, { batch, add, chance }) => ({
    expected,
    right: card.recordings.map((r) => {
      const id = add(path(card, r, batch), { ...r.facts, ...facts(r, chance) }, r.bytes);
      return expected === 'link' ? [id] : [];
    }),
  });

const both =
  (first: Lay, second: Lay, expected: Expected): Lay =>
  (card, ground) => {
    const [a, b] = [first(card, ground), second(card, ground)];
    return { expected, right: a.right.map((ids, i) => [...ids, ...b.right[i]!]) };
  };

const pure = each((card, r, b) => `KILN_A/moved_${b}/${card.home}/${fileName(r)}`);
const nothingRight = (lay: Lay, expected: Expected): Lay => {
  return (card, ground) => {
    lay(card, ground);
    return { expected, right: card.recordings.map(() => []) };
  };
};
const otherBytes = (lay: Lay): Lay => {
  return (card, ground) =>
    lay({ ...card, recordings: card.recordings.map((r) => ({ ...r, bytes: `${r.bytes}-other` })) }, ground);
};
const renamed = (change: (stem: string) => string): Lay =>
  each((card, r, b) => `KILN_B/named_${b}/${subfolders(card)}/${fileName(r, change)}`);

/** One attribute changed, all else alike, and the true file gone: a near miss is never linked. */
const nearMiss = (facts: (r: Recording, chance: Chance) => Partial<Facts>): Lay =>
  nothingRight(otherBytes(each((card, r, b) => `KILN_A/near_${b}/${card.home}/${fileName(r)}`, facts)), 'none');

export const lays = {
  moved: pure,
  'drive-renamed': (card, ground) => {
    ground.addPlace(`NEW_${ground.batch}`, true);
    return each((c, r, b) => `NEW_${b}/${c.home}/${fileName(r)}`)(card, ground);
  },
  'folder-renamed': each((_, r, b) => `KILN_B/rushes/batch_${b}_all/${fileName(r)}`),
  'added-before': renamed((stem) => `SG_${stem}`),
  'added-around': renamed((stem) => `SG_${stem}_ok`),
  'word-replaced': renamed((stem) => stem.replace(/^[A-Z]+/i, 'SALT')),
  renumbered: renamed((stem) => stem.replace(/\d+$/, (d) => String(Number(d) + 5000).padStart(d.length, '0'))),
  'renamed-afresh': (card, ground) =>
    each(
      (c, r, b) =>
        `KILN_B/afresh_${b}/${c.home}/X${(Number(b) * 977 + c.recordings.indexOf(r) * 31) % 9973}q.${r.extension}`,
    )(card, ground),
  'other-extension': each(
    (card, r, b) => `SHARE/wrapped_${b}/${card.home}/${r.stem}.mxf`,
    (r) => ({
      container: r.facts.kind === 'sound' ? 'wav' : 'mxf',
    }),
  ),
  'an-hour-apart': pure,
  shifted: pure,
  'from-zero': pure,
  'other-rate': pure,
  'small-copies': each(
    (card, r, b) => `SHARE/small_${b}/${card.home}/${fileName(r)}`,
    () => ({
      raster: { width: 960, height: 540 },
      codec: 'h264',
    }),
  ),
  'small-and-original': (card, ground) => {
    const originals = pure(card, ground);
    each(
      (c, r, b) => `SHARE/small_${b}/${c.home}/${fileName(r)}`,
      () => ({
        raster: { width: 960, height: 540 },
        codec: 'h264',
      }),
    )({ ...card, recordings: card.recordings.map((r) => ({ ...r, bytes: `${r.bytes}-small` })) }, ground);
    return originals;
  },
  'copied-twice': both(
    pure,
    each((card, r, b) => `SHARE/second/copy_${b}/${card.home}/${fileName(r)}`),
    'link',
  ),
  'backed-up-flat': both(
    pure,
    each((_, r, b) => `SHARE/backup_${b}/${fileName(r)}`),
    'link',
  ),
  /** Cut down to what is used, or a little more, and counted as before. */
  'partial-copies': each(
    (card, r, b) => `SHARE/partial_${b}/${card.home}/${fileName(r)}`,
    (r) => ({ length: Math.floor(((r.facts.length ?? 0) * 15) / 16) }),
  ),
  'two-grades': nothingRight(
    both(
      each(
        (card, r, b) => `KILN_A/grade_${b}/warm/${card.home}/${fileName(r)}`,
        () => ({ codec: 'dnxhd' }),
      ),
      otherBytes(each((card, r, b) => `KILN_A/grade_${b}/cold/${card.home}/${fileName(r)}`)),
      'ask',
    ),
    'ask',
  ),
  'graded-only': nothingRight(
    otherBytes(each((card, r, b) => `KILN_A/graded_${b}/${card.home}/${fileName(r, (s) => `${s}_graded`)}`)),
    'ask',
  ),
  /** A tree of the same names that was made again later: which of the two is meant, nobody wrote down. */
  'made-again': nothingRight(
    both(pure, otherBytes(each((card, r, b) => `SHARE/again_${b}/${card.home}/${fileName(r)}`)), 'ask'),
    'ask',
  ),
  'false-friends': nothingRight(
    otherBytes(
      each(
        (card, r, b) => `VOL_${b}/${card.home}/${fileName(r)}`,
        (r, chance) => ({
          start:
            (r.facts.start ?? 0) + (r.facts.timecodeSource === 'none' ? 0 : chance.between(60_000, 90_000)) * unit(r),
          length: (r.facts.length ?? 0) + chance.between(40, 4000) * unit(r),
        }),
      ),
    ),
    'none',
  ),
  'near-reel': nearMiss((r) => ({ reel: r.reel === null ? null : `Z${r.reel}` })),
  'near-start': nearMiss((r, c) => ({
    start: (r.facts.start ?? 0) + c.between(2, 900) * (c.happens(0.5) ? 1 : -1) * unit(r),
  })),
  'near-length': nearMiss((r, c) => ({
    length: Math.max(25, (r.facts.length ?? 0) + c.pick([-70, -9, 7, 60]) * unit(r)),
  })),
  'near-rate': nearMiss((r) => (r.facts.kind === 'sound' ? { channels: 8 } : { rate: { num: 50, den: 1 } })),
  away: (card, ground) => {
    ground.addPlace(`AWAY_${ground.batch}`, false);
    const laid = each((c, r, b) => `AWAY_${b}/${c.home}/${fileName(r)}`)(card, ground);
    return { expected: 'none', right: laid.right.map(() => []) };
  },
  gone: (card) => ({ expected: 'none', right: card.recordings.map(() => []) }),
} satisfies Readonly<Record<string, Lay>>;

export type Fate = keyof typeof lays;
export const fates = Object.keys(lays) as readonly Fate[];

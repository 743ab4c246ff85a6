import type { Facts } from '../../model/media.ts';
import { rate, type Rate } from '../../time/rate.ts';

/** A small repeatable source of choices. */
export type Chance = {
  readonly random: () => number;
  readonly pick: <T>(list: readonly T[]) => T;
  /** Whole, from `least` up to and including `most`. */
  readonly between: (least: number, most: number) => number;
  readonly happens: (share: number) => boolean;
  readonly some: <T>(list: readonly T[], count: number) => T[];
};

export function chanceOf(random: () => number): Chance {
  const between = (least: number, most: number) => least + Math.floor(random() * (most - least + 1));
  return {
    random,
    between,
    pick: (list) => list[Math.floor(random() * list.length)]!,
    happens: (share) => random() < share,
    some: (list, count) => {
      const left = [...list];
      return Array.from(
        { length: Math.min(count, left.length) },
        () => left.splice(between(0, left.length - 1), 1)[0]!,
      );
    },
  };
}

/** What was recorded once, wherever its files lie now. Start and length in frames at `rate`. */
export type Recording = {
  readonly stem: string;
  readonly extension: string;
  readonly reel: string | null;
  readonly start: number;
  readonly length: number;
  readonly rate: Rate;
  readonly facts: Partial<Facts>;
  /** The same for the same bytes. */
  readonly bytes: string;
};

/** A card of one camera or recorder on one day; `home` are the folders it was copied into. */
export type Card = {
  readonly device: Device;
  readonly home: string;
  readonly recordings: readonly Recording[];
};

/**
 * How a device names, numbers and times what it records. `counter` restarts its numbering on every card; `reeled` puts
 * reel and number into the name, and another unit uses the same reels; `untimed` carries no timecode.
 */
export type Device = {
  readonly name: string;
  readonly naming: 'counter' | 'reeled' | 'words';
  readonly kind: 'picture' | 'sound';
  readonly timed: boolean;
  readonly writesReel: boolean;
  /** The first take of each card starts at a preset, not by the clock. */
  readonly preset: boolean;
  readonly rate: Rate;
};

const device = (name: string, more: Partial<Device> = {}): Device => ({
  name,
  naming: 'counter',
  kind: 'picture',
  timed: true,
  writesReel: true,
  preset: false,
  rate: rate(25),
  ...more,
});

export const devices: readonly Device[] = [
  device('cam_A'),
  // Its clock is set alike, and it is started together with the first every now and then.
  device('cam_B'),
  device('cam_C', { writesReel: false }),
  device('main_unit', { naming: 'reeled' }),
  device('second_unit', { naming: 'reeled' }),
  device('small_cam', { preset: true }),
  device('sound_1', { kind: 'sound' }),
  device('sound_2', { kind: 'sound', timed: false, writesReel: false }),
  device('drone', { timed: false, writesReel: false }),
  device('archive', { naming: 'words', timed: false, writesReel: false }),
];

export type ShootSize = { readonly days: number; readonly cards: number; readonly takes: number };

const words = ['bowl', 'pipe', 'door', 'marver', 'kiln', 'yard', 'salt', 'ember', 'punty', 'neck', 'lip', 'foot'];
const second = 25;

/** All that was recorded: every device, every day, so many cards a day with so many takes each. */
export function shoot({ days, cards, takes }: ShootSize, chance: Chance): Card[] {
  const made: Card[] = [];
  for (let day = 1; day <= days; day += 1) {
    const together = clockOfDay(cards * takes, chance);
    for (const of of devices)
      for (let card = 0; card < cards; card += 1)
        made.push(cardOf(of, day, card, takes, together.slice(card * takes, (card + 1) * takes), chance));
  }
  return made;
}

type Take = { readonly start: number; readonly length: number };

/** When takes begin on a day, and how long they are, by the clock. */
function clockOfDay(count: number, chance: Chance): Take[] {
  let at = chance.between(7, 10) * 3600 * second + chance.between(0, 3600 * second);
  return Array.from({ length: count }, () => {
    const length = chance.between(5 * second, 50 * second);
    const take = { start: at, length };
    at += length + chance.between(2 * second, 300 * second);
    return take;
  });
}

function cardOf(of: Device, day: number, card: number, takes: number, together: readonly Take[], chance: Chance): Card {
  const clock = clockOfDay(takes, chance);
  const twoDigits = (n: number) => String(n).padStart(2, '0');
  const number = (day - 1) * 2 + card + 1;
  const reel = reelOf(of, String(number).padStart(3, '0'));
  let preset = 3600 * second;
  const recordings = Array.from({ length: takes }, (_, i): Recording => {
    // Two cameras started together roll from the same frame, now and then to the same one.
    const shared = together[i]!;
    const isTogether = (of.name === 'cam_A' || of.name === 'cam_B') && i % 3 === 0;
    const take = isTogether
      ? { ...shared, length: shared.length + (i % 6 === 0 ? 0 : chance.between(1, 9)) }
      : clock[i]!;
    const start = of.preset ? preset : take.start;
    preset += take.length;
    const sound = of.kind === 'sound';
    const { length } = take;
    return {
      stem: stemOf(of, reel, i, day, chance),
      extension: sound ? 'wav' : of.name === 'drone' ? 'mp4' : 'mov',
      reel: of.writesReel ? reel : null,
      start: of.timed ? start : 0,
      length,
      rate: of.rate,
      bytes: `${of.name}-${day}-${card}-${i}`,
      facts: {
        kind: of.kind,
        reel: of.writesReel ? reel : null,
        timecodeSource: of.timed ? (sound ? 'time-reference' : 'timecode') : 'none',
        start: of.timed ? start * (sound ? samples : 1) : 0,
        length: length * (sound ? samples : 1),
        ...(sound
          ? { container: 'wav', codec: 'pcm_s24le', rate: null, raster: null }
          : { rate: of.rate, raster: { width: 1920, height: 1080 }, codec: 'prores' }),
      },
    };
  });
  return { device: of, home: `day${twoDigits(day)}/${of.name}/card_${card + 1}`, recordings };
}

const samples = 48_000 / second;

/** Both units call their cards alike; the recorder's reels are longer than lists keep them. */
function reelOf(of: Device, number: string): string {
  if (of.naming === 'reeled') return `GL-A_${number}`;
  return of.kind === 'sound' ? `SND-${number}-ROLL` : `${of.name.slice(-1).toUpperCase()}${number}`;
}

function stemOf(of: Device, reel: string, i: number, day: number, chance: Chance): string {
  const take = String(i + 1);
  switch (of.naming) {
    case 'counter':
      if (of.kind === 'sound') return of.timed ? `T${take.padStart(3, '0')}` : `ZOOM${take.padStart(4, '0')}`;
      return of.name === 'drone' ? `FLY_${take.padStart(4, '0')}` : `C${take.padStart(4, '0')}`;
    case 'reeled':
      return `${reel.replace('-', '')}C${take.padStart(3, '0')}`;
    case 'words':
      return `${chance.pick(words)}-${chance.pick(words)}_${day}_${i}`;
  }
}

import { dissolve, gap, marker, stack, timeline, track } from './otio.ts';
import { picturesNamed, source, use } from './sources.ts';

/**
 * The whole film, some twelve minutes: about 250 events on two picture and four sound tracks, with dissolves, speeds,
 * nests and markers, over the same small media as the cut. Made by rule, so that it is the same on every machine.
 */
export function filmDocument(): string {
  const pictures = scenes.flatMap(({ names, shots }, scene) => sceneOf(names, shots, scene));
  const film = timeline(
    'Saltglass, the film',
    [
      track('V1', 'Video', [use('title_open', 0, 48), ...pictures]),
      track('V2', 'Video', inserts()),
      track('A1 talk', 'Audio', spread(picturesNamed('SND01'), 34, 40, 510)),
      track('A2 voice', 'Audio', spread([...picturesNamed('vo_'), ...picturesNamed('SND02')], 20, 200, 860)),
      track('A3 camera', 'Audio', spread(cameraSound, 26, 120, 690)),
      track('A4 music', 'Audio', spread(['kiln-song.wav', 'embers.wav'], 18, 0, 1000)),
    ],
    [
      marker(0, 1, 'GREEN', 'opening'),
      marker(2210, 75, 'ORANGE', 'the door', 'Ines: a wider one, if there is any'),
      marker(4020, 1, 'CYAN', 'song ends', 'fade under the talk'),
      marker(6750, 120, 'YELLOW', 'memory', 'half speed, to be made again from the original'),
      marker(9300, 1, 'RED', 'names', 'spelling of the founders to be checked'),
      marker(12_400, 1, 'PURPLE', 'from the air', 'is the card with these found?'),
      marker(15_900, 200, 'RED', 'last firing', 'picture is not final'),
      marker(17_700, 1, 'GREEN', 'credits'),
    ],
  );
  return `${JSON.stringify(film, null, 1)}\n`;
}

const day = (...stems: readonly string[]) => stems.flatMap(picturesNamed);

/** What is seen, scene by scene, and in how many shots. */
const scenes: readonly { readonly names: readonly string[]; readonly shots: number }[] = [
  { names: day('bowl-gather', 'co-op-talk'), shots: 26 },
  { names: day('furnace-door', 'reheat', 'gather-hands'), shots: 22 },
  { names: [...day('marver-roll', 'neck-jack', 'pipe-turn'), 'annealing-wide.mov'], shots: 30 },
  { names: ['furnace_1974.mov', 'ledger-page_004.png', 'co-op founders 1974.jpg', 'kiln-plan.png'], shots: 10 },
  { names: [...day('drone-pass', 'co-op-talk'), 'yard-map.png', 'salt-sack.jpg', 'GB0007.mov'], shots: 16 },
  { names: [...day('bowl-gather', 'furnace-door', 'reheat'), 'crucible-pour_02.mov'], shots: 24 },
];
const cameraSound = [...day('bowl-gather', 'furnace-door', 'marver-roll')];

/** So many frames of a source, away from its ends, so that there is something to dissolve over; another stretch each time. */
function stretchOf(name: string, i: number, longest: number, speed = 1) {
  const s = source(name);
  const spare = 12;
  const length = Math.min(longest, Math.floor((s.frames - 2 * spare) / Math.abs(speed)));
  const room = s.frames - 2 * spare - Math.ceil(length * Math.abs(speed));
  return use(name, spare + ((i * 29) % (room + 1)), length);
}

/** At another speed than it was recorded at; backwards where it is below zero, a still picture where it is zero. */
function atSpeed(name: string, i: number, longest: number, speed: number) {
  const effect =
    speed === 0
      ? { OTIO_SCHEMA: 'FreezeFrame.1', metadata: {}, name: '', effect_name: 'FreezeFrame', time_scalar: 0 }
      : { OTIO_SCHEMA: 'LinearTimeWarp.1', metadata: {}, name: '', effect_name: 'LinearTimeWarp', time_scalar: speed };
  return { ...stretchOf(name, i, longest, speed), effects: [effect] };
}

function sceneOf(names: readonly string[], shots: number, scene: number): unknown[] {
  return Array.from({ length: shots }, (_, i) => {
    const name = names[(i * 5 + scene) % names.length]!;
    const longest = 100 + ((i * 53 + scene * 17) % 110);
    const isMoving = /\.(mov|mxf)$/.test(name);
    if (i === 9) return [nestOf(names, scene)];
    if (isMoving && i % 11 === 4) return [atSpeed(name, i, 80, [0.5, 1.5, -1, 0][(scene + i) % 4]!)];
    const shot = stretchOf(name, i, longest);
    return i > 0 && i % 7 === 6 ? [dissolve(20), shot] : [shot];
  }).flat();
}

const nestOf = (names: readonly string[], scene: number) =>
  stack(`Nest ${scene + 1}`, [
    track(
      'V1',
      'Video',
      [0, 1, 2].map((i) => stretchOf(names[(i * 2 + 1) % names.length]!, i, 60)),
    ),
  ]);

/** Close shots over the picture, one every thirty seconds. */
const inserts = (): unknown[] =>
  Array.from({ length: 23 }, (_, i) => {
    const names = day('neck-jack', 'gather-hands', 'pipe-turn');
    return [gap(690), stretchOf(names[(i * 3) % names.length]!, i, 60)];
  }).flat();

/** Sources one after another, `every` frames apart from the first at `from` on, each no longer than leaves a pause. */
function spread(names: readonly string[], pieces: number, from: number, every: number): unknown[] {
  const items: unknown[] = from > 0 ? [gap(from)] : [];
  for (let i = 0; i < pieces; i += 1) {
    const name = names[i % names.length]!;
    const s = source(name);
    const length = Math.min(every - 20, s.frames - 24);
    items.push(stretchOf(name, i, length), gap(every - length));
  }
  return items;
}

import { formatTimecode } from '../core/src/time/timecode.ts';
import { nominalRate } from '../core/src/time/rate.ts';
import { bin, dissolve, gap, listRate, marker, span, stack, time, timeline, track } from './otio.ts';
import { clip, picturesNamed, source, use } from './sources.ts';
import { demoMedia, type DemoPicture } from './spec.ts';

/** The edit of Saltglass as other machines wrote it: an OTIO project with bins and timelines, and an EDL. */

/** The cut: picture on two tracks with a nest and dissolves, sync sound, voice and music. */
function cut7() {
  const nest = stack('Furnace nest', [
    track('V1', 'Video', [
      use('furnace-door_01.mxf', 30, 75),
      use('reheat_01.mov', 20, 60),
      use('furnace-door_04.mxf', 10, 90),
    ]),
  ]);
  return timeline(
    'Saltglass cut 7',
    [
      track('V1', 'Video', [
        use('title_open', 0, 48),
        use('bowl-gather_01.mov', 20, 100),
        use('bowl-gather_02.mov', 10, 120),
        dissolve(20),
        use('co-op-talk_01.mxf', 25, 110),
        use('marver-roll_01.mov', 15, 90),
        use('marver-roll_02.mov', 30, 100),
        use('neck-jack_01.mov', 5, 120),
        use('marver-roll_03.mov', 20, 110),
        use('marver-roll_05.mov', 12, 100),
        use('furnace_1974.mov', 24, 96),
        use('ledger-page_004.png', 0, 75),
        use('co-op founders 1974.jpg', 0, 60),
        use('pipe-turn_01.mov', 10, 90),
        use('pipe-turn_02.mov', 40, 80),
        nest,
        use('reheat_02.mov', 12, 70),
        use('GB0007.mov', 40, 90),
        use('annealing-wide.mov', 50, 130),
        use('drone-pass_01.mp4', 30, 120),
        use('drone-pass_03.mp4', 20, 150),
        use('bowl-gather_05.mov', 8, 140),
        use('co-op-talk_03.mxf', 30, 120),
        use('crucible-pour_02.mov', 40, 100),
        use('bowl-gather_07.mov', 30, 90),
        use('yard-map.png', 0, 50),
        use('gather-hands_01.mov', 30, 70),
        use('gather-hands_02.mov', 10, 80),
        use('gather-hands_03.mov', 40, 60),
      ]),
      track('V2', 'Video', [
        gap(700),
        use('neck-jack_02.mov', 15, 60),
        gap(400),
        use('pipe-turn_03.mov', 10, 70),
        gap(300),
        use('bowl-gather_04.mov', 20, 80),
        gap(420),
        use('furnace-door_06.mxf', 15, 75),
      ]),
      track('A1', 'Audio', [
        gap(48),
        use('SND01_T01.wav', 10, 190),
        use('SND01_T03.wav', 20, 180),
        use('SND02_T01.wav', 10, 150),
        use('SND02_T03.wav', 25, 140),
        use('vo_01.wav', 0, 140),
        use('SND01_T05.wav', 5, 170),
        use('SND02_T02.wav', 12, 130),
        use('vo_02.wav', 10, 120),
        use('SND01_T07.wav', 10, 200),
      ]),
      track('A2', 'Audio', [use('kiln-song.wav', 0, 700), gap(300), use('embers.wav', 25, 450)]),
    ],
    [
      marker(0, 1, 'GREEN', 'opening'),
      marker(560, 75, 'ORANGE', 'the door', 'Ines: a wider one, if there is any'),
      marker(1180, 1, 'CYAN', 'song ends', 'fade under the talk'),
      marker(2210, 1, 'RED', 'last firing', 'picture is not final'),
    ],
  );
}

const trailer = () =>
  timeline('Trailer 20s', [
    track('V1', 'Video', [
      use('furnace-door_02.mxf', 20, 60),
      use('marver-roll_04.mov', 30, 60),
      use('neck-jack_03.mov', 10, 50),
      use('drone-pass_02.mp4', 15, 60),
      use('bowl-gather_08.mov', 20, 60),
      use('pipe-turn_04.mov', 5, 60),
      use('reheat_03.mov', 10, 50),
      use('annealing-wide.mov', 100, 50),
      use('kiln-plan.png', 0, 50),
    ]),
    track('A1', 'Audio', [use('embers.wav', 0, 420), use('vo_03.wav', 0, 80)]),
  ]);

export function otioDocument(): string {
  const clips = (...names: string[]) => names.map((name) => clip(source(name)));
  const project = bin('Saltglass', [
    bin('Day 1', [
      bin('Card A', clips(...picturesNamed('bowl-gather'))),
      bin('Card B', clips(...picturesNamed('co-op-talk'))),
      bin('Card C', clips(...picturesNamed('gather-hands'))),
    ]),
    bin(
      'Day 2',
      clips(
        ...picturesNamed('marver-roll'),
        ...picturesNamed('neck-jack'),
        ...picturesNamed('pipe-turn'),
        'annealing-wide.mov',
      ),
    ),
    bin('Day 3', clips(...picturesNamed('furnace-door'), ...picturesNamed('reheat'), 'GB0007.mov')),
    bin('Air', clips(...picturesNamed('drone-pass'))),
    bin('Sound', clips(...picturesNamed('SND0'), ...picturesNamed('vo_'), 'kiln-song.wav', 'embers.wav')),
    bin(
      'Archive',
      clips(
        'ledger-page_004.png',
        'ledger-page_011.png',
        'co-op founders 1974.jpg',
        'kiln-plan.png',
        'salt-sack.jpg',
        'yard-map.png',
        'furnace_1974.mov',
      ),
    ),
    cut7(),
    trailer(),
  ]);
  return `${JSON.stringify(project, null, 4)}\n`;
}

/** A list of reel 2 as another machine conformed it: drive letters and a mount point in its comments, reels cut short. */
export function edlDocument(): string {
  return listOf('SALTGLASS_REEL_2', (event) => {
    event('furnace-door_03.mxf', 20, 75, 'E:\\Saltglass\\day3\\camB\\furnace-door_03.mxf');
    event('furnace-door_05.mxf', 12, 100, 'E:\\Saltglass\\day3\\camB\\furnace-door_05.mxf');
    event('marver-roll_06.mov', 30, 80, '/Volumes/KILN_A/day2/cardA/marver-roll_06.mov');
    event('marver-roll_07.mov', 10, 90, '/Volumes/KILN_A/day2/cardA/marver-roll_07.mov');
    event('bowl-gather_06.mov', 40, 60, '/Volumes/KILN_A/day1/cardA/bowl-gather_06.mov');
    event('co-op-talk_04.mxf', 15, 100, '/Volumes/KILN_A/day1/cardB/co-op-talk_04.mxf');
  });
}

/** The same reel a day later: a shot put in, one trimmed, one replaced, one gone. */
export function newerEdlDocument(): string {
  return listOf('SALTGLASS_REEL_2', (event) => {
    event('furnace-door_03.mxf', 20, 75, 'E:\\Saltglass\\day3\\camB\\furnace-door_03.mxf');
    event('furnace-door_06.mxf', 8, 50, 'E:\\Saltglass\\day3\\camB\\furnace-door_06.mxf');
    event('furnace-door_05.mxf', 20, 80, 'E:\\Saltglass\\day3\\camB\\furnace-door_05.mxf');
    event('marver-roll_06.mov', 30, 80, '/Volumes/KILN_A/day2/cardA/marver-roll_06.mov');
    event('bowl-gather_06.mov', 40, 60, '/Volumes/KILN_A/day1/cardA/bowl-gather_06.mov');
    event('co-op-talk_03.mxf', 15, 100, '/Volumes/KILN_A/day1/cardB/co-op-talk_03.mxf');
  });
}

type AddEvent = (name: string, from: number, frames: number, path: string) => void;

function listOf(title: string, add: (event: AddEvent) => void): string {
  const lines = [`TITLE: ${title}`, 'FCM: NON-DROP FRAME', ''];
  let n = 0;
  let record = 900_000;
  const tc = (frames: number) => formatTimecode(frames, listRate);
  const event: AddEvent = (name, from, frames, path) => {
    n += 1;
    const s = source(name);
    const media = s.media as DemoPicture;
    const source25 = s.start + from;
    lines.push(
      `${String(n).padStart(3, '0')}  ${(media.reel ?? 'AX').slice(0, 8).padEnd(8)} V     C        ${tc(source25)} ${tc(source25 + frames)} ${tc(record)} ${tc(record + frames)}`,
    );
    lines.push(`* FROM CLIP NAME: ${name}`, `* SOURCE FILE: ${path}`);
    record += frames;
  };
  add(event);
  lines.push(
    `${String(n + 1).padStart(3, '0')}  BL       V     C        00:00:00:00 00:00:01:00 ${tc(record)} ${tc(record + nominalRate(listRate))}`,
  );
  return `${lines.join('\r\n')}\r\n`;
}

/** The camera log of the shoot, as it was kept on the day: two of its rows are slips of the pen. */
export function logDocument(): string {
  const rows = demoMedia
    .filter((m): m is DemoPicture => m.kind === 'picture' && m.reel !== null && m.start !== null && m.rate.num === 25)
    .map(({ path, reel, start, frames }, i) => {
      const name = path.split('/').at(-1)!;
      const tc = (at: number) => formatTimecode(at, listRate);
      const note = i % 4 === 0 ? '"gather, then slow"' : i % 4 === 1 ? 'good' : '';
      return [
        name,
        reel,
        tc(start!),
        tc(start! + frames),
        25,
        `${1 + (i % 7)}`,
        1 + (i % 3),
        note,
        i % 2 ? 'Amaro' : 'Bente',
      ].join(',');
    });
  const slips = [
    'kiln-wide_09.mov,A004,12:71:00:00,12:72:00:00,25,4,1,,Bente',
    ',,12:00:00:00,12:00:04:00,25,4,2,no slate,Bente',
  ];
  return `${['Clip,Camera roll,TC in,TC out,FPS,Scene,Take,Notes,Logged by', ...rows, ...slips].join('\r\n')}\r\n`;
}

/** A memory within the film: two shots and a title, nested twice, the inner one at half speed under a dissolve. */
export function nestedDocument(): string {
  const timeRange = (start: number, frames: number) => span(start, frames, listRate);
  const half = {
    OTIO_SCHEMA: 'LinearTimeWarp.1',
    metadata: {},
    name: '',
    effect_name: 'LinearTimeWarp',
    time_scalar: 0.5,
  };
  const dissolve = {
    OTIO_SCHEMA: 'Transition.1',
    metadata: {},
    name: '',
    transition_type: 'SMPTE_Dissolve',
    in_offset: time(8, listRate),
    out_offset: time(8, listRate),
  };
  const nest = (name: string, children: unknown[], source_range: unknown, effects: unknown[] = []) => ({
    OTIO_SCHEMA: 'Stack.1',
    metadata: {},
    name,
    source_range,
    effects,
    markers: [],
    children: [track('V1', 'Video', children)],
  });
  const dream = nest('dream', [use('bowl-gather_03.mov', 20, 60), use('pipe-turn_02.mov', 10, 60)], timeRange(30, 60), [
    half,
  ]);
  const memory = nest('memory', [use('furnace-door_02.mxf', 20, 50), dissolve, dream], timeRange(10, 90));
  const film = {
    OTIO_SCHEMA: 'Timeline.1',
    metadata: { workshop: { version: 25.0, ticket: 7, look: [1, 2.5] } },
    name: 'Saltglass memory',
    global_start_time: time(90_000, listRate),
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      metadata: {},
      name: 'tracks',
      children: [
        track('V1', 'Video', [
          use('co-op-talk_02.mxf', 30, 75),
          memory,
          { OTIO_SCHEMA: 'Flourish.1', note: 'hand-drawn' },
        ]),
      ],
    },
  };
  return `${JSON.stringify(film, null, 2)}\n`;
}

import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { standardChoices } from '@legame/core/consolidate';
import type { Handoff, HandoffPlan, PlannedRecording } from '@legame/core/contract';
import { showPage, uuid } from '../../testing/page.tsx';
import { projectOf } from '../../testing/project.ts';
import { clipRow } from '../../testing/rows.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { HandoffView } from './HandoffView.tsx';

const at = '2026-11-20T10:00:00.000Z';
const recording = (n: number, more: Partial<PlannedRecording> = {}): PlannedRecording => ({
  mediaFileId: uuid(n) as PlannedRecording['mediaFileId'],
  placeName: 'KILN_A',
  source: `day1/${n}.mov`,
  kind: 'picture',
  length: 200,
  used: [{ start: 50, end: 80 }],
  treatment: 'trim',
  coded: null,
  wholeBecause: null,
  tracksLeft: 0,
  sidecars: [],
  outs: [
    {
      target: `media/${n}.mov`,
      range: { start: 26, end: 104 },
      sizeInBytes: 1_500_000,
      files: 1,
      renamed: false,
      handlesCut: { head: 0, tail: 0 },
    },
  ],
  wholeInBytes: 4_000_000,
  sizeInBytes: 1_500_000,
  clips: 1,
  usedBy: [`clip ${n}`],
  ...more,
});
const plan: HandoffPlan = {
  choices: { ...standardChoices, picture: 'trim' },
  recordings: [
    recording(1),
    recording(2, {
      wholeBecause: 'open-groups',
      outs: [{ ...recording(2).outs[0]!, range: null, handlesCut: { head: 7, tail: 0 } }],
    }),
  ],
  leftOut: [
    {
      clipId: uuid(8) as HandoffPlan['leftOut'][number]['clipId'],
      clipName: 'bowl',
      mediaFileId: null,
      kind: null,
      reason: 'place-away',
    },
    {
      clipId: uuid(9) as HandoffPlan['leftOut'][number]['clipId'],
      clipName: 'slate',
      mediaFileId: null,
      kind: null,
      reason: 'waived',
    },
  ],
  timelines: ['Cut 7'],
  clipsChosen: null,
  bins: [],
  ranges: [],
  sizeInBytes: 3_000_000,
  wholeInBytes: 8_000_000,
  targets: [
    {
      folder: '/out/to colour',
      room: { freeInBytes: 9e9, totalInBytes: 1e10, headroomShare: 0.1, usableInBytes: 8e9, fits: true },
      seconds: null,
    },
  ],
};
const handoff = (state: Handoff['state'], more: Partial<Handoff> = {}): Handoff => ({
  id: uuid(20) as Handoff['id'],
  folder: plan.targets[0]!.folder,
  layout: 'folder',
  state,
  createdAt: at,
  finishedAt: null,
  problem: null,
  jobId: null,
  scope: { timelines: null, ranges: [], clips: null, bins: [] },
  plan,
  copied: plan.recordings.map((r) => ({
    target: r.outs[0]!.target,
    sizeInBytes: r.sizeInBytes,
    state: 'waiting',
    xxh64: null,
    problem: null,
    lost: [],
  })),
  ...more,
});

let server: ReturnType<typeof standInServer>;
let handoffs: Handoff[];
let refuse: object | null;
beforeEach(() => {
  handoffs = [];
  refuse = null;
  server = standInServer(({ method, url, body }: Asked) => {
    const path = url.pathname.replace(/^\/api\//, '');
    if (method === 'POST' && refuse) return refuse;
    if (path.endsWith('/handoffs/preview')) {
      return { ...plan, targets: JSON.parse(body).targetFolder ? plan.targets : [] };
    }
    if (path.endsWith('/run')) return handoff('planned');
    if (path.endsWith('/handoffs')) return method === 'POST' ? handoff('planned') : handoffs;
    if (path.endsWith('/darkness'))
      return [0, 1].map((i) => ({ key: `t${i}`, documentId: uuid(30), darkInFrames: i * 25, darkNests: [] }));
    if (path.endsWith('/cut'))
      return ['Cut 7', 'Trailer'].map((name, i) => ({
        key: `t${i}`,
        documentId: uuid(30),
        name,
        rate: { num: 25, den: 1 },
        counting: 'non-drop',
        start: 0,
        length: 250,
        top: true,
        events: [],
      }));
    if (path.endsWith('/bins'))
      return { bins: [['selects', 'furnace'], ['selects', 'pots'], ['music']], labels: [], columns: [] };
    if (path.endsWith('/clips')) return [clipRow(8, 'bowl.mov', 'linked', { bin: ['selects', 'furnace'] })];
    if (path.startsWith('folders')) return { path: '/out', parent: null, folders: [] };
    if (/^projects\/[^/]+$/.test(path)) return projectOf({ clips: 2, toDo: 0 });
    return [];
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = (state?: object) => showPage('/projects/:projectId/handoff', <HandoffView />, undefined, state);
/** What was asked for beside previews, which change nothing. */
const writes = () => server.asked.filter((a) => a.method === 'POST' && !a.url.pathname.endsWith('/preview'));

describe('a kept plan', () => {
  test('has written nothing, and says of each recording what of it goes and why, and what cannot come', async () => {
    handoffs = [handoff('planned')];
    show();
    expect(await screen.findByText('Nothing is written yet.')).toBeTruthy();
    const rows = within(await screen.findByRole('table', { name: 'what goes' })).getAllByRole('row');
    expect(rows.slice(1).map((r) => r.textContent)).toEqual([
      '1.movKILN_A/day11.mov1.5 MB38 %',
      expect.stringContaining(
        'whole: its open groups of pictures cannot be cut; handles short of 7 frames at its start',
      ),
      'bowlnowherecannot come: its drive is not plugged in––',
      'slatenowhereneeds no media––',
    ]);
    expect(screen.getByRole('img', { name: '78 of 200 frames go' })).toBeTruthy();
    expect(screen.getByText('1 cannot come')).toBeTruthy();
    expect(writes()).toEqual([]);
    await userEvent.click(screen.getByRole('button', { name: 'Write 2 files, 3.0 MB' }));
    await waitFor(() => expect(writes().map((p) => p.url.pathname)).toEqual([`/api/handoffs/${uuid(20)}/run`]));
  });

  test('shows the rows that are asked for, in the order that is asked for', async () => {
    handoffs = [handoff('planned')];
    show();
    await userEvent.selectOptions(await screen.findByLabelText('rows shown'), 'cannot come');
    const names = () =>
      within(screen.getByRole('table', { name: 'what goes' }))
        .getAllByRole('row')
        .slice(1)
        .map((r) => r.querySelector('b')!.textContent);
    expect(names()).toEqual(['bowl', 'slate']);
    await userEvent.selectOptions(screen.getByLabelText('rows shown'), 'all');
    await userEvent.selectOptions(screen.getByLabelText('sorted by'), 'name');
    expect(names()).toEqual(['1.mov', '2.mov', 'bowl', 'slate']);
  });

  test('says how long it takes, where something was written onto that drive before', async () => {
    handoffs = [handoff('planned', { plan: { ...plan, targets: plan.targets.map((t) => ({ ...t, seconds: 730 })) } })];
    show();
    expect(await screen.findByText(/; about 12 minutes, as it went there before$/)).toBeTruthy();
  });

  test('that does not fit beside the headroom cannot be run, and says so', async () => {
    handoffs = [
      handoff('planned', {
        plan: {
          ...plan,
          targets: plan.targets.map((t) => ({ ...t, room: { ...t.room, usableInBytes: 1e6, fits: false } })),
        },
      }),
    ];
    show();
    expect(((await screen.findByRole('button', { name: /^Write 2 files/ })) as HTMLButtonElement).disabled).toBe(true);
    expect(screen.getByText(/Does not fit there: only 1.0 MB can be used beside the headroom of 10 %/)).toBeTruthy();
  });
});

describe('a handoff that stopped', () => {
  test('says what went wrong with which file, what stays, and goes on with the rest', async () => {
    const first = { code: 'source-changed', path: '/media/KILN_A/day1/2.mov', since: 'begun' } as const;
    handoffs = [
      handoff('failed', {
        problem: { code: 'files-not-copied', failed: 1, of: 2, first },
        copied: [
          { target: 'media/1.mov', sizeInBytes: 1, state: 'verified', xxh64: 'ab12', problem: null, lost: [] },
          { target: 'media/2.mov', sizeInBytes: 1, state: 'failed', xxh64: null, problem: first, lost: [] },
        ],
      }),
    ];
    show();
    const status = await screen.findByRole('status');
    expect(status.textContent).toMatch(/1 of 2 files are verified and stay\. 1 of 2 files could not be copied/);
    expect(screen.getByRole('table', { name: 'what goes' }).textContent).toContain(
      'changed while it was being copied. Wait until nothing writes to it, then continue.',
    );
    expect(screen.getByRole('table', { name: 'what goes' }).textContent).toContain('ab12');
    await userEvent.click(screen.getByRole('button', { name: 'Continue with 1 file' }));
    await waitFor(() => expect(writes()).toHaveLength(1));
  });
});

describe('planning', () => {
  const word = (name: RegExp) => screen.findByRole('button', { name });
  const asked = () =>
    server.asked
      .filter((a) => a.url.pathname.endsWith('/preview'))
      .map((a) => JSON.parse(a.body) as { choices: object; timelines?: string[]; ranges?: object[]; clips?: string[] });

  test('every word of the sentence is a choice, and the plan below follows it', async () => {
    show();
    await userEvent.click(await word(/^sound: whole/));
    await userEvent.click(screen.getByRole('button', { name: 'trimmed' }));
    await waitFor(() => expect(asked().at(-1)!.choices).toMatchObject({ picture: 'trim', sound: 'trim' }));
    await userEvent.click(await word(/^handles: 24 frames/));
    const frames = screen.getByLabelText('frames before and after each use');
    await userEvent.clear(frames);
    await userEvent.type(frames, '12');
    await waitFor(() => expect(asked().at(-1)!.choices).toMatchObject({ handlesInFrames: 12 }));
    await userEvent.keyboard('{Escape}');
    await userEvent.click(await word(/^names: /));
    await userEvent.type(screen.getByLabelText('names'), '_{{nmae}');
    expect(screen.getByText(/Nobody knows what \{nmae\} should be/)).toBeTruthy();
    expect(JSON.stringify(asked())).not.toContain('nmae');
  });

  test('asks for timelines, a name and a folder, and sends what was left out of it', async () => {
    show();
    await userEvent.click(await word(/^timelines: Cut 7 and Trailer/));
    expect(screen.getByText('0:01 dark')).toBeTruthy();
    await userEvent.click(screen.getByRole('checkbox', { name: /Trailer/ }));
    await userEvent.keyboard('{Escape}');
    await userEvent.click(await word(/^name of the new folder/));
    await userEvent.clear(screen.getByLabelText('name of the new folder'));
    await userEvent.type(screen.getByLabelText('name of the new folder'), 'to sound{Enter}');
    const write = () => screen.getByRole('button', { name: 'Write 2 files, 3.0 MB' }) as HTMLButtonElement;
    await screen.findByRole('table', { name: 'what goes' });
    expect(write().disabled).toBe(true);
    await userEvent.click(await word(/^target: a drive to be chosen/));
    await userEvent.click(await screen.findByRole('button', { name: 'Put it here' }));
    await waitFor(() => expect(write().disabled).toBe(false));
    await userEvent.click(screen.getByRole('button', { name: 'Keep the plan' }));
    await waitFor(() => expect(writes()).toHaveLength(1));
    expect(JSON.parse(writes()[0]!.body)).toEqual({
      targetFolder: '/out',
      name: 'to sound',
      layout: 'folder',
      timelines: [`${uuid(30)}/t0`],
      choices: { ...standardChoices, picture: 'trim' },
    });
  });

  test('a stretch of a timeline is said by timecode; one that is none is not asked for', async () => {
    show();
    await userEvent.click(await word(/^timelines: Cut 7 and Trailer/));
    await userEvent.type(screen.getByLabelText('Cut 7 from'), '00:00:02:00');
    await waitFor(() => expect(asked().at(-1)!.ranges).toEqual([{ timeline: `${uuid(30)}/t0`, start: 50, end: 250 }]));
    await userEvent.type(screen.getByLabelText('Cut 7 to'), '00:00:01:00');
    expect(screen.getByText(/nothing lies there: it runs from 00:00:00:00 to 00:00:10:00/)).toBeTruthy();
    await userEvent.clear(screen.getByLabelText('Cut 7 to'));
    await userEvent.type(screen.getByLabelText('Cut 7 to'), '00:00:04:30');
    expect(screen.getByText('00:00:04:30 is no timecode here')).toBeTruthy();
    const before = asked().length;
    expect(await word(/^timelines: a stretch of Cut 7 and Trailer/)).toBeTruthy();
    // The next that is asked for is what can be: nothing was asked for in between.
    await userEvent.clear(screen.getByLabelText('Cut 7 to'));
    await userEvent.type(screen.getByLabelText('Cut 7 to'), '00:00:04:10');
    await waitFor(() => expect(asked().at(-1)!.ranges).toEqual([{ timeline: `${uuid(30)}/t0`, start: 50, end: 110 }]));
    const since = asked()
      .slice(before)
      .map((one) => one.ranges);
    for (const ranges of since) expect(ranges).toEqual([expect.objectContaining({ start: 50 })]);
  });

  test('clips that were chosen elsewhere are handed off alone, until all are wanted after all', async () => {
    handoffs = [handoff('done')];
    show({ clips: [uuid(8), uuid(9)] });
    expect(await word(/^clips: 2 chosen clips/)).toBeTruthy();
    await waitFor(() => expect(asked().at(-1)!.clips).toEqual([uuid(8), uuid(9)]));
    await userEvent.click(await word(/^clips: 2 chosen clips/));
    await userEvent.click(screen.getByRole('button', { name: 'All that the timelines show, instead' }));
    await waitFor(() => expect(asked().at(-1)).not.toHaveProperty('clips'));
  });
});

describe('what goes along', () => {
  test('sidecars, logs, bins with all that stands in them, and hashes are words of the sentence', async () => {
    show();
    const asked = () =>
      JSON.parse(server.asked.filter((a) => a.url.pathname.endsWith('/preview')).at(-1)!.body) as {
        choices: object;
        bins?: string[][];
      };
    await userEvent.click(await screen.findByRole('button', { name: 'what goes along: nothing else' }));
    await userEvent.click(screen.getByRole('checkbox', { name: /^Sidecars/ }));
    await userEvent.click(screen.getByRole('checkbox', { name: /^Shot logs/ }));
    const bin = (name: RegExp) => screen.findByRole('checkbox', { name }) as Promise<HTMLInputElement>;
    await userEvent.click(await bin(/^pots/));
    await userEvent.click(await bin(/^selects/));
    // A bin in a chosen one is chosen with it, and not by itself.
    expect([(await bin(/^pots/)).checked, (await bin(/^pots/)).disabled]).toEqual([true, true]);
    expect([(await bin(/^furnace ?1 clip/)).checked, (await bin(/^music/)).checked]).toEqual([true, false]);
    await userEvent.click(await bin(/^music/));
    await waitFor(() =>
      expect(asked()).toMatchObject({ bins: [['selects'], ['music']], choices: { sidecars: true, logs: true } }),
    );
    await userEvent.click(await bin(/^selects/));
    await waitFor(() => expect(asked().bins).toEqual([['music']]));
    await userEvent.keyboard('{Escape}');
    expect(screen.getByRole('button', { name: 'what goes along: sidecars, shot logs and all of 1 bin' })).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'hashes: xxh64' }));
    await userEvent.click(screen.getByRole('checkbox', { name: 'C4' }));
    await userEvent.click(screen.getByRole('checkbox', { name: 'MD5' }));
    await waitFor(() => expect(asked().choices).toMatchObject({ alsoHashed: ['md5', 'c4'] }));
    expect(screen.getByRole('button', { name: 'hashes: xxh64, MD5 and C4', hidden: true })).toBeTruthy();
  });

  test('a sidecar is told at its recording, counted among the files, and none of its frames', async () => {
    const sidecar = { mediaFileId: uuid(50) as never, source: 'day1/1.xml', target: 'media/1.xml', sizeInBytes: 7 };
    const [first, second] = plan.recordings;
    const copied = [...handoff('planned').copied, { ...handoff('planned').copied[0]!, target: 'media/1.xml' }].map(
      (f) => ({
        ...f,
        state: f.target.endsWith('.xml') ? ('failed' as const) : ('verified' as const),
        problem: f.target.endsWith('.xml')
          ? ({ code: 'source-changed', path: '/K/1.xml', since: 'planned' } as const)
          : null,
      }),
    );
    handoffs = [
      handoff('failed', { copied, plan: { ...plan, recordings: [{ ...first!, sidecars: [sidecar] }, second!] } }),
    ];
    show();
    const [row] = within(await screen.findByRole('table', { name: 'what goes' }))
      .getAllByRole('row')
      .slice(1);
    expect(row!.textContent).toContain('/K/1.xml');
    expect(screen.getByText(/^3 files of 2 recordings/)).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Continue with 1 file' })).toBeTruthy();
  });
});

describe('plans beside one another', () => {
  const kept = (more: Partial<Handoff>) =>
    handoff('planned', {
      scope: {
        timelines: [`${uuid(30)}/t1`],
        ranges: [{ timeline: `${uuid(30)}/t1`, start: 50, end: 75 }],
        clips: null,
        bins: [['music']],
      },
      plan: { ...plan, choices: { ...plan.choices, handlesInFrames: 7, alsoHashed: ['sha1'] } },
      ...more,
    });

  test('a kept plan is changed from where it was, and keeps what was not touched', async () => {
    handoffs = [kept({})];
    show();
    await userEvent.click(await screen.findByRole('button', { name: 'Change the plan…' }));
    expect(await screen.findByRole('button', { name: 'name of the new folder: to colour' })).toBeTruthy();
    expect(screen.getByRole('button', { name: 'timelines: a stretch of Trailer' })).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'sound: whole' }));
    await userEvent.click(screen.getByRole('button', { name: 'trimmed' }));
    const keep = () => screen.getByRole('button', { name: 'Keep the plan' }) as HTMLButtonElement;
    await waitFor(() => expect(keep().disabled).toBe(false));
    await userEvent.click(keep());
    await waitFor(() => expect(writes()).toHaveLength(1));
    expect(JSON.parse(writes()[0]!.body)).toEqual({
      targetFolder: '/out',
      name: 'to colour',
      layout: 'folder',
      timelines: [`${uuid(30)}/t1`],
      ranges: [{ timeline: `${uuid(30)}/t1`, start: 50, end: 75 }],
      bins: [['music']],
      choices: { ...plan.choices, handlesInFrames: 7, alsoHashed: ['sha1'], sound: 'trim' },
    });
  });

  test('two are held against one another: what each comes to, and only what they take otherwise', async () => {
    const [first, second] = plan.recordings;
    const whole = { ...first!, outs: [{ ...first!.outs[0]!, range: null }], sizeInBytes: 4_000_000 };
    handoffs = [
      kept({}),
      kept({
        id: uuid(21) as Handoff['id'],
        folder: '/out/all of it',
        plan: { ...plan, recordings: [whole, second!, recording(3)], sizeInBytes: 7_000_000 },
      }),
    ];
    show();
    await userEvent.selectOptions(await screen.findByLabelText('compare with'), uuid(21));
    const section = screen.getByRole('region', { name: 'two plans compared' });
    expect(section.textContent).toContain(
      'to colour: 3.0 MB in 2 files. all of it: 7.0 MB in 3 files. They differ in 2 recordings.',
    );
    const rows = within(section).getAllByRole('row').slice(1);
    expect(rows.map((r) => r.textContent)).toEqual([
      '1.mov1.5 MB in 1 file4.0 MB in 1 file+2.5 MB',
      '3.movnot in it1.5 MB in 1 file+1.5 MB',
    ]);
    await userEvent.click(screen.getByRole('button', { name: 'Back to the plan' }));
    expect(screen.getByRole('table', { name: 'what goes' })).toBeTruthy();
  });
});

import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { standardChoices } from '@legame/core/consolidate';
import type { Handoff } from '@legame/core/contract';
import { acceptsAll } from '@legame/core/model';
import { answerHandoffs, handoff, plan } from '../../testing/handoffs.ts';
import { showPage, uuid } from '../../testing/page.tsx';
import { standInServer, type Asked } from '../../testing/server.ts';
import { HandoffView } from './HandoffView.tsx';

let server: ReturnType<typeof standInServer>;
let handoffs: Handoff[];
let refuse: object | null;
beforeEach(() => {
  handoffs = [];
  refuse = null;
  server = standInServer((asked: Asked) =>
    asked.method === 'POST' && refuse ? refuse : answerHandoffs(asked, handoffs),
  );
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

  test('what it comes to is worked out no further once a word is another, or nobody looks', async () => {
    const never = new Promise<never>(() => {});
    server.giveBack();
    server = standInServer((one) => (one.url.pathname.endsWith('/preview') ? never : answerHandoffs(one, handoffs)));
    const asking = () => server.asked.filter((a) => a.url.pathname.endsWith('/preview')).map((a) => a.isBrokenOff());
    show();
    await waitFor(() => expect(asking()).toEqual([false]));
    await userEvent.click(await word(/^sound: whole/));
    await userEvent.click(screen.getByRole('button', { name: 'trimmed' }));
    await waitFor(() => expect(asking()).toEqual([true, false]));
    // Back to the first words: they are asked for again, and nothing is said to have failed.
    await userEvent.click(await word(/^sound: trimmed/));
    await userEvent.click(screen.getByRole('button', { name: 'whole' }));
    await waitFor(() => expect(asking()).toEqual([true, true, false]));
    expect(screen.queryByRole('alert')).toBeNull();
    cleanup();
    await waitFor(() => expect(asking()).toEqual([true, true, true]));
  });

  test('sound can be transcoded, which makes WAVE of it, and has handles then', async () => {
    show();
    await userEvent.click(await word(/^sound: whole/));
    await userEvent.click(screen.getByRole('button', { name: 'transcoded' }));
    await waitFor(() => expect(asked().at(-1)!.choices).toMatchObject({ picture: 'trim', sound: 'transcode' }));
    expect(screen.getByLabelText('the plan').textContent).toContain('sound transcoded to WAVE, stills whole');
    expect(await word(/^handles: /)).toBeTruthy();
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

  test('for a receiver who can use only some it says what they take, and what becomes of the rest', async () => {
    show();
    expect(screen.queryByText(/what this project does not accept/)).toBeNull();
    await userEvent.click(await word(/^receiver: any receiver/));
    await userEvent.click(await screen.findByRole('button', { name: /who can use only some/ }));
    await userEvent.click(await screen.findByRole('checkbox', { name: 'mjpeg' }));
    await userEvent.selectOptions(screen.getByLabelText('largest depth'), '8-bit only');
    const receiver = { ...acceptsAll, codecs: ['mjpeg'], largestBitDepth: 8 };
    await waitFor(() =>
      expect(asked().at(-1)!.choices).toMatchObject({ receiver, coding: 'mjpeg', transcodesRefused: true }),
    );
    await userEvent.keyboard('{Escape}');
    expect(await word(/^receiver: a receiver of mjpeg, up to 8-bit/)).toBeTruthy();
    expect(screen.getByLabelText('the plan').textContent).toContain(
      '(what the receiver cannot use transcoded to Motion JPEG',
    );
    await userEvent.click(await word(/^receiver: /));
    await userEvent.click(await screen.findByRole('button', { name: /^any receiver/ }));
    await waitFor(() => expect(asked().at(-1)!.choices).toMatchObject({ receiver: null, transcodesRefused: false }));
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

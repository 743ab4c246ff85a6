import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Handoff } from '@legame/core/contract';
import { handoff, plan, recording, answerHandoffs } from '../../testing/handoffs.ts';
import { showPage, uuid } from '../../testing/page.tsx';
import { standInServer, type Asked } from '../../testing/server.ts';
import { HandoffView } from './HandoffView.tsx';

let server: ReturnType<typeof standInServer>;
let handoffs: Handoff[];
beforeEach(() => {
  handoffs = [];
  server = standInServer((asked: Asked) => answerHandoffs(asked, handoffs));
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = () => showPage('/projects/:projectId/handoff', <HandoffView />);
/** What was asked for beside previews, which change nothing. */
const writes = () => server.asked.filter((a) => a.method === 'POST' && !a.url.pathname.endsWith('/preview'));

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

test('nothing is written while the plan that it would be is still being worked out', async () => {
  let give = (): void => undefined;
  const worked = new Promise<void>((resolve) => (give = resolve));
  server.giveBack();
  server = standInServer(async (asked: Asked) => {
    if (asked.body.includes('"sound":"trim"')) await worked;
    return answerHandoffs(asked, handoffs);
  });
  show();
  await userEvent.click(await screen.findByRole('button', { name: /^target: / }));
  await userEvent.click(await screen.findByRole('button', { name: 'Put it here' }));
  const write = () => screen.getByRole('button', { name: /^Write 2 files/ }) as HTMLButtonElement;
  await waitFor(() => expect(write().disabled).toBe(false));
  await userEvent.click(screen.getByRole('button', { name: 'sound: whole' }));
  await userEvent.click(screen.getByRole('button', { name: 'trimmed' }));
  await waitFor(() => expect(server.asked.some((a) => a.body.includes('"sound":"trim"'))).toBe(true));
  // What stands below is the plan of before.
  expect(write().disabled).toBe(true);
  await userEvent.click(write());
  expect(writes()).toEqual([]);
  give();
  await waitFor(() => expect(write().disabled).toBe(false));
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

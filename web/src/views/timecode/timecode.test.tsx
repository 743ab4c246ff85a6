import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { act, cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { BenchRow } from '@legame/core/contract';
import { pickMany } from '../../session/selection.ts';
import { showPage, uuid } from '../../testing/page.tsx';
import { refused, standInServer } from '../../testing/server.ts';
import { TimecodeView } from './TimecodeView.tsx';

const rate = { num: 25, den: 1 };
const anHour = 90_000;
/** A clip of a hundred frames of which twenty are used, and a file of as many that begins some hours later. */
const row = (n: number, name: string, apart: BenchRow['apart'], more: Partial<BenchRow> = {}): BenchRow => {
  const later = apart?.kind === 'shifted' ? apart.byFrames : 0;
  return {
    clipId: uuid(n) as BenchRow['clipId'],
    clipName: name,
    reel: n % 2 ? 'A001' : null,
    status: { status: 'missing', because: 'nothing-there' },
    stated: {
      rate,
      counting: 'non-drop',
      available: { start: anHour, end: anHour + 100 },
      used: [{ start: anHour + 10, end: anHour + 30 }],
    },
    interpretation: null,
    file: {
      mediaFileId: uuid(100 + n) as never,
      version: '1',
      name,
      placeName: 'KILN_B',
      folder: 'rushes',
      isTied: false,
      facts: {
        kind: 'picture',
        container: 'mov',
        codec: 'prores',
        rate,
        counting: 'non-drop',
        timecodeSource: 'timecode',
        start: anHour + later,
        length: 100,
        sampleRate: null,
        channels: null,
        raster: { width: 1920, height: 1080 },
        bitDepth: 10,
        chroma: '4:2:2',
        reel: null,
        readBy: 'header',
        doubts: [],
      },
    },
    apart,
    uncoveredInFrames: apart ? 20 : 0,
    ...more,
  };
};
const byAnHour = { kind: 'shifted', byFrames: anHour } as BenchRow['apart'];
const shifted = { countedAt: null, shiftInFrames: 25 };

let server: ReturnType<typeof standInServer>;
let rows: BenchRow[];
let isRefusing: boolean;
beforeEach(() => {
  isRefusing = false;
  rows = [
    row(1, 'bowl.mov', byAnHour),
    row(2, 'door.mov', byAnHour),
    row(3, 'ember.mov', { kind: 'shifted', byFrames: -25 } as BenchRow['apart']),
    row(4, 'flue.mov', null, { interpretation: shifted }),
    row(5, 'gone.mov', null, { file: null, uncoveredInFrames: null }),
  ];
  server = standInServer(({ method }) => {
    if (method === 'GET') return { epoch: 1, version: 1, turned: 0, clips: rows };
    if (isRefusing) return refused(409, 'clip-gone', 'A clip is not in the project any more.');
    return { id: 1, verb: 'interpret', count: 2, madeAt: '2026-11-20T10:00:00.000Z', skipped: [] };
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = async (chosen: number[] = []) => {
  const { store } = showPage('/projects/:projectId/timecode', <TimecodeView />);
  if (chosen.length > 0) act(() => void store.dispatch(pickMany(chosen.map(uuid))));
  return within(await screen.findByRole('region', { name: 'timecode of the selection' }));
};
const shownNames = () =>
  screen.getAllByRole('row').flatMap((r) => (r.dataset.clip ? [r.dataset.clip] : [])); // prettier-ignore
const posts = () => server.asked.filter((a) => a.method === 'POST').map((a) => JSON.parse(a.body) as unknown);
const outcome = () => screen.getByRole('status').textContent;

describe('the timecode bench', () => {
  test('begins with what stands apart, and offers each offset as one decision, the most frequent first', async () => {
    const panel = await show();
    expect(shownNames()).toEqual(['bowl.mov', 'door.mov', 'ember.mov']);
    const offsets = panel.getByRole('list', { name: 'offsets' });
    expect(
      within(offsets)
        .getAllByRole('listitem')
        .map((li) => li.textContent),
    ).toEqual(['+01:00:00:00Take these 2', '−00:00:01:00Take these 1']);
    await userEvent.click(within(offsets).getByRole('button', { name: 'Take these 2' }));
    expect(panel.getByText('2 clips selected')).toBeTruthy();
    expect(outcome()).toContain('2 clips would be counted otherwise.');
    expect(outcome()).toContain('Used frames that no file covers: 40 → 0');
    await userEvent.click(panel.getByRole('button', { name: 'Apply to 2' }));
    const interpretation = { countedAt: null, shiftInFrames: anHour };
    await waitFor(() =>
      expect(posts()).toEqual([
        {
          clips: [
            { clipId: uuid(1), interpretation },
            { clipId: uuid(2), interpretation },
          ],
        },
      ]),
    );
    await waitFor(() => expect(screen.queryByRole('button', { name: /^Apply/ })).toBeNull());
  });

  test('nothing is done to what is selected and filtered away', async () => {
    const panel = await show([1, 4]);
    expect(panel.getByText('1 clip selected')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'With an offset 1' }));
    expect(shownNames()).toEqual(['flue.mov']);
    await userEvent.click(panel.getByRole('button', { name: 'As stated' }));
    await userEvent.click(panel.getByRole('button', { name: 'Apply to 1' }));
    await waitFor(() => expect(posts()).toEqual([{ clips: [{ clipId: uuid(4), interpretation: null }] }]));
  });

  test('an offset that is taken shows the clips it is of, whatever was shown', async () => {
    const panel = await show();
    await userEvent.click(screen.getByRole('button', { name: 'With an offset 1' }));
    await userEvent.click(panel.getByRole('button', { name: 'Take these 1' }));
    expect(shownNames()).toEqual(['bowl.mov', 'door.mov', 'ember.mov']);
    expect(panel.getByText('1 clip selected')).toBeTruthy();
  });

  test('by a timecode: later, earlier, or from it; what is typed counts at once, and nonsense cannot be applied', async () => {
    const panel = await show([1]);
    const text = panel.getByLabelText('timecode');
    fireEvent.change(text, { target: { value: '00:00:01:00' } });
    await userEvent.click(panel.getByRole('button', { name: 'Earlier by it' }));
    await userEvent.click(panel.getByRole('button', { name: 'Apply to 1' }));
    await waitFor(() => expect(posts()).toHaveLength(1));
    await userEvent.click(panel.getByRole('button', { name: 'Start at it' }));
    fireEvent.change(text, { target: { value: '02:00:00:00' } });
    await userEvent.click(panel.getByRole('button', { name: 'Apply to 1' }));
    await waitFor(() => expect(posts()).toHaveLength(2));
    expect(posts()).toEqual([
      { clips: [{ clipId: uuid(1), interpretation: { countedAt: null, shiftInFrames: -25 } }] },
      { clips: [{ clipId: uuid(1), interpretation: { countedAt: null, shiftInFrames: anHour } }] },
    ]);
    await userEvent.click(panel.getByRole('button', { name: 'Later by it' }));
    fireEvent.change(text, { target: { value: 'noon' } });
    expect(outcome()).toContain('0 clips would be counted otherwise, 1 cannot be.');
    expect((panel.getByRole('button', { name: 'Apply to 0' }) as HTMLButtonElement).disabled).toBe(true);
  });

  test('at another rate, and from the first frame of the file; a clip without a file stays', async () => {
    const panel = await show([1, 5]);
    await userEvent.click(screen.getByRole('button', { name: 'All 5' }));
    expect(panel.getByText('2 clips selected')).toBeTruthy();
    await userEvent.click(panel.getByRole('button', { name: 'From the first frame' }));
    expect(outcome()).toContain('1 clip would be counted otherwise, 1 cannot be.');
    expect(screen.getByText('stays: no file whose start is known')).toBeTruthy();
    await userEvent.selectOptions(panel.getByLabelText('rate to count at'), '24');
    expect(outcome()).toContain('2 clips would be counted otherwise.');
    await userEvent.click(panel.getByRole('button', { name: 'Leave it' }));
    expect(screen.queryByRole('status')).toBeNull();
    expect(posts()).toEqual([]);
  });

  test('what is refused stays in hand, with the reason', async () => {
    isRefusing = true;
    const panel = await show([1]);
    await userEvent.click(panel.getByRole('button', { name: 'By what was found' }));
    await userEvent.click(panel.getByRole('button', { name: 'Apply to 1' }));
    expect((await panel.findByRole('alert')).textContent).toContain('A clip is not in the project any more.');
    expect(panel.getByRole('button', { name: 'Apply to 1' })).toBeTruthy();
  });

  test('where edit and files count alike, all is shown and there is nothing to decide', async () => {
    rows = [row(1, 'bowl.mov', null)];
    const panel = await show();
    expect(shownNames()).toEqual(['bowl.mov']);
    expect(panel.getByText('Every file counts as its clip does.')).toBeTruthy();
    expect((panel.getByRole('button', { name: 'As stated' }) as HTMLButtonElement).disabled).toBe(true);
  });
});

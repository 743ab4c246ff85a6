import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, fireEvent, screen, within } from '@testing-library/react';
import type { ClipDetail, ComparedLook, KeptPicture } from '@legame/core/contract';
import type { Facts } from '@legame/core/model';
import { clipDetail as clip, weighedFile } from '../../testing/detail.ts';
import { showPage, uuid } from '../../testing/page.tsx';
import { standInServer } from '../../testing/server.ts';
import { ClipPanel } from './ClipPanel.tsx';

const facts: Facts = {
  kind: 'picture',
  container: 'mov',
  codec: 'h264',
  rate: { num: 25, den: 1 },
  counting: 'non-drop',
  timecodeSource: 'timecode',
  start: 90_000,
  length: 100,
  sampleRate: null,
  channels: null,
  raster: null,
  bitDepth: null,
  chroma: null,
  reel: null,
  readBy: 'header',
  doubts: [],
};
const weighed = (n: number, kind: Facts['kind'] = 'picture') => {
  const made = weighedFile(n);
  return { ...made, file: { ...made.file, facts: { ...facts, kind } } };
};
const kept: KeptPicture = {
  mediaFileId: uuid(50) as KeptPicture['mediaFileId'],
  fileName: 'bowl.mov',
  address: 90_025,
  takenAt: '2026-11-20T10:00:00.000Z',
  isOfTied: false,
};
let server: ReturnType<typeof standInServer>;
let shown: ClipDetail;
let looks: Record<string, ComparedLook>;
beforeEach(() => {
  looks = {
    [uuid(11)]: { frame: 25, shared: 0.97, verdict: 'same' },
    [uuid(12)]: { frame: 25, shared: 0.52, verdict: 'other' },
  };
  shown = clip({ kept, candidatesInFull: [weighed(11), weighed(12)] });
  server = standInServer(({ url }) => {
    const [, asked] = /\/look\/(.+)$/.exec(url.pathname) ?? [];
    if (asked) return looks[asked];
    return url.pathname === `/api/clips/${uuid(2)}` ? shown : [];
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = () =>
  showPage('/projects/:projectId/ledger', <ClipPanel projectId={uuid(1)} clipId={uuid(2)} chosen={1} />);
const looksAsked = () => server.asked.filter((a) => a.url.pathname.includes('/look/')).length;

describe('a clip that was linked once and is dark', () => {
  test('is shown as it was beside what is found, and each candidate says how it looks beside that', async () => {
    show();
    const asItWas = await screen.findByRole('figure', { name: 'as it was' });
    expect(within(asItWas).getByRole('img').getAttribute('src')).toContain(`/api/clips/${uuid(2)}/picture?v=2026`);
    expect(asItWas.textContent).toContain('01:00:01:00');
    const candidates = await screen.findByRole('group', { name: 'candidates' });
    expect((await within(candidates).findByText('looks as it did')).closest('button')!.textContent).toContain('day11');
    expect(within(candidates).getByText('looks different').closest('button')!.textContent).toContain('day12');
    const row = (await screen.findByText(/97 % alike/)).closest('tr')!;
    expect(row.dataset).toMatchObject({ attribute: 'look', verdict: 'agrees' });
  });

  test('where nothing is found, as it was is all that there is to see', async () => {
    shown = clip({ kept, candidatesInFull: [], decision: 'nothing', fullDecision: { kind: 'nothing' } });
    show();
    expect(await screen.findByRole('figure', { name: 'as it was' })).toBeTruthy();
    expect(screen.queryByRole('figure', { name: 'found' })).toBeNull();
    expect(looksAsked()).toBe(0);
  });

  test('a picture that went to make room says so', async () => {
    show();
    fireEvent.error(within(await screen.findByRole('figure', { name: 'as it was' })).getByRole('img'));
    expect(await screen.findByText('the picture went to make room')).toBeTruthy();
  });

  test('what is of one colour, or sounds, is not told by its look', async () => {
    looks[uuid(11)] = { frame: 0, shared: null, verdict: null };
    shown = clip({ kept, candidatesInFull: [weighed(11), weighed(12, 'sound')] });
    show();
    const row = (await screen.findByText(/one of the two is of one colour/)).closest('tr')!;
    expect(row.dataset.verdict).toBe('unknown');
    expect(server.asked.some((a) => a.url.pathname.includes(`/look/${uuid(12)}`))).toBe(false);
  });
});

test('a clip that is linked to that very file, or was never linked, is shown as before', async () => {
  const tied = weighed(50);
  for (const kept of [null, { ...shown.kept!, isOfTied: true }]) {
    shown = clip({
      kept,
      status: { status: 'linked' },
      decision: 'certain',
      tiedFile: tied,
      tied: {
        mediaFileId: tied.file.id,
        version: '1',
        name: 'bowl.mov',
        placeName: 'KILN_B',
        folder: 'day50',
        by: 'hand',
      },
    } as Partial<ClipDetail>);
    show();
    expect(await screen.findByRole('figure', { name: 'found' })).toBeTruthy();
    expect(screen.queryByRole('figure', { name: 'as it was' })).toBeNull();
    expect(looksAsked()).toBe(0);
    cleanup();
  }
});

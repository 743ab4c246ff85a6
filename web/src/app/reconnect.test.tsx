import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { act, cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { DroppedAnswer } from '@legame/core/contract';
import { runCommand, whyNot } from '../commands/useCommand.ts';
import { showPage, uuid } from '../testing/page.tsx';
import { memberOf } from '../testing/rows.ts';
import { placeOf } from '../testing/place.ts';
import { refused, standInServer } from '../testing/server.ts';
import { readDropped } from '../workers/droppedMedia.ts';
import { Reconnect } from './Reconnect.tsx';

const nothing: DroppedAnswer = { members: [], backSeconds: 0, here: 0, elsewhere: [] };
const folder: DroppedAnswer['elsewhere'][number] = {
  folder: 'rushes',
  files: 12,
  sizeInBytes: 5_000_000,
  clips: 4,
  names: ['a.mov', 'b.mov', 'c.mov'],
  lies: ['/bay/NEW/rushes'],
  inPlace: null,
};
let server: ReturnType<typeof standInServer>;
let answers: (DroppedAnswer | Response)[];
beforeEach(() => {
  answers = [nothing];
  server = standInServer(({ url }) => {
    if (url.pathname.endsWith('/dropped')) return answers.length > 1 ? answers.shift() : answers[0];
    if (url.pathname.endsWith('/links'))
      return { id: 1, verb: 'link', count: 1, madeAt: '2026-11-20T10:00:00.000Z', skipped: [] };
    return url.pathname === '/api/places' ? placeOf(95, 'rushes') : [];
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const show = (takesFiles = true) =>
  showPage(
    '/projects/:projectId/ledger',
    <Reconnect projectId={uuid(1)} takesFiles={takesFiles}>
      <p>the screen</p>
      <section aria-label="one clip" data-takes-files={uuid(7)}>
        a clip
      </section>
    </Reconnect>,
  );
const film = (name: string, content = 'x', path = '') => {
  const file = new File([content], name, { lastModified: 1_700_000_000_000 });
  if (path) Object.defineProperty(file, 'path', { value: path });
  return file;
};
const drop = (on: Element, ...files: File[]) =>
  fireEvent.drop(on, {
    dataTransfer: { files, items: files.map((f) => ({ kind: 'file', getAsFile: () => f })), types: ['Files'] },
  });
const sent = (path: string) =>
  server.asked
    .filter((a) => a.method === 'POST' && a.url.pathname.endsWith(path))
    .map((a) => JSON.parse(a.body) as Record<string, unknown>);
const panel = async () => within(await screen.findByRole('region', { name: 'files in hand' }));

describe('media that is dropped onto a screen of clips', () => {
  test('is told by name, size and time, and what it is for is linked when that is said', async () => {
    answers = [
      { members: [memberOf(1, 'bowl.mov'), memberOf(2, 'door.mov')], backSeconds: 61, here: 2, elsewhere: [] },
    ];
    show();
    drop(screen.getByText('the screen'), film('bowl.mov', '12345'), film('door.mov'), film('notes.txt'));
    const shown = await panel();
    expect(shown.getByRole('heading').textContent).toBe('2 media files in hand');
    expect(sent('/dropped')).toEqual([
      {
        files: [
          { name: 'bowl.mov', folders: [], sizeInBytes: 5, modifiedMs: 1_700_000_000_000, facts: null },
          { name: 'door.mov', folders: [], sizeInBytes: 1, modifiedMs: 1_700_000_000_000, facts: null },
        ],
      },
    ]);
    expect(shown.getByRole('status').textContent).toBe(
      '2 of them lie in a place. They are for 2 dark clips; 1:01 of screen time comes back, in 2 clips.',
    );
    expect(shown.getByText('1 other file is no media by name.')).toBeTruthy();
    expect(sent('/links')).toEqual([]);
    await userEvent.click(shown.getByRole('checkbox', { name: 'link door.mov' }));
    await userEvent.click(shown.getByRole('button', { name: 'Link 1' }));
    await waitFor(() =>
      expect(sent('/links')).toEqual([{ by: 'hand', links: [{ clipId: uuid(1), mediaFileId: uuid(101) }] }]),
    );
    await waitFor(() => expect(screen.queryByRole('region', { name: 'files in hand' })).toBeNull());
  });

  test('dropped onto one clip it is asked about for that clip alone', async () => {
    show();
    drop(screen.getByText('a clip'), film('bowl.mov'));
    const shown = await panel();
    expect(sent('/dropped')[0]).toMatchObject({ clipId: uuid(7) });
    expect(shown.getByText('None of them lies in a place yet.')).toBeTruthy();
    expect(shown.queryByRole('button', { name: /^Link/ })).toBeNull();
  });

  test('of a folder that is no place, that folder is offered; added, it is looked at again', async () => {
    answers = [
      { ...nothing, elsewhere: [folder] },
      { ...nothing, here: 1, members: [memberOf(1, 'bowl.mov')] },
    ];
    show();
    drop(screen.getByText('the screen'), film('a.mov', 'x', './rushes/day1/a.mov'));
    const shown = await panel();
    expect(sent('/dropped')[0]).toMatchObject({ files: [{ folders: ['rushes', 'day1'] }] });
    const offered = within(shown.getByRole('region', { name: 'not in a place: rushes' }));
    expect(offered.getByText(/Fits 4 dark clips, and lies in no place/)).toBeTruthy();
    await userEvent.click(offered.getByRole('button', { name: 'Add /bay/NEW/rushes as a place' }));
    await waitFor(() => expect(sent('/places')).toEqual([{ path: '/bay/NEW/rushes', knownAs: [] }]));
    await userEvent.click(await screen.findByRole('button', { name: 'Look again' }));
    expect(await screen.findByRole('button', { name: 'Link 1' })).toBeTruthy();
  });

  test('in a place that leaves it out, or nowhere to be found, says what to do and offers nothing', async () => {
    answers = [
      {
        ...nothing,
        elsewhere: [
          { ...folder, inPlace: 'KILN_B', lies: [] },
          { ...folder, folder: null, files: 1, clips: 0, names: ['x.mov'], lies: [] },
        ],
      },
    ];
    show();
    drop(screen.getByText('the screen'), film('a.mov'));
    const text = (await screen.findByRole('region', { name: 'files in hand' })).textContent;
    expect(text).toContain('It lies in KILN_B, which does not know of it');
    expect(text).toContain('Fits no dark clip, and lies in no place. Add the folder in which it lies at Places');
    expect(screen.queryByRole('button', { name: /as a place/ })).toBeNull();
  });

  test('what is no media is not asked about; what the server says is shown', async () => {
    show();
    drop(screen.getByText('the screen'), film('cut 7.edl'), film('.hidden.mov'));
    expect(await screen.findByRole('heading', { name: 'No media' })).toBeTruthy();
    expect(sent('/dropped')).toEqual([]);
    cleanup();
    answers = [refused(409, 'project-gone', 'The project is put away.')];
    show();
    drop(screen.getByText('the screen'), film('a.mov'));
    expect((await screen.findByRole('alert')).textContent).toContain('The project is put away.');
  });

  test('a screen that takes no clips takes no media, and says where it is done', async () => {
    show(false);
    drop(screen.getByText('the screen'), film('a.mov'));
    await new Promise((resolve) => setTimeout(resolve, 50));
    expect(screen.queryByRole('region', { name: 'files in hand' })).toBeNull();
    expect(whyNot('reconnect')).toContain('Causes, Ledger, Cut or Bins');
  });

  test('by the command, files are chosen instead', async () => {
    show();
    const input = screen.getByLabelText('files to find clips for');
    let opened = 0;
    input.addEventListener('click', () => (opened += 1));
    act(() => void runCommand('reconnect'));
    await waitFor(() => expect(opened).toBe(1));
    fireEvent.change(input, { target: { files: [film('bowl.mov')] } });
    expect(await panel()).toBeTruthy();
  });
});

describe('what is read of files in hand', () => {
  const le = (value: number, bytes: number) =>
    Array.from({ length: bytes }, (_, i) => Math.floor(value / 256 ** i) % 256);
  const wave = () => {
    const format = [
      'fmt ',
      ...[16, 0, 0, 0],
      ...le(1, 2),
      ...le(2, 2),
      ...le(48_000, 4),
      ...le(288_000, 4),
      ...le(6, 2),
      ...le(24, 2),
    ];
    const body = ['WAVE', ...format, 'data', ...le(600, 4), ...Array.from({ length: 600 }, () => 0)];
    const bytes = ['RIFF', ...le(36 + 600, 4), ...body].flatMap((b) =>
      typeof b === 'string' ? [...b].map((c) => c.charCodeAt(0)) : [b],
    );
    return new File([Uint8Array.from(bytes)], 'take 1.WAV', { lastModified: 5 });
  };

  test('is its header, where that tells; folders from the dropped one down', async () => {
    const [read] = await readDropped([{ file: wave(), path: './snd/day 1/take 1.WAV' }]);
    expect(read).toMatchObject({
      name: 'take 1.WAV',
      folders: ['snd', 'day 1'],
      sizeInBytes: 644,
      modifiedMs: 5,
      facts: { kind: 'sound', length: 100, sampleRate: 48_000, channels: 2, bitDepth: 24 },
    });
  });

  test('one that cannot be read, or that only a decoder reads, still has its name and size', async () => {
    const broken = film('a.mov');
    broken.arrayBuffer = () => Promise.reject(new Error('the drive is gone'));
    const read = await readDropped([
      { file: broken, path: 'a.mov' },
      { file: film('b.mkv', 'no header at all'), path: 'b.mkv' },
    ]);
    expect(read.map(({ name, facts, folders }) => [name, facts, folders])).toEqual([
      ['a.mov', null, []],
      ['b.mkv', null, []],
    ]);
  });
});

import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ClipDetail, WeighedFile } from '@legame/core/contract';
import { clipDetail, weighedFile } from '../../testing/detail.ts';
import { showPage, uuid } from '../../testing/page.tsx';
import { placeOf } from '../../testing/place.ts';
import { standInServer } from '../../testing/server.ts';
import { ClipPanel } from './ClipPanel.tsx';
import { becauseWords, decisionWords } from './DecisionNote.tsx';
import { PointByHand } from './PointByHand.tsx';

/** Two places, of which one is away, and files that are told apart by their number. */
const places = [placeOf(90, 'KILN_B'), placeOf(91, 'CARD_07', { there: false, awayBecause: 'not-plugged-in' })];
const listing: Record<string, { folders: string[]; files: number[] }> = {
  '': { folders: ['rushes', 'stills'], files: [] },
  rushes: { folders: ['rushes'], files: [21, 22] },
  'rushes/rushes': { folders: [], files: [23] },
  stills: { folders: [], files: [] },
  day21: { folders: [], files: [22] },
};
const fileOf = (n: number) => ({ ...weighedFile(n).file, name: `take${n}.mov` });

let server: ReturnType<typeof standInServer>;
let shown: ClipDetail;
/** What is waited for before a folder is listed, and before the second take is weighed. */
let slow: { listing?: Promise<void>; second?: Promise<void> };
beforeEach(() => {
  shown = clipDetail({
    candidatesInFull: [],
    fullDecision: { kind: 'nothing' },
    decision: 'nothing',
    why: { code: 'gone' },
  });
  slow = {};
  server = standInServer(async ({ method, url }) => {
    const { pathname } = url;
    if (method === 'POST') return { id: 1, verb: 'link', count: 1, madeAt: '2026-11-20T10:00:00.000Z', skipped: [] };
    if (pathname === '/api/places') return places;
    if (pathname.endsWith('/files')) {
      const folder = url.searchParams.get('folder') ?? '';
      await slow.listing;
      const { folders, files } = listing[folder]!;
      return { folder, folders, files: files.map(fileOf) };
    }
    const weighed =
      /clips\/[^/]+\/(?:weigh|candidates)\/(.+)$/.exec(pathname)?.[1] ?? url.searchParams.get('mediaFileId');
    if (weighed) {
      if (weighed === uuid(22)) await slow.second;
      return {
        ...weighedFile(Number(weighed.slice(-4))),
        file: fileOf(Number(weighed.slice(-4))),
      } satisfies WeighedFile;
    }
    return pathname === `/api/clips/${uuid(2)}` ? shown : [];
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
});
const posts = () => server.asked.filter((a) => a.method === 'POST').map((a) => JSON.parse(a.body) as unknown);
const files = async () => within(await screen.findByRole('list', { name: 'files' }));
function held() {
  let give!: () => void;
  return { until: new Promise<void>((resolve) => (give = resolve)), give: () => give() };
}

describe('finding a file by hand', () => {
  let chosen: string[];
  const show = (startAt: { placeId: string; folder: string } | null = null) => {
    chosen = [];
    showPage(
      '/projects/:projectId/ledger',
      <PointByHand
        clipName="bowl.mov"
        startAt={startAt}
        onChoose={(id) => chosen.push(id)}
        onClose={() => undefined}
      />,
    );
  };

  test('begins at the first place that is there, goes into folders and up again', async () => {
    show();
    expect(((await screen.findByLabelText('place')) as HTMLSelectElement).value).toBe(uuid(90));
    expect(screen.getByRole('option', { name: 'CARD_07 (not plugged in)' })).toBeTruthy();
    const up = screen.getByRole('button', { name: 'up one folder' }) as HTMLButtonElement;
    expect(up.disabled).toBe(true);
    await userEvent.click(await (await files()).findByText('rushes'));
    await userEvent.click(await (await files()).findByText('take22.mov'));
    expect(chosen).toEqual([uuid(22)]);
    await userEvent.click(up);
    expect(await (await files()).findByText('stills')).toBeTruthy();
    await userEvent.click((await files()).getByText('stills'));
    expect(await screen.findByText('No media files in here.')).toBeTruthy();
  });

  test('begins where it was told; another place begins at its top', async () => {
    show({ placeId: uuid(90), folder: 'rushes/rushes' });
    expect(await (await files()).findByText('take23.mov')).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText('place'), uuid(91));
    await waitFor(() => expect(server.asked.at(-1)!.url.searchParams.get('folder')).toBe(''));
  });

  test('a double click on a folder does not enter one of its name in it', async () => {
    show();
    await (await files()).findByText('rushes');
    const { until, give } = held();
    slow.listing = until;
    await userEvent.dblClick((await files()).getByText('rushes'));
    give();
    expect(await (await files()).findByText('take21.mov')).toBeTruthy();
    expect(server.asked.some((a) => a.url.searchParams.get('folder') === 'rushes/rushes')).toBe(false);
  });
});

describe('a file that was pointed at', () => {
  const point = async (name: string, folder?: string) => {
    await userEvent.click(screen.getByRole('button', { name: /^Point/ }));
    if (folder) await userEvent.click(await (await files()).findByText(folder));
    await userEvent.click(await (await files()).findByText(name));
  };

  test('is linked only when it is seen: never the one that was pointed at before', async () => {
    showPage('/projects/:projectId/ledger', <ClipPanel projectId={uuid(1)} clipId={uuid(2)} chosen={1} />);
    await screen.findByRole('region', { name: 'clip' });
    await point('take21.mov', 'rushes');
    expect((await screen.findAllByText(/day21/)).length).toBeGreaterThan(0);
    const { until, give } = held();
    slow.second = until;
    await point('take22.mov');
    // The evidence for the second is on its way: what is shown is not the first, and Enter links nothing.
    expect(screen.queryByText(/day21/)).toBeNull();
    (document.activeElement as HTMLElement).blur();
    await userEvent.keyboard('{Enter}');
    expect(posts()).toEqual([]);
    give();
    expect((await screen.findAllByText(/day22/)).length).toBeGreaterThan(0);
    (document.activeElement as HTMLElement).blur();
    await userEvent.keyboard('{Enter}');
    await waitFor(() => expect(posts()).toEqual([{ by: 'hand', links: [{ clipId: uuid(2), mediaFileId: uuid(22) }] }]));
  });
});

describe('why one is the best', () => {
  const certain = {
    kind: 'certain',
    mediaFileId: uuid(5) as never,
    grounds: 'name-timecode-length',
    copies: [],
    second: null,
  } as const;
  test.each<[Parameters<typeof decisionWords>[0], string]>([
    [certain, 'Certain: name, timecode and length identify it. Nothing else comes near.'],
    [
      { ...certain, grounds: 'content', copies: [uuid(6)] as never, second: { behindIn: ['folder', 'reel'] } as never },
      'Certain: its bytes are those it was linked to before. The next is behind in folder and reel. 1 copy of the same bytes lie elsewhere.',
    ],
    [
      { kind: 'ask', reason: 'not-enough-known', certainty: 'likely', mediaFileIds: [], second: null } as never,
      'Likely: it fits, but too little is known to be certain.',
    ],
    [{ kind: 'ask', reason: 'several', certainty: 'possible', mediaFileIds: [], second: null } as never, ''],
    [
      { kind: 'unusable', mediaFileId: uuid(5) } as never,
      'It is the file that the edit means, by name and folder, and it cannot be read.',
    ],
    [{ kind: 'refused', differs: ['timecode', 'length'] } as never, 'Refused: timecode and length must agree.'],
    [{ kind: 'nothing' }, ''],
  ])('$kind: %#', (decision, words) => {
    expect(decisionWords(decision)).toBe(words);
  });

  const because = { grounds: null, witnesses: null, second: null, verdicts: [] } as never;
  test('what a link rested on is told after it was made', () => {
    expect(becauseWords(because, 'hand')).toBe('Linked by hand: a person’s word alone. Nothing else came near then.');
    expect(
      becauseWords(
        {
          grounds: null,
          witnesses: 12,
          second: { behindIn: ['reel'] },
          verdicts: ['agrees', 'agrees', 'differs', 'agrees'],
        } as never,
        'cause',
      ),
    ).toBe(
      'Linked by mending a cause: name and timecode agreed. 12 recordings bore it out alike. The next best then was behind in reel.',
    );
    expect(
      becauseWords(
        { grounds: 'reel-timecode-length', witnesses: 1, second: { behindIn: [] }, verdicts: [] } as never,
        'rule',
      ),
    ).toBe(
      'Linked by rule: reel, timecode and length identify it. The next best then was behind in nothing that counts.',
    );
  });
});

import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Comparison, DocumentView } from '@legame/core/contract';
import { documentOf } from '../../testing/document.ts';
import { showPage, uuid } from '../../testing/page.tsx';
import { placeOf } from '../../testing/place.ts';
import { refused, standInServer } from '../../testing/server.ts';
import { ChangesList } from './ChangesList.tsx';
import { DocumentCard } from './DocumentCard.tsx';

const rate = { num: 25, den: 1 };
const timeline = (name: string, more: object = {}) =>
  ({
    key: name,
    name,
    top: true,
    rate,
    counting: 'non-drop',
    lengthInFrames: 1500,
    events: 12,
    tracks: ['V1', 'V2'],
    ...more,
  }) as never;

let server: ReturnType<typeof standInServer>;
let comparison: Comparison;
let saved: { name: string; size: number }[];
let exported: () => Response;
beforeEach(() => {
  saved = [];
  exported = () =>
    new Response('TITLE: CUT\n', {
      headers: {
        'Content-Disposition': 'attachment; filename="c.edl"; filename*=UTF-8\'\'c%C3%BCt.edl',
        'Legame-Relinked': '2',
        'Legame-Reencoded': 'true',
      },
    });
  // What is saved goes to a link that is clicked; here it is noted.
  URL.createObjectURL = (blob) => {
    saved.push({ name: '', size: (blob as Blob).size });
    return 'blob:x';
  };
  URL.revokeObjectURL = () => undefined;
  HTMLAnchorElement.prototype.click = function click(this: HTMLAnchorElement) {
    saved.at(-1)!.name = this.download;
  };
  server = standInServer(({ method, url, body }) => {
    if (url.pathname === '/api/places') return [placeOf(90, 'KILN_B'), placeOf(91, 'YARD')];
    if (url.pathname.endsWith('/export')) return exported();
    if (url.pathname.endsWith('/comparison')) return comparison;
    if (method === 'DELETE') return null;
    return body ? documentOf(50, 'cut.edl') : [];
  });
});
afterEach(() => {
  cleanup();
  server.giveBack();
  delete (URL as { createObjectURL?: unknown }).createObjectURL;
  delete (URL as { revokeObjectURL?: unknown }).revokeObjectURL;
  delete (HTMLAnchorElement.prototype as { click?: unknown }).click;
});
const show = (document: DocumentView) =>
  showPage(
    '/projects/:projectId/intake',
    <DocumentCard document={document} isShown={false} onShow={() => undefined} />,
  );
const exports = () =>
  server.asked.filter((a) => a.url.pathname.endsWith('/export')).map((a) => Object.fromEntries(a.url.searchParams));

describe('a document of the project', () => {
  test('says what is in it: clips, timelines with length and rate, nests, remarks, a newer version', () => {
    show(
      documentOf(50, 'cut.otio', {
        bins: 2,
        replacedAt: '2026-11-21T10:00:00.000Z',
        remarks: [{ at: { line: 1 }, code: 'line-not-understood', text: 'x' }],
        timelines: [
          timeline('Cut 7', { counting: 'drop', rate: { num: 30_000, den: 1001 } }),
          timeline('Opening', { top: false, events: 1 }),
        ],
      }),
    );
    const text = screen.getByRole('article', { name: 'cut.otio' }).textContent;
    expect(text).toContain('3 clips, 1 timeline, 2 bins · 1 remark · newer version, see what changed');
    expect(text).toContain('29.97 fps drop · 12 events');
    expect(text).toContain('1 event · nested');
  });

  test('is taken out only when that is said twice, and what follows is told', async () => {
    show(documentOf(50, 'cut.edl'));
    await userEvent.click(screen.getByRole('button', { name: 'take cut.edl out' }));
    expect(
      screen.getByText(/Its 3 clips and their links leave the project. The file it came from is not touched./),
    ).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Keep' }));
    expect(server.asked.filter((a) => a.method === 'DELETE')).toEqual([]);
    await userEvent.click(screen.getByRole('button', { name: 'take cut.edl out' }));
    await userEvent.click(screen.getByRole('button', { name: 'Take out' }));
    await waitFor(() => expect(server.asked.filter((a) => a.method === 'DELETE')).toHaveLength(1));
  });

  test('is read otherwise, one answer changed and the others kept', async () => {
    const reading = { rate, clipsBy: 'reel' as const };
    const choices = {
      rates: [{ rate, reason: { code: 'common' } }, { rate: { num: 24, den: 1 }, reason: { code: 'common' } }],
      clipsBy: [{ grouping: 'reel', clips: 2 }, { grouping: 'reel-and-name', clips: 9 }],
      outPoints: [{ isLastFrame: true, agree: 3, of: 4 }, { isLastFrame: false, agree: 1, of: 4 }],
      referenceKeys: [],
      columns: null,
    } as unknown as DocumentView['choices']; // prettier-ignore
    show(documentOf(50, 'cut.edl', { reading, choices }));
    await userEvent.click(screen.getByRole('button', { name: 'how cut.edl is read' }));
    const out = screen.getByLabelText('out points of cut.edl') as HTMLSelectElement;
    expect([...out.options].map((o) => o.textContent)).toEqual([
      'the frame after the last – 1 of 4 durations say so',
      'the last frame – 3 of 4 durations say so',
    ]);
    await userEvent.selectOptions(screen.getByLabelText('frame rate of cut.edl'), '24/1');
    await userEvent.selectOptions(screen.getByLabelText('clips of cut.edl by'), 'reel-and-name');
    await userEvent.selectOptions(out, 'false');
    const sent = server.asked.filter((a) => a.body).map((a) => JSON.parse(a.body) as object);
    expect(sent).toEqual([
      { ...reading, rate: { num: 24, den: 1 } },
      { ...reading, clipsBy: 'reel-and-name' },
      { ...reading, outIsLastFrame: false },
    ]);
  });
});

describe('its way out', () => {
  const list = documentOf(50, 'cut.edl', { timelines: [timeline('Cut 7')] });
  const open = async (document = list) => {
    show(document);
    await userEvent.click(screen.getByRole('button', { name: 'Export…' }));
    return within(screen.getByRole('form', { name: `export of ${document.name}` }));
  };

  test('as it came in, with whole paths; it is saved under its own name, and what came of it is said', async () => {
    const form = await open();
    expect(form.getByRole('status').textContent).toBe('Its references change, and not one other character.');
    await userEvent.click(form.getByRole('button', { name: 'Export relinked' }));
    await waitFor(() => expect(saved).toEqual([{ name: 'cüt.edl', size: 11 }]));
    expect(exports()).toEqual([{ paths: 'absolute' }]);
    expect(form.getByRole('status').textContent).toBe(
      'cüt.edl: 2 clips of 3 refer to their files. Its old encoding cannot hold a new name, so it is UTF-8 now.',
    );
  });

  test('seen from a folder: a path that is not whole is refused before it is asked', async () => {
    const form = await open();
    await userEvent.selectOptions(form.getByLabelText('references say'), 'relative');
    await userEvent.type(form.getByLabelText('folder of the document'), 'out');
    await userEvent.click(form.getByRole('button', { name: 'Export relinked' }));
    expect((await form.findByRole('alert')).textContent).toBe('Say the whole path, from the root down.');
    expect(exports()).toEqual([]);
    await userEvent.clear(form.getByLabelText('folder of the document'));
    await userEvent.type(form.getByLabelText('folder of the document'), '/bay/out');
    await userEvent.click(form.getByRole('button', { name: 'Export relinked' }));
    await waitFor(() => expect(exports()).toEqual([{ paths: 'relative', folder: '/bay/out' }]));
  });

  test('where the receiver’s places lie: those that are said, and no others', async () => {
    const form = await open();
    await userEvent.selectOptions(form.getByLabelText('references say'), 'place-roots');
    await userEvent.type(await form.findByLabelText('where YARD lies'), 'E:/YARD');
    await userEvent.click(form.getByRole('button', { name: 'Export relinked' }));
    await waitFor(() =>
      expect(exports()).toEqual([{ paths: 'place-roots', roots: JSON.stringify({ [uuid(91)]: 'E:/YARD' }) }]),
    );
  });

  test('as a list of one track; another format begins at its first track again', async () => {
    const form = await open(
      documentOf(50, 'cut.otio', { format: 'otio', timelines: [timeline('Cut 7'), timeline('Trailer')] }),
    );
    await userEvent.selectOptions(form.getByLabelText('export as'), 'edl');
    await userEvent.selectOptions(form.getByLabelText('timeline to export'), 'Trailer');
    await userEvent.selectOptions(form.getByLabelText('track to export'), 'V2');
    await userEvent.click(form.getByLabelText('write the reels of linked files too'));
    await userEvent.click(form.getByRole('button', { name: 'Export as EDL' }));
    await waitFor(() =>
      expect(exports()).toEqual([
        { paths: 'absolute', reels: 'true', format: 'edl', timeline: 'Trailer', track: 'V2' },
      ]),
    );
    await userEvent.selectOptions(form.getByLabelText('timeline to export'), 'Cut 7');
    expect((form.getByLabelText('track to export') as HTMLSelectElement).value).toBe('');
  });

  test('what cannot be written says why, and saves nothing', async () => {
    exported = () => refused(422, 'cannot-be-written', 'Track V2 holds no events.');
    const form = await open();
    await userEvent.click(form.getByRole('button', { name: 'Export relinked' }));
    expect((await form.findByRole('alert')).textContent).toContain('Track V2 holds no events.');
    expect(saved).toEqual([]);
  });
});

describe('what changed since the version before', () => {
  const event = (name: string, start: number, track = 'V1') => ({
    number: 1,
    name,
    track,
    trackKind: 'picture' as const,
    record: { start, end: start + 50 },
  });
  const kept = Array.from({ length: 40 }, (_, i) => ({ ...event(`k${i}`, i * 50), clipId: null, isDark: false }));
  const change = (kind: string, name: string, more: object = {}) =>
    ({ kind, event: event(name, 90_000), before: event(name, 90_000), byFrames: null, headFrames: null, tailFrames: null, clipId: uuid(3), isDark: false, ...more }) as Comparison['timelines'][number]['changes'][number]; // prettier-ignore
  const of = (changes: Comparison['timelines'][number]['changes'], more: object = {}): Comparison => ({
    former: { name: 'cut 6.edl', broughtInAt: '2026-11-19T10:00:00.000Z', replacedAt: '2026-11-20T10:00:00.000Z' },
    timelines: [{ key: 't1', name: 'Cut', rate, counting: 'non-drop', only: null, kept, changes, ...more }],
  });
  const shown = async () => {
    const { router } = showPage('/projects/:projectId/intake', <ChangesList document={documentOf(50, 'cut 7.edl')} />);
    return { region: await screen.findByRole('region', { name: 'what changed' }), router };
  };

  test('what moved together is one line, with what of it is dark; what moved otherwise stands alone', async () => {
    const pushed = ['a', 'b', 'c'].map((name, i) => change('moved', name, { byFrames: 25, isDark: i === 0 }));
    const toTrack = ['d', 'e', 'f'].map((name) =>
      change('moved', name, { byFrames: 0, before: event(name, 90_000, 'V2') }),
    );
    comparison = of([...pushed, ...toTrack, change('added', 'g', { before: null, isDark: true })]);
    const { region } = await shown();
    const lines = within(region)
      .getAllByRole('listitem')
      .map((li) => li.textContent);
    expect(lines).toHaveLength(5);
    expect(lines[0]).toBe('3 events moved by +00:00:01:00, otherwise the same · 1 of them dark');
    expect(lines[1]).toContain('d moved from V2');
    expect(lines[4]).toContain('g added');
    expect(region.textContent).toContain('2 changed events dark.');
    expect(region.textContent).toContain('40 events unchanged');
  });

  test('a dark event leads to its clip in the ledger', async () => {
    comparison = of([change('re-sourced', 'door', { before: event('bowl', 90_000), isDark: true })]);
    const { router } = await shown();
    await userEvent.click(screen.getByRole('button', { name: 'dark' }));
    expect(router.state.location.pathname).toBe(`/projects/${uuid(1)}/ledger`);
  });

  test('nothing dark, and timelines that only one version has, are said', async () => {
    comparison = {
      ...of([]),
      timelines: [of([], { only: 'newer' }).timelines[0]!, of([], { only: 'older' }).timelines[0]!],
    };
    const { region } = await shown();
    expect(region.textContent).toContain('Nothing that changed is dark.');
    expect(region.textContent).toContain('only in the newer version');
    expect(region.textContent).toContain('not in the newer version any more');
  });
});

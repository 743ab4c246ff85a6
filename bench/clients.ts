import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as after } from 'node:timers/promises';
import { makeEdit, makeFiles } from './production.ts';
import { ms, say } from './measure.ts';
import { startLegame, talkTo } from './running.ts';

const clients = 50;
const clips = 2000;
const coming = 3000;
/** How long somebody looks at what came before the next is asked for. */
const looksMs = 500;

type Known = { readonly epoch: number; readonly version: number; readonly turned: number };
/** What a client has of a page: by which tag, and up to where. */
type Seen = { readonly tag?: string; readonly known?: Known };
/** Who has these asks for what changed since. */
const tellingChanges = ['/clips/since', '/timecode'];

/** Fifty people who read a project, with nothing else going on, and while a drive of three thousand files is indexed. */
export async function benchClients(): Promise<void> {
  const root = mkdtempSync(join(tmpdir(), 'legame-clients-'));
  for (const [name, count] of [
    ['ours', clips],
    ['theirs', coming],
  ] as const) {
    mkdirSync(join(root, name));
    makeFiles(join(root, name), count);
  }
  const legame = await startLegame(root);
  try {
    const { ask, get, post, quiet } = talkTo(legame);
    await post('/places', { path: join(root, 'ours', 'KILN'), name: 'KILN' });
    const { id } = await post<{ id: string }>('/projects', { name: 'Rolls' });
    await ask(`/projects/${id}/documents?name=rolls.otio`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body: makeEdit(clips, '/Volumes/KILN'),
    });
    await quiet();
    await post(`/projects/${id}/links/certain`, {});
    await quiet();
    const atFirst = await get<Known>(`/projects/${id}/clips/block?limit=400`);
    const pages = [
      '',
      '/clips/block?limit=400',
      '/causes',
      '/cut',
      '/darkness',
      '/history',
      '/bins',
      ...tellingChanges,
    ];
    say(`\n## ${clients} clients who read a project of ${clips} clips`);
    say('| meanwhile | answers | half within, ms | 19 of 20 within | all within |');
    say('| --- | --- | --- | --- | --- |');
    // As the page asks: of what it has already for what changed, by a version or by the tag of the answer; without the
    // last header a client asks for all of it again.
    const look = async (page: string, seen: Map<string, Seen>) => {
      const { tag, known } = seen.get(page) ?? (page === '/clips/since' ? { known: atFirst } : {});
      const again: Record<string, string> = tag ? { 'if-none-match': tag, 'cache-control': 'max-age=0' } : {};
      const since = known ? `?epoch=${known.epoch}&version=${known.version}&turned=${known.turned}` : '';
      const address = `${legame.url}/api/projects/${id}${page}${since}`;
      const answer = await fetch(address, { headers: { authorization: `Bearer ${legame.token}`, ...again } });
      const body = await answer.text();
      if (answer.status === 304) return;
      if (!answer.ok) throw new Error(`${page}: ${answer.status}`);
      const tells = tellingChanges.includes(page);
      seen.set(page, tells ? { known: JSON.parse(body) as Known } : { tag: answer.headers.get('etag') ?? '' });
    };
    const read = async (meanwhile: string, until: Promise<unknown>) => {
      const times: number[] = [];
      let isOver = false;
      void until.finally(() => (isOver = true));
      const client = async (n: number) => {
        await after((looksMs * n) / clients);
        const seen = new Map<string, Seen>();
        for (let turn = n; !isOver; turn += 1) {
          const begun = performance.now();
          await look(pages[turn % pages.length]!, seen);
          times.push(performance.now() - begun);
          await after(looksMs);
        }
      };
      await Promise.all(Array.from({ length: clients }, (_, n) => client(n)));
      times.sort((a, b) => a - b);
      const at = (share: number) => ms(times[Math.min(times.length - 1, Math.floor(times.length * share))]!);
      say(`| ${meanwhile} | ${times.length} | ${at(0.5)} | ${at(0.95)} | ${at(1)} |`);
    };
    await read('nothing', after(10_000));
    await post('/places', { path: join(root, 'theirs', 'KILN'), name: 'SHARE' });
    const begun = performance.now();
    await read(`${coming} files are indexed`, quiet());
    say(`\nThey were indexed within ${ms(performance.now() - begun)} ms.`);
  } finally {
    await legame.stop();
    rmSync(root, { recursive: true, force: true });
  }
}

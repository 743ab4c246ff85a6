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
    const { version, turned } = await get<{ version: number; turned: number }>(`/projects/${id}/clips/block?limit=400`);
    const pages = [
      ...['', '/clips/block?limit=400', `/clips/since?version=${version}&turned=${turned}`, '/causes', '/cut'],
      ...['/darkness', '/history', '/bins', '/timecode'],
    ].map((page) => `/projects/${id}${page}`);
    say(`\n## ${clients} clients who read a project of ${clips} clips`);
    say('| meanwhile | answers | half within, ms | 19 of 20 within | all within |');
    say('| --- | --- | --- | --- | --- |');
    // As a browser asks for what it has already; without the last header a client asks for all of it again.
    const look = async (page: string, seen: Map<string, string>) => {
      const known = seen.get(page);
      const again: Record<string, string> = known ? { 'if-none-match': known, 'cache-control': 'max-age=0' } : {};
      const headers = { authorization: `Bearer ${legame.token}`, ...again };
      const answer = await fetch(`${legame.url}/api${page}`, { headers });
      await answer.arrayBuffer();
      if (!answer.ok && answer.status !== 304) throw new Error(`${page}: ${answer.status}`);
      seen.set(page, answer.headers.get('etag') ?? '');
    };
    const read = async (meanwhile: string, until: Promise<unknown>) => {
      const times: number[] = [];
      let isOver = false;
      void until.finally(() => (isOver = true));
      const client = async (n: number) => {
        await after((looksMs * n) / clients);
        const seen = new Map<string, string>();
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

import { cpSync, mkdirSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { makeMedia } from '../demo/media.ts';
import { demoMedia } from '../demo/spec.ts';
import { askDecoder } from '../server/src/media/decoder.ts';
import { useFence } from '../server/src/disk/held.ts';
import { readMediaFile } from '../server/src/media/read.ts';
import { ReaderProcess } from '../server/src/media/readerProcess.ts';
import { measure, ms, say } from './measure.ts';

const copiesOfEach = 6;

/** Facts of files of every kind the demo has, as the worker reads them, against one prober after another. */
export async function benchFacts(): Promise<void> {
  const work = mkdtempSync(join(tmpdir(), 'legame-bench-facts-'));
  useFence([work]);
  const reader = new ReaderProcess();
  try {
    const kinds = new Map(
      demoMedia
        .filter((m) => m.kind !== 'sequence')
        .map((m) => [`${m.kind} ${'codec' in m ? m.codec : ''} ${m.path.split('.').at(-1)}`, m]),
    );
    await makeMedia(join(work, 'made'), [...kinds.values()], () => undefined);
    const folder = join(work, 'files');
    mkdirSync(folder);
    for (const { path } of kinds.values())
      for (let n = 0; n < copiesOfEach; n += 1)
        cpSync(join(work, 'made', path), join(folder, `${n} ${basename(path)}`), { preserveTimestamps: true });
    const names = readdirSync(folder);
    const ours = await measure(async () => {
      for (const name of names) {
        const reading = await readMediaFile(reader, { path: folder }, { folder: '', name, sequence: null });
        if (reading === 'aborted' || !reading.facts) throw new Error(`${name} was not read`);
      }
    });
    const probes = await measure(
      async () => {
        for (const name of names) await askDecoder({ path: folder }, name);
      },
      undefined,
      2,
    );
    say(`\n## Facts of ${names.length} files of the demo's ${kinds.size} kinds`);
    say('| what | ms a file | least–most | ratio |');
    say('|---|---|---|---|');
    const each = (time: number) => ms(time / names.length);
    say(`| header reader, fingerprint included | ${each(ours.median)} | ${each(ours.least)}–${each(ours.most)} | 1 |`);
    say(
      `| one prober after another | ${each(probes.median)} | ${each(probes.least)}–${each(probes.most)} | ${(probes.median / ours.median).toFixed(0)} × as long |`,
    );
  } finally {
    reader.stop();
    rmSync(work, { recursive: true, force: true });
  }
}

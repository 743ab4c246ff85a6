import { execFileSync } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureDatabase, startCluster } from '../server/src/launch/cluster.ts';
import { migrate, openDatabase } from '../server/src/db/database.ts';
import { fromList } from '../server/src/media/readerTalk.ts';
import { ReaderProcess } from '../server/src/media/readerProcess.ts';
import { useFence } from '../server/src/disk/held.ts';
import { placeStore } from '../server/src/stores/places.ts';
import { beginWalk } from '../server/src/stores/walks.ts';
import { measure, ms, say } from './measure.ts';

const files = 100_000;
const perFolder = 250;

/** Walking and storing 100,000 small files against `find -printf` piped into `psql \copy`: same tree, same table shape. */
export async function benchWalking(): Promise<void> {
  const work = join(tmpdir(), `legame-bench-${process.pid}`);
  const tree = join(work, 'tree');
  for (let folder = 0; folder < files / perFolder; folder += 1) {
    const path = join(tree, `day${folder % 10}`, `card_${folder}`);
    mkdirSync(path, { recursive: true });
    for (let i = 0; i < perFolder; i += 1) writeFileSync(join(path, `take-${folder}-${i}.mov`), 'x');
  }
  const cluster = await startCluster(join(work, 'postgres'));
  try {
    const url = await ensureDatabase(cluster, 'bench');
    const db = openDatabase(url);
    await migrate(db);
    const place = await placeStore.insertPlace(db, { name: 'tree', path: tree, knownAs: [], fileSystemId: null });
    // As the worker does it: listed by a process of its own, stored while it goes on.
    useFence([tree]);
    const reader = new ReaderProcess();
    const walkOnce = async () => {
      const walk = await beginWalk(db, place.id);
      const listed = await reader.ask(
        { do: 'list', root: tree, folder: '', excluded: [] },
        { patienceMs: 30_000, onPart: (part) => part.part === 'files' && walk.add(part.files.map(fromList)) },
      );
      if (listed.part !== 'listed') throw new Error(`the walk ended with ${listed.part}`);
      const changes = await walk.finish([]);
      if (changes === 'overtaken') throw new Error('somebody renames files here');
      return changes;
    };
    await db.raw('create table plain (like media_files including all)');
    // The table of files refers to its place; so does the one it is held against.
    await db.raw('alter table plain add foreign key (place_id) references places');
    const ours = await measure(
      async () => {
        const changes = await walkOnce();
        if (changes.added !== files) throw new Error(`stored ${changes.added}`);
      },
      () => db.raw('truncate media_files cascade'),
    );
    const copy = `\\copy plain (place_id, folder, name, size_in_bytes, modified_ms) from pstdin`;
    const pipe = `find . -type f -printf '${place.id}\\t%h\\t%f\\t%s\\t%T@\\n' | psql -q '${url}' -c "${copy}"`;
    const plain = await measure(
      () => {
        execFileSync('bash', ['-c', pipe], { cwd: tree });
      },
      () => db.raw('truncate plain'),
    );
    const { rows } = (await db.raw('select count(*)::int as n from plain')) as { rows: { n: number }[] };
    if (rows[0]!.n !== files) throw new Error(`piped ${rows[0]!.n}`);
    await walkOnce();
    const again = await measure(async () => {
      const changes = await walkOnce();
      if (changes.same !== files) throw new Error('something changed');
    });
    const find = await measure(() =>
      execFileSync('find', ['.', '-type', 'f', '-printf', '%h\\t%f\\t%s\\t%T@\\n'], { cwd: tree, maxBuffer: 1e9 }),
    );
    say(`\n## Walking and storing ${files} small files`);
    say('| what | median ms | least–most | ratio |');
    say('|---|---|---|---|');
    say(
      `| walk + store | ${ms(ours.median)} | ${ms(ours.least)}–${ms(ours.most)} | ${(ours.median / plain.median).toFixed(2)} × the pipe |`,
    );
    say(
      `| find -printf piped into psql \\copy, same table with its indexes | ${ms(plain.median)} | ${ms(plain.least)}–${ms(plain.most)} | 1 |`,
    );
    say(
      `| walk again, nothing changed | ${ms(again.median)} | ${ms(again.least)}–${ms(again.most)} | ${(again.median / find.median).toFixed(2)} × find alone |`,
    );
    say(`| find -printf alone | ${ms(find.median)} | ${ms(find.least)}–${ms(find.most)} | |`);
    reader.stop();
    await db.destroy();
  } finally {
    await cluster.stop();
    rmSync(work, { recursive: true, force: true });
  }
}

import { execFileSync } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureDatabase, startCluster } from '../server/src/launch/cluster.ts';
import { migrate, openDatabase } from '../server/src/db/database.ts';
import { walkPlace } from '../server/src/places/walk.ts';
import { mediaFileStore } from '../server/src/stores/mediaFiles.ts';
import { placeStore } from '../server/src/stores/places.ts';
import { measure, ms, say } from './measure.ts';

const files = 50_000;
const perFolder = 250;

/** Walking and storing 50,000 small files against `find -printf` piped into `psql \copy`: same tree, same table shape. */
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
    const place = await placeStore.insertPlace(db, { name: 'tree', path: tree, knownAs: [] });
    await db.raw('create table plain (like media_files including all)');
    const ours = await measure(async () => {
      await db.raw('truncate media_files cascade');
      const walk = await walkPlace(tree);
      const changes = await mediaFileStore.applyWalk(db, place.id, walk.files);
      if (changes.added !== files) throw new Error(`stored ${changes.added}`);
    });
    const copy = `\\copy plain (place_id, folder, name, size_in_bytes, modified_ms) from pstdin`;
    const pipe = `find . -type f -printf '${place.id}\\t%h\\t%f\\t%s\\t%T@\\n' | psql -q '${url}' -c "${copy}"`;
    const plain = await measure(async () => {
      await db.raw('truncate plain');
      execFileSync('bash', ['-c', pipe], { cwd: tree });
      const { rows } = (await db.raw('select count(*)::int as n from plain')) as { rows: { n: number }[] };
      if (rows[0]!.n !== files) throw new Error(`piped ${rows[0]!.n}`);
    });
    const again = await measure(async () => {
      const walk = await walkPlace(tree);
      const changes = await mediaFileStore.applyWalk(db, place.id, walk.files);
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
    await db.destroy();
  } finally {
    await cluster.stop();
    rmSync(work, { recursive: true, force: true });
  }
}

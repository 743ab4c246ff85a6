import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startCluster } from '../server/src/launch/cluster.ts';
import type { Fuzzed } from '../server/src/testing/fuzz/chance.ts';
import { fuzzDocuments } from '../server/src/testing/fuzz/documents.ts';
import { fuzzHeaders } from '../server/src/testing/fuzz/headers.ts';
import { fuzzRequests } from '../server/src/testing/fuzz/requests.ts';
import { openHouse } from '../server/src/testing/house.ts';
import { kilnIn } from '../server/src/testing/kiln.ts';
import { group } from '@legame/words/numbers';
import { say } from './measure.ts';

/** `npm run fuzz -- 60 7`: so many seconds of each, beginning with that seed. */
export async function benchFuzz(
  seconds = Number(process.argv[3] ?? 60),
  seed = Number(process.argv[4] ?? Date.now() % 1_000_000_000),
): Promise<void> {
  const work = mkdtempSync(join(tmpdir(), 'legame-fuzz-'));
  const cluster = await startCluster(join(work, 'postgres'));
  process.env.LEGAME_TEST_CLUSTER = cluster.adminUrlOf('postgres');
  const house = await openHouse();
  const tell = (what: string, { tried, findings, slowestMs }: Fuzzed) => {
    say(`${what}: ${group(tried)} tried, ${findings.length} findings, the slowest took ${Math.round(slowestMs)} ms`);
    for (const finding of findings) say(`  ✗ ${finding}`);
    if (findings.length > 0) process.exitCode = 1;
  };
  try {
    await kilnIn(house);
    say(`seed ${seed}`);
    tell('documents', fuzzDocuments(seconds, seed));
    tell('headers', fuzzHeaders(seconds, seed));
    tell('requests', await fuzzRequests(house, seconds, seed));
  } finally {
    await house.close();
    await cluster.stop();
    rmSync(work, { recursive: true, force: true });
  }
}

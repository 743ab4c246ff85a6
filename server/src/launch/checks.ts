import { spawn } from 'node:child_process';
import { mkdir, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { bundleServer } from './bundle.ts';
import { startCluster } from './cluster.ts';

/**
 * Runs every check in order with a database server of the tests' own: formatting and lint, types, unit and server
 * tests, browser tests. Names of parts (lint, types, core, server, web, e2e) as arguments run only those.
 * Ends by naming the parts that failed, and with one line that sums up all of them.
 */
const root = fileURLToPath(new URL('../../../', import.meta.url));
const data = join(root, '.legame-test');
const asked = process.argv.slice(2).filter((arg) => !arg.startsWith('-'));
const wants = (part: string) => asked.length === 0 || asked.includes(part);
let passed = 0;
let failed = 0;
/** What the last line is about, said before it: of a long run only the end is looked at. */
const broken: string[] = [];
/** What tests did after they were over, as the runner complained of it: it fails the run, and names no test. */
const late: string[] = [];

function check(
  title: string,
  program: string,
  args: readonly string[],
  env: NodeJS.ProcessEnv = process.env,
): Promise<number> {
  process.stdout.write(`\n== ${title}\n`);
  return new Promise((resolve) => {
    const child = spawn(program, args, { cwd: root, stdio: ['ignore', 'inherit', 'pipe'], env });
    child.stderr.on('data', (part: Buffer) => {
      process.stderr.write(part);
      late.push(...(part.toString().match(/.*(torn down|after tests are done)[^]{0,600}/g) ?? []));
    });
    child.on('exit', (code) => resolve(code ?? 1));
    child.on('error', () => resolve(1));
  });
}
const bin = (name: string) => join(root, 'node_modules/.bin', name);
async function note(title: string, program: string, args: readonly string[]): Promise<void> {
  if ((await check(title, bin(program), args)) === 0) return void (passed += 1);
  failed += 1;
  broken.push(title);
}
/** What a runner counted; one that ended badly though all its tests passed has failed itself. */
function noteRun(
  title: string,
  code: number,
  counts: { readonly passed: number; readonly failed: number } | null,
): void {
  passed += counts?.passed ?? 0;
  failed += counts?.failed ?? 1;
  if (counts && counts.failed > 0) broken.push(`${title}: ${counts.failed} failed`);
  else if (code !== 0 || !counts) {
    broken.push(`${title}: ended with code ${code} outside of any test. ${late.join('\n')}`);
    if (counts) failed += 1;
  }
}

await mkdir(data, { recursive: true });
const linting = async () => {
  if (!wants('lint')) return;
  await note('format', 'prettier', ['--check', '--log-level=warn', '.']);
  await note('lint', 'eslint', ['.']);
  await note('import cycles', 'depcruise', ['core/src', 'words/src', 'server/src', 'web/src']);
};
const typing = async () => {
  if (!wants('types')) return;
  for (const project of ['core', 'core/tsconfig.tests.json', 'words', 'server', 'web', 'e2e'])
    await note(`types: ${project}`, 'tsc', ['-p', project]);
};
// Each is at work on one core.
await Promise.all([linting(), typing()]);
const projects = ['core', 'words', 'server', 'web'].filter(wants);
if (projects.length > 0) {
  const cluster = projects.includes('server')
    ? await startCluster(join(data, 'postgres'), { isThrownAway: true })
    : null;
  try {
    const results = join(data, 'jest.json');
    await rm(results, { force: true });
    const bundled = join(data, 'bundled');
    if (cluster) await bundleServer(root, bundled);
    const env = {
      ...process.env,
      LEGAME_BUNDLED: bundled,
      ...(cluster ? { LEGAME_TEST_CLUSTER: cluster.adminUrlOf('postgres') } : {}),
    };
    const jest = [
      '--experimental-vm-modules',
      '--no-warnings',
      join(root, 'node_modules/jest/bin/jest.js'),
      // Half of the tests wait for processes and the database most of the time.
      '--maxWorkers=2',
      '--json',
      `--outputFile=${results}`,
      '--selectProjects',
      ...projects,
    ];
    const code = await check(`jest: ${projects.join(', ')}`, process.execPath, jest, env);
    const counts = await readJson<{
      numPassedTests: number;
      numFailedTests: number;
      numRuntimeErrorTestSuites: number;
    }>(results);
    noteRun(
      'jest',
      code,
      counts && { passed: counts.numPassedTests, failed: counts.numFailedTests + counts.numRuntimeErrorTestSuites },
    );
  } finally {
    await cluster?.stop();
  }
}
if (wants('e2e')) {
  const results = join(data, 'playwright.json');
  await rm(results, { force: true });
  const code = await check('browser', bin('playwright'), ['test', '--config', 'e2e/playwright.config.ts'], {
    ...process.env,
    PLAYWRIGHT_JSON_OUTPUT_FILE: results,
  });
  const counts = (await readJson<{ stats: { expected: number; unexpected: number; flaky: number } }>(results))?.stats;
  noteRun('browser', code, counts ? { passed: counts.expected, failed: counts.unexpected + counts.flaky } : null);
}
for (const part of broken) process.stdout.write(`\nfailed: ${part}`);
process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed === 0 ? 0 : 1);

async function readJson<T>(path: string): Promise<T | null> {
  return readFile(path, 'utf8').then(
    (text) => JSON.parse(text) as T,
    () => null,
  );
}

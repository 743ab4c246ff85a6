import { spawn } from 'node:child_process';
import { mkdir, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { bundleServer } from './bundle.ts';
import { startCluster } from './cluster.ts';

/**
 * Runs every check in order with a database server of the tests' own: formatting and lint, types, unit and server
 * tests, browser tests. Names of parts (lint, types, core, server, web, e2e) as arguments run only those.
 * Ends with one line that sums up all of them, and fails if anything failed.
 */
const root = fileURLToPath(new URL('../../../', import.meta.url));
const data = join(root, '.legame-test');
const asked = process.argv.slice(2).filter((arg) => !arg.startsWith('-'));
const wants = (part: string) => asked.length === 0 || asked.includes(part);
let passed = 0;
let failed = 0;

function check(
  title: string,
  program: string,
  args: readonly string[],
  env: NodeJS.ProcessEnv = process.env,
): Promise<number> {
  process.stdout.write(`\n== ${title}\n`);
  return new Promise((resolve) => {
    const child = spawn(program, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'], env });
    child.on('exit', (code) => resolve(code ?? 1));
    child.on('error', () => resolve(1));
  });
}
const bin = (name: string) => join(root, 'node_modules/.bin', name);
const note = (code: number) => (code === 0 ? (passed += 1) : (failed += 1));

await mkdir(data, { recursive: true });
if (wants('lint')) {
  note(await check('format', bin('prettier'), ['--check', '--log-level=warn', '.']));
  note(await check('lint', bin('eslint'), ['.']));
  note(await check('import cycles', bin('depcruise'), ['core/src', 'words/src', 'server/src', 'web/src']));
}
if (wants('types')) {
  for (const project of ['core', 'core/tsconfig.tests.json', 'words', 'server', 'web', 'e2e'])
    note(await check(`types: ${project}`, bin('tsc'), ['-p', project]));
}
const projects = ['core', 'words', 'server', 'web'].filter(wants);
if (projects.length > 0) {
  const cluster = projects.includes('server') ? await startCluster(join(data, 'postgres')) : null;
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
    passed += counts?.numPassedTests ?? 0;
    failed += counts ? counts.numFailedTests + counts.numRuntimeErrorTestSuites : 1;
    if (code !== 0 && counts?.numFailedTests === 0 && counts.numRuntimeErrorTestSuites === 0) failed += 1;
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
  passed += counts?.expected ?? 0;
  failed += counts ? counts.unexpected + counts.flaky : 1;
  if (code !== 0 && counts && counts.unexpected + counts.flaky === 0) failed += 1;
}
process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed === 0 ? 0 : 1);

async function readJson<T>(path: string): Promise<T | null> {
  return readFile(path, 'utf8').then(
    (text) => JSON.parse(text) as T,
    () => null,
  );
}

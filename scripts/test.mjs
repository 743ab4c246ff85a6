// npm test: sets up what is missing, browser included, then hands over to the runner of all checks.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { root, setup } from './setup.mjs';

setup({ tests: true });
const runner = spawn(
  process.execPath,
  ['--import', 'tsx', join(root, 'server/src/launch/checks.ts'), ...process.argv.slice(2)],
  { cwd: root, stdio: 'inherit' },
);
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => runner.kill(signal));
runner.on('exit', (code) => process.exit(code ?? 1));

// npm start: sets up what is missing, then hands over to the launcher, which needs the npm packages.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { root, setup } from './setup.mjs';

setup();
const launcher = spawn(
  process.execPath,
  ['--import', 'tsx', join(root, 'server/src/launch/start.ts'), ...process.argv.slice(2)],
  { cwd: root, stdio: 'inherit' },
);
// Ctrl-C in a terminal reaches the launcher by itself as well; being told twice does no harm.
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => launcher.kill('SIGTERM'));
launcher.on('exit', (code) => process.exit(code ?? 1));

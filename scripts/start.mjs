// npm start: sets up what is missing, then hands over to the launcher, which needs the npm packages.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { root, setup } from './setup.mjs';

setup();
const launcher = spawn(process.execPath, ['--import', 'tsx', join(root, 'server/src/launch/start.ts'), ...process.argv.slice(2)], { cwd: root, stdio: 'inherit' });
// Ctrl-C reaches the launcher by itself, for it is in the same terminal; a TERM sent to npm has to be passed on.
process.on('SIGINT', () => undefined);
process.on('SIGTERM', () => launcher.kill('SIGTERM'));
process.on('SIGHUP', () => launcher.kill('SIGTERM'));
launcher.on('exit', (code) => process.exit(code ?? 1));

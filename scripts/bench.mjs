// npm run bench: bundled as the server is, run as its worker is.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { root, setup } from './setup.mjs';

setup();
const { build } = await import('esbuild');
const outfile = join(root, 'server/dist/bench.js');
await build({
  entryPoints: [join(root, 'bench/all.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  alias: {
    '@legame/core': join(root, 'core/src/index.ts'),
    '@legame/core/contract': join(root, 'core/src/contract/index.ts'),
  },
  logLevel: 'warning',
});
process.exit(
  spawnSync(process.execPath, ['--expose-gc', '--max-semi-space-size=128', outfile, ...process.argv.slice(2)], {
    cwd: root,
    stdio: 'inherit',
  }).status ?? 1,
);

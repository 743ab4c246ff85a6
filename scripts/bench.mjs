// npm run bench: bundled as the server is, run as its worker is.
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root, setup } from './setup.mjs';

setup();
const { build } = await import('esbuild');
const external = ['server', 'core'].flatMap((workspace) => {
  const { dependencies } = JSON.parse(readFileSync(join(root, workspace, 'package.json'), 'utf8'));
  return Object.keys(dependencies).filter((name) => !name.startsWith('@legame/'));
});
const outdir = join(root, 'server/dist');
await build({
  // Processes lie beside whoever starts them.
  entryPoints: {
    bench: join(root, 'bench/all.ts'),
    reader: join(root, 'server/src/media/reader.ts'),
    looker: join(root, 'server/src/disk/looker.ts'),
    documentProcess: join(root, 'server/src/documents/documentProcess.ts'),
  },
  outdir,
  bundle: true,
  platform: 'node',
  format: 'esm',
  // Packages stay outside, our own workspaces go in.
  external: [...external, '@playwright/test', 'supertest'],
  logLevel: 'warning',
});
process.exit(
  spawnSync(
    process.execPath,
    ['--expose-gc', '--max-semi-space-size=128', join(outdir, 'bench.js'), ...process.argv.slice(2)],
    {
      cwd: root,
      stdio: 'inherit',
    },
  ).status ?? 1,
);

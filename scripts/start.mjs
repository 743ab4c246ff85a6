// npm start: sets up what is missing, builds what changed, and becomes the launcher.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root, setup } from './setup.mjs';

setup();
process.chdir(root);
const launcher = 'server/src/launch/start.ts';
if (process.argv.includes('--dev')) {
  const child = spawn(process.execPath, ['--import', 'tsx', launcher, ...process.argv.slice(2)], { stdio: 'inherit' });
  // Ctrl-C in a terminal reaches the launcher by itself as well; being told twice does no harm.
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => child.kill('SIGTERM'));
  child.on('exit', (code) => process.exit(code ?? 1));
} else {
  buildWhatChanged();
  await import('../server/dist/start.js');
}

/** Builds in a process of its own, which ends and takes its memory along; not at all where nothing changed. */
function buildWhatChanged() {
  const stamp = join(root, 'server/dist/built');
  const sources = fingerprint();
  const isBuilt = ['server/dist/start.js', 'web/dist/index.html', stamp].every((path) => existsSync(path));
  if (isBuilt && readFileSync(stamp, 'utf8') === sources) return;
  console.log('Building…');
  rmSync(stamp, { force: true });
  const built = spawnSync(process.execPath, ['--import', 'tsx', 'server/src/launch/build.ts'], { stdio: 'inherit' });
  if (built.status !== 0) {
    console.error('Building failed; see above. If sources were changed by hand, undo that and start again.');
    process.exit(1);
  }
  writeFileSync(stamp, sources);
}

/** Another text whenever a source, a package or Node itself is another. */
function fingerprint() {
  const hash = createHash('sha256').update(process.version);
  const visit = (path) => {
    const { size, mtimeMs } = statSync(path);
    hash.update(`${path} ${size} ${mtimeMs}\n`);
  };
  for (const path of ['package-lock.json', 'web/index.html', 'web/vite.config.ts']) visit(path);
  for (const folder of ['core/src', 'server/src', 'web/src', 'web/public'])
    for (const entry of readdirSync(folder, { withFileTypes: true, recursive: true }))
      if (entry.isFile()) visit(join(entry.parentPath ?? entry.path, entry.name));
  return hash.digest('hex');
}

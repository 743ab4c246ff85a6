import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { build } from 'esbuild';

/** Bundles the two server processes; packages stay outside, our own workspaces go in. */
export async function buildServer(root: string): Promise<void> {
  const manifests = await Promise.all(['server', 'core'].map((w) => readFile(join(root, w, 'package.json'), 'utf8')));
  const packages = manifests.flatMap((text) =>
    Object.keys((JSON.parse(text) as { dependencies: Record<string, string> }).dependencies),
  );
  await build({
    entryPoints: {
      main: join(root, 'server/src/main.ts'),
      worker: join(root, 'server/src/worker.ts'),
      reader: join(root, 'server/src/reading/reader.ts'),
    },
    outdir: join(root, 'server/dist'),
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    sourcemap: true,
    logLevel: 'warning',
    external: packages.filter((name) => !name.startsWith('@legame/')),
  });
}

/** Builds the web client into web/dist. */
export async function buildWeb(root: string): Promise<void> {
  const { build: buildClient } = await import('vite');
  await buildClient({ root: join(root, 'web'), logLevel: 'warn' });
}

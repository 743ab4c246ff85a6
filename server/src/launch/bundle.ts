import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { build } from 'esbuild';

/** Bundles the launcher and the server's processes; packages stay outside, our own workspaces go in. */
export async function bundleServer(root: string, outdir: string): Promise<void> {
  const manifests = await Promise.all(['server', 'core'].map((w) => readFile(join(root, w, 'package.json'), 'utf8')));
  const packages = manifests.flatMap((text) =>
    Object.keys((JSON.parse(text) as { dependencies: Record<string, string> }).dependencies),
  );
  await build({
    entryPoints: {
      start: join(root, 'server/src/launch/start.ts'),
      main: join(root, 'server/src/main.ts'),
      worker: join(root, 'server/src/worker.ts'),
      reader: join(root, 'server/src/media/reader.ts'),
      documentProcess: join(root, 'server/src/documents/documentProcess.ts'),
      looker: join(root, 'server/src/disk/looker.ts'),
    },
    outdir,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    sourcemap: true,
    logLevel: 'warning',
    external: packages.filter((name) => !name.startsWith('@legame/')),
  });
}

import { join } from 'node:path';
import { bundleServer } from './bundle.ts';

/** Run by itself, as a process that ends: scripts/start.mjs says when. */
const root = process.cwd();
await Promise.all([bundleServer(root, join(root, 'server/dist')), buildWeb()]);

/** Builds the web client into web/dist. */
async function buildWeb(): Promise<void> {
  const { build: buildClient } = await import('vite');
  await buildClient({ root: join(root, 'web'), logLevel: 'warn' });
}

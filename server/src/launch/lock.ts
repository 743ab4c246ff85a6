import { createHash } from 'node:crypto';
import { realpath } from 'node:fs/promises';
import { createServer, type Server } from 'node:net';
import { setTimeout as after } from 'node:timers/promises';

/**
 * Holds a data folder for this process: a socket of a name made of the folder's path, in the system's own name space.
 * The system gives a name to one process only and takes it back the moment that process ends, however it ends; one that
 * merely stands still keeps it. Null when another still has it after `patienceMs`.
 */
export async function holdDataFolder(folder: string, patienceMs: number): Promise<Server | null> {
  const name = `\0legame-${createHash('sha256')
    .update(await realpath(folder))
    .digest('hex')
    .slice(0, 40)}`;
  const until = performance.now() + patienceMs;
  for (;;) {
    const held = await listenOn(name);
    if (held) return held;
    if (performance.now() > until) return null;
    await after(250);
  }
}

function listenOn(name: string): Promise<Server | null> {
  return new Promise((resolve, reject) => {
    const server = createServer((socket) => socket.destroy());
    server.once('error', (error: NodeJS.ErrnoException) =>
      error.code === 'EADDRINUSE' ? resolve(null) : reject(error),
    );
    server.listen(name, () => {
      server.unref();
      resolve(server);
    });
  });
}

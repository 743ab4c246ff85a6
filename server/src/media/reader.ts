import { createInterface } from 'node:readline';
import { readHeader } from '@legame/core/headers';
import { endure, useBay } from '../disk/conditions.ts';
import { fenceFrom, useFence } from '../disk/held.ts';
import { walkPlace } from '../disk/walk.ts';
import { UserProblem } from '../problems.ts';
import { contentOf } from './content.ts';
import { copyAside } from './copying.ts';
import { fingerprintOf, hashOf, withFile } from './openFile.ts';
import { requestSchema, type Part, type Request } from './readerTalk.ts';

/**
 * A process of its own that lists, opens and copies files of places, so that a share that stalls, or a file made to hang a
 * reader, holds up nobody else: whoever asked loses patience and ends this process. One line in, lines out.
 */
useBay(process.env.LEGAME_BAY ?? null);
useFence(fenceFrom(process.env.LEGAME_FENCE));

const send = (id: number, part: Part) => void process.stdout.write(`${JSON.stringify({ id, ...part })}\n`);

for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity })) {
  const request = requestSchema.parse(JSON.parse(line));
  try {
    await answer(request);
  } catch (error) {
    const code = (error as { code?: unknown } | null)?.code;
    send(request.id, {
      part: 'failed',
      code: typeof code === 'string' ? code : null,
      detail: (error instanceof Error ? error.message : String(error)).replaceAll(/\/proc\/self\/fd\/\d+\//g, ''),
      problem: error instanceof UserProblem ? error.problem : null,
    });
  }
}

async function answer(request: Request): Promise<void> {
  switch (request.do) {
    case 'list': {
      const skipped = await walkPlace(
        { path: request.root, is: request.is },
        {
          from: request.folder,
          excluded: request.excluded,
          onFiles: (files, folder) =>
            send(request.id, {
              part: 'files',
              folder,
              files: files.map((f) => [f.folder, f.name, f.sizeInBytes, f.modifiedMs, f.sequence, f.inode]),
            }),
        },
      );
      return send(request.id, { part: 'listed', skipped });
    }
    case 'measure':
      return withFile(request, (file) => {
        endure(file.path);
        const header = readHeader(file.source);
        const content = header.kind === 'facts' ? null : contentOf(file.source);
        const fingerprint = fingerprintOf(file.source);
        const now = file.look();
        const changed = now.sizeInBytes !== file.source.size || now.modifiedMs !== file.modifiedMs;
        send(request.id, { part: 'measured', header, content, fingerprint, changed, modifiedMs: now.modifiedMs });
      });
    case 'hash':
      return withFile(request, (file) => {
        endure(file.path);
        const hash = hashOf(file.source, (bytes) => send(request.id, { part: 'hashing', bytes }));
        send(request.id, { part: 'hashed', xxh64: hash });
      });
    case 'copy': {
      const onBytes = (bytes: number) => send(request.id, { part: 'copying', bytes });
      // Whoever asked ends this process when it is to stop.
      const signal = new AbortController().signal;
      const folder = { path: request.folder.path, is: request.folder.is };
      return send(request.id, {
        part: 'copied',
        xxh64: await copyAside({ ...request, folder }, { signal, onBytes }),
      });
    }
  }
}

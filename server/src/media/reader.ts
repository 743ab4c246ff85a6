import { createInterface } from 'node:readline';
import { readHeader } from '@legame/core/headers';
import { endure, useBay } from '../disk/conditions.ts';
import { walkPlace } from '../disk/walk.ts';
import { contentOf } from './content.ts';
import { fingerprintOf, hashOf, withFile } from './openFile.ts';
import { requestSchema, type Part, type Request } from './readerTalk.ts';

/**
 * A process of its own that lists and opens files of places, so that a share that stalls, or a file made to hang a
 * reader, holds up nobody else: whoever asked loses patience and ends this process. One line in, lines out.
 */
useBay(process.env.LEGAME_BAY ?? null);

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
      detail: error instanceof Error ? error.message : String(error),
    });
  }
}

async function answer(request: Request): Promise<void> {
  switch (request.do) {
    case 'list': {
      const skipped = await walkPlace(request.root, {
        from: request.folder,
        excluded: request.excluded,
        onFiles: (files, folder) =>
          send(request.id, {
            part: 'files',
            folder,
            files: files.map((f) => [f.folder, f.name, f.sizeInBytes, f.modifiedMs, f.sequence, f.inode]),
          }),
      });
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
  }
}

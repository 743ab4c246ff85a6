import { createInterface } from 'node:readline';
import { readHeader } from '@legame/core/headers';
import type { HashedFile } from '@legame/core/mhl';
import { endure, useBay } from '../disk/conditions.ts';
import { fenceFrom, useFence, withFileOf } from '../disk/held.ts';
import { walkPlace } from '../disk/walk.ts';
import { UserProblem } from '../problems.ts';
import { contentOf } from './content.ts';
import { copyAside, type CopyOptions } from './copying.ts';
import { cuttingOf } from './cutting.ts';
import { endTogether } from './fenced.ts';
import { hashesOf } from './hashing.ts';
import { readHashList } from './hashLists.ts';
import { fingerprintOf, withFile } from './openFile.ts';
import { requestSchema, type Part, type Request } from './readerTalk.ts';
import { trimAside } from './trimming.ts';

/**
 * A process of its own that lists, opens and copies files of places, so that a share that stalls, or a file made to hang a
 * reader, holds up nobody else: whoever asked loses patience and ends this process. One line in, lines out.
 */
useBay(process.env.LEGAME_BAY ?? null);
useFence(fenceFrom(process.env.LEGAME_FENCE));
// Whoever loses patience ends this process with whatever it runs.
endTogether();

/** Whoever asked ends this process when it is to stop. */
const untilEnded = new AbortController().signal;

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

function copyOptions({ id, also }: { readonly id: number } & Pick<CopyOptions, 'also'>): CopyOptions {
  return {
    signal: untilEnded,
    onBytes: (bytes) => send(id, { part: 'copying', bytes }),
    also,
  };
}

async function answer(request: Request): Promise<void> {
  switch (request.do) {
    case 'list': {
      const skipped = await walkPlace(
        { path: request.root, is: request.is },
        {
          from: request.folder,
          excluded: request.excluded,
          everything: request.everything,
          onFiles: (files, folder) =>
            send(request.id, {
              part: 'files',
              folder,
              files: files.map((f) => [
                f.folder,
                f.name,
                f.sizeInBytes,
                f.modifiedMs,
                f.sequence,
                f.inode,
                f.touchedMs,
              ]),
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
    case 'hash': {
      const { root, is, path, by } = request;
      endure(root);
      const hashes = await withFileOf({ path: root, is }, path, async (file) => {
        const { size } = await file.stat();
        let read = 0;
        const onPiece = (bytes: number) => {
          read = bytes;
          send(request.id, { part: 'hashing', bytes });
        };
        const found = await hashesOf(file, by, { signal: untilEnded, isProof: true, onPiece });
        if (read < size) throw new Error('the file became shorter while it was being read');
        return found;
      });
      return send(request.id, { part: 'hashed', hashes });
    }
    case 'read-hash-list': {
      const { root, is, path } = request;
      const onFiles = (files: readonly HashedFile[]) => send(request.id, { part: 'hashes', files });
      const found = await withFileOf({ path: root, is }, path, (file) => readHashList(file, onFiles));
      return send(request.id, { part: 'list-read', ...found });
    }
    case 'copy':
      return send(request.id, { part: 'copied', ...(await copyAside(request, copyOptions(request))) });
    case 'trim':
      return send(request.id, { part: 'copied', ...(await trimAside(request, copyOptions(request))) });
    case 'look-for-cuts': {
      const { root, is, path, facts } = request;
      const extension = path.split('.').at(-1) ?? '';
      const found = await withFileOf({ path: root, is }, path, (file) => cuttingOf(file, { facts, extension }));
      return send(request.id, { part: 'cuts', ...found });
    }
  }
}
